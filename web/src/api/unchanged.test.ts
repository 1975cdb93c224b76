import { unlessUnchanged } from './unchanged.ts';

/** A server that answers `said` under an ETag of its own, and counts what it sent in full. */
function serverThatSays(said: { now: string }) {
  const sent: string[] = [];
  const ask = (request: Request): Promise<Response> => {
    const etag = `"${said.now}"`;
    if (request.headers.get('if-none-match') === etag)
      return Promise.resolve(new Response(null, { status: 304 }));
    sent.push(said.now);
    return Promise.resolve(new Response(said.now, { headers: { etag } }));
  };
  return { sent, ask };
}
const asked = (path: string): Request => new Request(`http://127.0.0.1${path}`);

it('gives again what was answered before when nothing changed, and what is new when it did', async () => {
  const said = { now: 'one rack' };
  const { sent, ask } = serverThatSays(said);
  const text = async (): Promise<string> => (await unlessUnchanged(asked('/a'), ask)).text();
  expect([await text(), await text(), await text()]).toEqual(['one rack', 'one rack', 'one rack']);
  said.now = 'two racks';
  expect([await text(), await text()]).toEqual(['two racks', 'two racks']);
  expect(sent).toEqual(['one rack', 'two racks']);
});

it('remembers no answer that went wrong, and none of long ago', async () => {
  const wrong = () => Promise.resolve(new Response('', { status: 503, headers: { etag: '"x"' } }));
  expect((await unlessUnchanged(asked('/b'), wrong)).status).toBe(503);
  const named: (string | null)[] = [];
  const ask = (request: Request) => {
    named.push(request.headers.get('if-none-match'));
    return Promise.resolve(new Response('', { headers: { etag: '"y"' } }));
  };
  await unlessUnchanged(asked('/b'), ask);
  for (let i = 0; i < 20; i += 1) await unlessUnchanged(asked(`/other/${i}`), ask);
  await unlessUnchanged(asked('/b'), ask);
  expect(named.filter((etag) => etag !== null)).toEqual([]);
});
