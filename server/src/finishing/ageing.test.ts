import type { BatchState, Route } from '@ample-crane/core';
import { Works } from '../testing/works.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

interface Seen {
  state: BatchState;
  route: Route;
}
const seen = async (code: string): Promise<Seen> =>
  ((await works.http.get(`/api/batches/${code}`)) as { body: Seen }).body;

/** A rack of instruments that waits for its first turn in the cold. */
async function atTheFreezer(quantity: number): Promise<string> {
  const opened = (await works.http.post('/api/batches').send({
    ...{ key: works.key(), by: 'ostrander', model: 'Bowline', kind: 'I', quantity, ways: { buff: 'age' } },
    dueAt: works.dueAt,
  })) as { body: { entries: { batch: string }[] } };
  const code = opened.body.entries[0]?.batch ?? '';
  for (;;) {
    const { state, route } = await seen(code);
    const at = route.operations.find(({ key }) => key === state.pieces[0]?.operation);
    if (!at || at.key === 'age') return code;
    works.later(0.2);
    if (at.mode === 'hold') await works.said(`${code} end because the test begins behind it`);
    else {
      await works.said(`${code} start${at.key === 'colour' ? ' by tamsin' : ''}`);
      await works.measure(code);
      await works.said(`${code} done because the test begins behind it`);
    }
  }
}

it('knows what lies in the freezer, named or not, and never more than its places (small: 14 of 14 free with 8 inside)', async () => {
  const first = await atTheFreezer(8);
  await works.said(`${first} age cold`);
  const { state } = await seen(first);
  expect(state.pieces.map(({ bed }) => bed)).toEqual(Array.from({ length: 8 }, () => 'freezer-1'));
  const second = await atTheFreezer(8);
  const answer = (await works.line(`${second} age cold`)) as { body: { refused: string } };
  expect(answer.body.refused).toBe('Freezer has 6 of 14 places free, 8 do not fit');
  await works.said(`${second} 6 age cold`);
  works.later(30);
  await works.said(`${first} age warm because the test goes on`);
  expect((await seen(first)).state.pieces.every(({ bed }) => bed === undefined)).toBe(true);
});
