import { filingOf, lookUpSeenBy, noteAnswered } from './filing-of.ts';

const asked = (path: string, body: object): Request =>
  new Request(`http://127.0.0.1${path}`, { method: 'POST', body: JSON.stringify(body) });

describe('a request as a filing (12.2)', () => {
  it('is one with a key and a person; what only asks is none', async () => {
    expect(
      await filingOf(asked('/api/log/line', { key: 'k-1', by: 'venn', line: 'B-1 start' })),
    ).toMatchObject({
      ...{ key: 'k-1', by: 'venn', path: '/api/log/line', words: 'B-1 start' },
    });
    expect(await filingOf(asked('/api/log/line/preview', { by: 'venn', line: 'B-1 start' }))).toBeNull();
    expect(await filingOf(new Request('http://127.0.0.1/api/board'))).toBeNull();
  });

  it('says what its person saw: the board, and what was answered since', async () => {
    lookUpSeenBy((code) => (code === 'B-192' ? 38 : undefined));
    const undo = async (): Promise<object | undefined> =>
      (await filingOf(asked('/api/log/line', { key: 'k-2', by: 'venn', line: 'b192 undo' })))?.seen;
    expect(await undo()).toEqual({ 'B-192': 38 });
    // The answer of one's own filing is there before the board shows it.
    noteAnswered({
      sentence: 'x',
      entries: [
        { batch: 'B-192', seq: 39 },
        { batch: 'N-116', seq: 43 },
      ],
    });
    expect(await undo()).toEqual({ 'B-192': 39 });
    noteAnswered({ refused: 'no' });
    noteAnswered(null);
    expect(await undo()).toEqual({ 'B-192': 39 });
  });
});
