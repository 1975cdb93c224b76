import { request as ask } from 'node:http';
import { Works } from '../testing/works.ts';

describe('who may ask (12.11)', () => {
  let works: Works;
  beforeAll(async () => {
    works = await Works.open();
  });
  afterAll(() => works.close());

  const asked = (options: {
    method?: string;
    headers: Record<string, string>;
    path?: string;
  }): Promise<{
    status: number;
    cache: string | undefined;
  }> =>
    new Promise((resolve, reject) => {
      const { method = 'GET', headers, path = '/api/setup' } = options;
      const { port } = new URL(works.address);
      const request = ask({ host: '127.0.0.1', port, path, method, headers }, (answer) => {
        answer.resume();
        resolve({ status: answer.statusCode ?? 0, cache: answer.headers['cache-control'] });
      });
      request.on('error', reject);
      request.end(method === 'POST' ? '{}' : undefined);
    });

  it('is served under its own names, and never kept by a cache', async () => {
    for (const host of ['localhost', `127.0.0.1:${new URL(works.address).port}`, '[::1]:80'])
      expect([host, await asked({ headers: { host } })]).toEqual([host, { status: 200, cache: 'no-store' }]);
  });

  it('is not served under a name somebody else gave it', async () => {
    for (const host of ['factory.example', '127.0.0.1.factory.example'])
      expect([host, (await asked({ headers: { host } })).status]).toEqual([host, 421]);
  });

  it('takes nothing from a page of elsewhere', async () => {
    const json = { 'content-type': 'application/json' };
    const host = 'localhost:8630';
    const from = (origin: string) =>
      asked({ method: 'POST', path: '/api/log/line', headers: { host, origin, ...json } });
    expect((await from('http://factory.example')).status).toBe(403);
    expect((await from('null')).status).toBe(403);
    expect((await from('http://localhost:9999')).status).toBe(403);
    // Its own page: refused for what it asks, not for where it comes from.
    expect((await from('http://localhost:8630')).status).toBe(400);
    expect((await asked({ method: 'POST', path: '/api/log/line', headers: { host, ...json } })).status).toBe(
      400,
    );
  });
});

describe('how often one may ask (12.11)', () => {
  it('is generous, and ends for one who asks without end, not for the others', async () => {
    process.env.REQUESTS_A_MINUTE = '100';
    const works = await Works.open();
    delete process.env.REQUESTS_A_MINUTE;
    const asked = (by: string): Promise<{ status: number; headers: Record<string, string> }> =>
      works.http.post('/api/log/line/preview').send({ by, line: 'B-1 start' });
    for (let i = 0; i < 100; i += 1) expect((await asked('venn')).status).toBe(422);
    const { status, headers } = await asked('venn');
    expect(status).toBe(429);
    expect(Number(headers['retry-after'])).toBeGreaterThan(0);
    expect((await asked('ostrander')).status).toBe(422);
    await works.close();
  });
});
