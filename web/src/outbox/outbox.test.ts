import 'fake-indexeddb/auto';
import { anew, givenUp } from './decide.ts';
import { Outbox, type Answer, type News } from './outbox.ts';
import { send, touchedAt } from './send.ts';
import { FilingStore, openStore, type Kept, type Touched } from './store.ts';

let browsers = 0;

/** A server that files each key once, as the real one does, and is away when it is told to be. */
class Server {
  readonly filed: string[] = [];
  readonly asked: string[] = [];
  away = false;
  /** The answer is lost on its way; what was asked is filed. */
  losesAnswers = false;
  refuses: string | null = null;

  send = (kept: Kept): Promise<Answer> => {
    if (this.away) return Promise.resolve({ kind: 'away' });
    this.asked.push(kept.words);
    if (this.refuses !== null && kept.words.includes(this.refuses))
      return Promise.resolve({ kind: 'refused', status: 409, body: {}, why: 'nothing waits there' });
    if (!this.filed.includes(kept.key)) this.filed.push(kept.key);
    return Promise.resolve(
      this.losesAnswers ? { kind: 'away' } : { kind: 'filed', status: 200, body: { sentence: kept.words } },
    );
  };
}

/** One browser: its store outlives its tabs, which take turns and hear each other. */
class Browser {
  private readonly name = `browser-${(browsers += 1)}`;
  private readonly tabs = new Set<Outbox>();
  private turn: Promise<unknown> = Promise.resolve();
  readonly later: (() => void)[] = [];

  constructor(private readonly server: Server) {}

  async open(): Promise<Outbox> {
    const store = new FilingStore(await openStore(this.name));
    const tab: Outbox = new Outbox({
      store,
      send: this.server.send,
      alone: (work) => (this.turn = this.turn.then(work)) as Promise<void>,
      tell: (news: News) => this.tabs.forEach((other) => other !== tab && void other.hear(news)),
      later: (work) => void this.later.push(work),
    });
    this.tabs.add(tab);
    return tab;
  }

  /** Its page is gone; what it waited for is not told any more. */
  close(tab: Outbox): void {
    this.tabs.delete(tab);
  }

  async pause(): Promise<void> {
    for (const work of this.later.splice(0)) work();
    await settled();
  }
}

const settled = async (): Promise<void> => {
  for (let i = 0; i < 40; i += 1) await new Promise((resolve) => setTimeout(resolve, 1));
};

const touched = (n: number, line = `B-${n} start`): Touched => ({
  ...{ key: `key-${n}`, by: 'venn', path: '/api/log/line', words: line, touchedMs: 1000 * n, offsetMs: 0 },
  body: { key: `key-${n}`, by: 'venn', line },
  seen: {},
});

describe('the outbox (12.2)', () => {
  let server: Server;
  let browser: Browser;
  beforeEach(() => {
    server = new Server();
    browser = new Browser(server);
  });

  it('keeps a filing before it is sent, and lets go of it when it is answered', async () => {
    const tab = await browser.open();
    const answer = tab.file(touched(1));
    expect(await answer).toMatchObject({ kind: 'filed', body: { sentence: 'B-1 start' } });
    expect(server.filed).toEqual(['key-1']);
    expect(await tab.all()).toEqual([]);
  });

  it('sends in the order of the touch, whatever came back first', async () => {
    server.away = true;
    const tab = await browser.open();
    for (const n of [1, 2, 3]) void tab.file(touched(n));
    await settled();
    expect((await tab.all()).map(({ key }) => key)).toEqual(['key-1', 'key-2', 'key-3']);
    server.away = false;
    void tab.file(touched(4));
    await settled();
    expect(server.filed).toEqual(['key-1', 'key-2', 'key-3', 'key-4']);
  });

  it('loses nothing by a reload, nor when the browser is killed between sending and the answer', async () => {
    server.losesAnswers = true;
    const before = await browser.open();
    void before.file(touched(1));
    void before.file(touched(2));
    await settled();
    browser.close(before);
    server.losesAnswers = false;
    const after = await browser.open();
    after.wake();
    await settled();
    expect(server.filed).toEqual(['key-1', 'key-2']);
    expect(server.asked.filter((words) => words === 'B-2 start')).toHaveLength(1);
    expect(await after.all()).toEqual([]);
  });

  it('tries again by itself, each time later, up to half a minute', async () => {
    server.away = true;
    const tab = await browser.open();
    void tab.file(touched(1));
    await settled();
    for (let i = 0; i < 5; i += 1) await browser.pause();
    expect((await tab.all())[0]?.tries).toBe(6);
    server.away = false;
    await browser.pause();
    expect(server.filed).toEqual(['key-1']);
  });

  it('of two tabs one sends, each is told of its own, and nothing is sent twice', async () => {
    const [one, other] = [await browser.open(), await browser.open()];
    const answers = await Promise.all([one.file(touched(1)), other.file(touched(2)), one.file(touched(3))]);
    await settled();
    expect(answers.map(({ kind }) => kind)).toEqual(['filed', 'filed', 'filed']);
    expect(server.asked).toHaveLength(3);
    expect(server.filed).toHaveLength(3);
  });

  it('a tab that is closed leaves its filings to the other', async () => {
    server.away = true;
    const [one, other] = [await browser.open(), await browser.open()];
    void one.file(touched(1));
    await settled();
    browser.close(one);
    server.away = false;
    other.wake();
    await settled();
    expect(server.filed).toEqual(['key-1']);
  });

  it('tells a refusal where it was asked, at once, and keeps nothing of it', async () => {
    server.refuses = 'B-1';
    const [one, other] = [await browser.open(), await browser.open()];
    expect(await one.file(touched(1))).toMatchObject({ kind: 'refused', why: 'nothing waits there' });
    await settled();
    expect(await other.all()).toEqual([]);
  });

  it('of what was kept, each refusal stays until its person decides, and the rest goes on', async () => {
    server.away = true;
    const tab = await browser.open();
    for (const n of [1, 2, 3, 4]) void tab.file(touched(n, n === 4 ? 'B-4 good' : `B-${n} bad`));
    await settled();
    server.away = false;
    server.refuses = 'bad';
    await browser.pause();
    expect(server.filed).toEqual(['key-4']);
    const kept = await tab.all();
    expect(kept.map(({ words, refused }) => [words, refused])).toEqual([
      ['B-1 bad', 'nothing waits there'],
      ['B-2 bad', 'nothing waits there'],
      ['B-3 bad', 'nothing waits there'],
    ]);
    const [first, second] = kept as [Kept, Kept];
    server.refuses = null;
    expect(anew(first, 'key-9', ' dry by the other meter ')).toMatchObject({
      ...{ key: 'key-9', touchedMs: 1000 },
      body: { key: 'key-9', line: 'B-1 bad because dry by the other meter' },
    });
    await tab.file(anew(first, 'key-9', ''));
    await tab.remove(first.order);
    await tab.file(givenUp(second, 'key-10'));
    await tab.remove(second.order);
    expect(server.filed).toEqual(['key-4', 'key-9', 'key-10']);
    expect((await tab.all()).map(({ words }) => words)).toEqual(['B-3 bad']);
  });

  it('files a key once, however often it is pressed', async () => {
    const tab = await browser.open();
    server.away = true;
    const answers = Array.from({ length: 12 }, () => tab.file(touched(1)));
    await settled();
    expect(await tab.all()).toHaveLength(1);
    server.away = false;
    tab.wake();
    expect((await Promise.all(answers)).map(({ kind }) => kind)).toEqual(Array(12).fill('filed'));
    expect(server.filed).toEqual(['key-1']);
  });
});

