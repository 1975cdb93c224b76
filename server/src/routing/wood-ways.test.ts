import type { BatchState } from '@ample-crane/core';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

async function open(kind: string, ways: object): Promise<string> {
  const { body } = (await works.http
    .post('/api/batches')
    .send({
      ...{ key: works.key(), by: 'ostrander', kind, model: 'Bowline', quantity: 2 },
      dueAt: works.dueAt,
      ways,
    })
    .expect(200)) as { body: { entries: { batch: string }[] } };
  works.later(0.2);
  return body.entries[0]?.batch ?? '';
}
const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused: string }).refused;
const stateOf = async (code: string): Promise<BatchState> =>
  ((await works.http.get(`/api/batches/${code}`)) as { body: { state: BatchState } }).body.state;

describe('the wood of a piece (11.10)', () => {
  it('body halves are glued up as an operation, pressed, and rest a week before they are cut', async () => {
    const body = await open('B', { dry: 'halves' });
    await works.said(`${body} end because dry by the other meter`);
    await works.said(`${body} joint & glue the halves start`);
    await works.said(`${body} done`);
    expect(await refused(`${body} end`)).toBe('Wait: 55 min of glue left, of 55 min.');
    works.later(1);
    await works.said(`${body} end`);
    works.later(6 * 24);
    expect(await refused(`${body} end`)).toBe('Wait: 24 h of rest left, of 7 days.');
    works.later(24);
    await works.said(`${body} end`);
    expect((await stateOf(body)).pieces.map(({ operation, standing }) => [operation, standing])).toEqual([
      ['mill', 'waiting'],
      ['mill', 'waiting'],
    ]);
  });

  it('fingerboards are batches: slotted and inlaid, they meet their necks, which keep them as parts', async () => {
    const boards = await open('F', {});
    const neck = await open('N', { gate: 'board-rack' });
    for (const code of [boards, neck]) await works.said(`${code} end because dry by the other meter`);
    for (const step of ['fret slots', 'inlay & radius']) {
      await works.said(`${boards} ${step} start`);
      await works.said(`${boards} done`);
    }
    await works.mill(neck, 'neck-mill');
    await works.said(`${neck} end because rested`);
    await works.said(`${neck} done because dry`);
    expect(await works.said(`${neck} join ${boards}`)).toMatch(`2 joined with ${boards}, making ${neck}`);
    const state = await stateOf(neck);
    expect(state.pieces.map(({ operation, standing, parents }) => [operation, standing, parents])).toEqual([
      ['press', 'onHold', [`${boards}/01`]],
      ['press', 'onHold', [`${boards}/02`]],
    ]);
    const { body } = (await works.http.get(`/api/passports/${neck}/1`)) as {
      body: { parts: { piece: string; kindName: string }[] };
    };
    expect(body.parts.map(({ piece, kindName }) => [piece, kindName])).toEqual([
      [`${neck}/01`, 'neck'],
      [`${boards}/01`, 'fingerboard'],
    ]);
  });
});
