import { flushOutbox, readOutbox, writeOutbox, type PendingLine, type Sent } from './outbox.ts';

function store() {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  };
}
const pending = (n: number): PendingLine => ({ key: `key-${n}`, by: 'venn', line: `B-${n} start` });

describe('the outbox', () => {
  it('keeps lines while the server is away and sends them in order when it is back', async () => {
    const storage = store();
    writeOutbox(storage, [pending(1), pending(2)]);
    const away = await flushOutbox(storage, () => Promise.resolve<Sent>({ away: true }));
    expect(away.left).toBe(2);
    const sent: string[] = [];
    const back = await flushOutbox(storage, ({ key, line }) => {
      sent.push(key);
      return Promise.resolve<Sent>({ filed: line });
    });
    expect(sent).toEqual(['key-1', 'key-2']);
    expect(back).toEqual({ filed: ['B-1 start', 'B-2 start'], refused: [], left: 0 });
  });

  it('tells what was refused and goes on', async () => {
    const storage = store();
    writeOutbox(storage, [pending(1), pending(2)]);
    const result = await flushOutbox(storage, ({ line }) =>
      Promise.resolve<Sent>(line.startsWith('B-1') ? { refused: 'nothing waits' } : { filed: line }),
    );
    expect(result).toEqual({
      filed: ['B-2 start'],
      refused: [{ line: 'B-1 start', why: 'nothing waits' }],
      left: 0,
    });
  });

  it('starts empty when the browser keeps rubbish', () => {
    expect(readOutbox({ getItem: () => '{not json' })).toEqual([]);
  });
});