describe('what is sent (12.2)', () => {
  const kept: Kept = { ...touched(1), order: 1, tries: 0, late: false, refused: null };
  const answering = (status: number, body: unknown, headers = {}) =>
    jest.fn(() =>
      Promise.resolve(
        new Response(typeof body === 'string' ? body : JSON.stringify(body), { status, headers }),
      ),
    ) as unknown as typeof fetch;

  it('says when it was touched, by the factory’s clock, however late it goes and however wrong the device is', () => {
    const nine = Date.parse('2026-11-24T15:00:00Z');
    const slow = { ...kept, touchedMs: nine - 7 * 60_000, offsetMs: 7 * 60_000 };
    expect(touchedAt(slow, null)).toBe('2026-11-24T15:00:00.000Z');
    expect(touchedAt(slow, 0)).toBe('2026-11-24T15:00:00.000Z');
    // Never heard the factory's clock before: what is known when it goes.
    expect(touchedAt({ ...slow, offsetMs: null }, 7 * 60_000)).toBe('2026-11-24T15:00:00.000Z');
    expect(touchedAt({ ...slow, offsetMs: null }, null)).toBeUndefined();
  });

  it.each<[string, number, unknown, Answer['kind']]>([
    ['filed', 200, { sentence: 'x' }, 'filed'],
    ['a refusal of the rules', 409, { refused: 'no', code: 'x' }, 'refused'],
    ['not understood', 422, { message: 'no' }, 'refused'],
    ['a failure of the server', 500, { message: 'the server failed' }, 'away'],
    ['a database that is away', 503, { message: 'away' }, 'away'],
    ['a full disk', 507, { message: 'full' }, 'away'],
    ['a password that is wanted', 401, { message: 'who are you?' }, 'away'],
    ['too many at once', 429, { message: 'slowly' }, 'away'],
    ['somebody else’s page', 404, '<html>no such page</html>', 'away'],
    ['a gate of the network', 200, '<html>log in to the network</html>', 'away'],
    ['JSON of somebody else', 404, { error: 'nothing here' }, 'away'],
  ])('%s (%i)', async (_what, status, body, kind) => {
    expect((await send(kept, { fetch: answering(status, body), offsetMs: 0 })).kind).toBe(kind);
  });

  it('waits as long as the server asks', async () => {
    const fetch = answering(429, { message: 'slowly' }, { 'retry-after': '7' });
    expect(await send(kept, { fetch, offsetMs: 0 })).toEqual({ kind: 'away', afterMs: 7000 });
  });
});

describe('where the browser has no locks (12.1)', () => {
  it('one holder at a time has the lease, which ends with its time', async () => {
    const name = `lease-${(browsers += 1)}`;
    const [one, other] = [new FilingStore(await openStore(name)), new FilingStore(await openStore(name))];
    expect(await one.lease('one', 0, 20_000)).toBe(true);
    expect(await other.lease('other', 1000, 20_000)).toBe(false);
    expect(await one.lease('one', 10_000, 20_000)).toBe(true);
    expect(await other.lease('other', 25_000, 20_000)).toBe(false);
    expect(await other.lease('other', 30_001, 20_000)).toBe(true);
    await other.endLease('other');
    expect(await one.lease('one', 30_002, 20_000)).toBe(true);
  });
});
