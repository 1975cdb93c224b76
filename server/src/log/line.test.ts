import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer {
  status: number;
  body: {
    sentence?: string;
    refused?: string;
    code?: string;
    message?: string;
    choices?: { line: string }[];
  };
}
const preview = (line: string): Promise<Answer> =>
  works.http.post('/api/log/line/preview').send({ by: 'ostrander', line });
const file = (line: string): Promise<Answer> => works.line(line);

/** A dry rack of bodies at the mill. */
async function atMill(quantity = 4): Promise<string> {
  const code = await works.openRack('B', quantity);
  works.later(1);
  await works.said(`${code} end because dry by the other meter`);
  return code;
}

describe('preview and server differ (11.14)', () => {
  it('no more: a dry run of the same filing answers, and files nothing', async () => {
    const code = await atMill();
    for (const line of [
      `${code} start`,
      `${code} 9 scrap knots`,
      `${code} place press-9`,
      `${code} start by nobody`,
    ]) {
      const [seen, again] = [await preview(line), await preview(line)];
      expect(again.body).toMatchObject({ ...(seen.body.sentence ? { sentence: seen.body.sentence } : {}) });
      const filed = await file(line);
      expect([filed.status, filed.body.sentence, filed.body.refused]).toEqual([
        seen.status,
        seen.body.sentence,
        seen.body.refused,
      ]);
    }
    const { body } = (await works.http.get(`/api/batches/${code}`)) as { body: { seq: number } };
    // Opened, ended, started: no preview left an entry.
    expect(body.seq).toBe(3);
  });

  it('says what only the server knows: full tables, a load’s number, colour without an able person, an early coat', async () => {
    const code = await atMill(2);
    expect((await preview(`${code} start`)).body.sentence).toMatch(
      /1 started as L-2 on table-b2: the first piece/,
    );
    await works.said(`${code} start`);
    const other = await atMill(2);
    expect((await preview(`${other} start`)).body.refused).toMatch(
      /^Body table 1 and Body table 2 are cutting: Body table 1 is free .*, when L-1 is off$/,
    );
  });

  it('and asks just as well', async () => {
    const code = await atMill(3);
    const asked = await preview(`${code} scrap 2 knots`);
    expect(asked.status).toBe(422);
    expect(asked.body.choices?.map(({ line }) => line)).toEqual([
      `${code} 2 scrap knots`,
      `${code}/2 scrap knots`,
    ]);
  });
});

describe('one line on the floor (11.15, 11.16)', () => {
  it('says the same of several batches, all of them or none', async () => {
    const [one, other] = [await atMill(2), await atMill(2)];
    const both = await file(`${one} and ${other} hold wrong drawing`);
    expect(both.body.sentence).toBe(
      `${one}: 2 put on hold (wrong drawing), 2 on hold at Body mill; ${other}: 2 put on hold (wrong drawing), 2 on hold at Body mill`,
    );
    await works.said(`${one} end`);
    const refused = await file(`${one} ${other} hold look again`);
    expect(refused.body).toMatchObject({
      code: 'taken',
      refused: `${other}/01 is held already: wrong drawing`,
    });
    expect((await preview(`${one} hold look again`)).status).toBe(200);
  });

  it('puts a resting rack on hold for a reason, under which it goes on resting', async () => {
    const code = await works.openRack('B', 2);
    works.later(1);
    await works.said(`${code} hold knot in the blank`);
    works.later(5);
    expect(await works.said(`${code} hold over`)).toMatch(/2 on hold at Rest & read/);
    const { body } = (await works.http.get(`/api/batches/${code}`)) as {
      body: { state: { openedMs: number; pieces: { sinceMs: number; called: null }[] } };
    };
    expect(body.state.pieces[0]).toMatchObject({ sinceMs: body.state.openedMs, called: null });
  });

  it('asks for the reason once where several holds of one rack are passed by', async () => {
    const code = await works.openRack('N', 2);
    works.later(1);
    await works.said(`${code}/1 end because dry`);
    await works.file(code, { type: 'start', because: 'proved' });
    await works.file(code, { type: 'done', because: 'measured by hand' });
    expect(await works.said(`${code} end because the fair opens`)).toMatch(
      /hold of 1 ended, rule passed by \(the fair opens\), hold of 1 ended, rule passed by \(the fair opens\)/,
    );
  });

  it('takes the times people say, and the operation by its own name', async () => {
    const code = await works.openRack('B', 2);
    works.later(30);
    await works.said(`${code} rest & read end because dry 2 hours ago`);
    const { body } = (await works.http.get(`/api/batches/${code}`)) as {
      body: { entries: { atMs: number }[] };
    };
    expect(works.time.nowMs - (body.entries[0]?.atMs ?? 0)).toBe(2 * 3_600_000);
  });
});
