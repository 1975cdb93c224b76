import ICAL from 'ical.js';
import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const post = (path: string, by = 'brandt') => works.http.post(path).send({ key: works.key(), by });
const feedOf = async (person: string): Promise<string | null> => {
  const { body } = await works.http.get(`/api/calendar-feed?person=${person}`).expect(200);
  return (body as { feed: { token: string } | null }).feed?.token ?? null;
};
interface Told {
  uid: string;
  sequence: number;
  summary: string;
  start: Date;
  end: Date;
  allDay: boolean;
}
/** As another program reads it. */
async function read(token: string): Promise<{ text: string; events: Told[] }> {
  const { text, headers } = await works.http.get(`/api/calendars/${token}.ics`).expect(200);
  expect(headers['content-type']).toBe('text/calendar; charset=utf-8');
  expect(headers['cache-control']).toContain('no-store');
  const root = new ICAL.Component(ICAL.parse(text) as unknown[]);
  const events = root.getAllSubcomponents('vevent').map((component): Told => {
    const event = new ICAL.Event(component);
    return {
      ...{ uid: event.uid, sequence: event.sequence, summary: event.summary },
      ...{ start: event.startDate.toJSDate(), end: event.endDate.toJSDate(), allDay: event.startDate.isDate },
    };
  });
  return { text, events };
}

describe('a calendar somebody subscribes to', () => {
  it('is there under an address of its own until it is revoked or another is made', async () => {
    expect(await feedOf('brandt')).toBeNull();
    await post('/api/calendar-feed').expect(200);
    const first = await feedOf('brandt');
    expect(first).toMatch(/^[\w-]{22}$/);
    expect(await feedOf('venn')).toBeNull();
    await post('/api/calendar-feed').expect(200);
    const second = await feedOf('brandt');
    expect(second).not.toBe(first);
    await works.http.get(`/api/calendars/${first}.ics`).expect(404);
    await works.http.get(`/api/calendars/${second}.ics`).expect(200);
    await post('/api/calendar-feed/revoke').expect(200);
    expect(await feedOf('brandt')).toBeNull();
    const gone = await works.http.get(`/api/calendars/${second}.ics`).expect(404);
    const never = await works.http.get(`/api/calendars/${'x'.repeat(22)}.ics`).expect(404);
    expect((gone.body as { message: string }).message).toBe((never.body as { message: string }).message);
    for (const wrong of ['x', '..%2Fsecrets', "'; DROP TABLE batch"])
      await works.http.get(`/api/calendars/${encodeURIComponent(wrong)}.ics`).expect(404);
    await post('/api/calendar-feed', 'nobody').expect(409);
    // Pressed by several at once: one address leads somewhere, and it is the one that is told.
    const made = await Promise.all(Array.from({ length: 6 }, () => post('/api/calendar-feed', 'venn')));
    expect(made.map(({ status }) => status)).toEqual(Array.from({ length: 6 }, () => 200));
    const last = await feedOf('venn');
    const tokens = made.map(({ body }) => (body as { feed: { token: string } }).feed.token);
    const open = await Promise.all(tokens.map((token) => works.http.get(`/api/calendars/${token}.ics`)));
    expect(tokens.filter((_, i) => open[i]?.status === 200)).toEqual([last]);
  });

  it('is read by another program: holds to the minute, due days as days, absences; lines as the standard has them', async () => {
    const rack = await works.openRack('B', 2, 'Halyard');
    const day = new Date(works.time.nowMs + 2 * 24 * 3_600_000).toISOString().slice(0, 10);
    const absent = 'INSERT INTO absence (person, day) VALUES ($1, $2)';
    await works.app.get(DataSource).query(absent, ['venn', day]);
    await post('/api/calendar-feed').expect(200);
    const { text, events } = await read((await feedOf('brandt')) ?? '');
    const due = events.find(({ uid }) => uid.startsWith(`due-${rack}@`));
    expect(due).toMatchObject({ summary: `${rack} due`, allDay: true, sequence: 0 });
    expect(events.find(({ uid }) => uid.startsWith(`away-venn-${day}@`))?.summary).toMatch(/ away$/);
    const unfolded = text.replaceAll('\r\n ', '');
    expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
    expect(unfolded).toMatch(/^BEGIN:VCALENDAR\r\nVERSION:2\.0\r\nPRODID:/);
    expect(unfolded).not.toMatch(/[^\r]\n/);
    for (const line of unfolded.match(/^DTSTART.*$/gmu) ?? [])
      expect(line).toMatch(/^DTSTART(;VALUE=DATE:\d{8}|:\d{8}T\d{6}Z)\r?$/);
  });

  it('has the days on which the works are closed, and overtime to the minute, over midnight, too', async () => {
    const put = (part: string, body: object) =>
      works.http
        .put(`/api/setup/calendar/${part}`)
        .send({ by: 'brandt', key: works.key(), ...body })
        .expect(200);
    await put('closed', { fromDay: '2026-07-03', toDay: '2026-07-04', closed: true });
    const late = { date: '2026-06-30', start: '22:00', end: '01:30', stations: ['body-mill', 'neck-mill'] };
    await put('overtime', { ...late, worked: true });
    // Far ahead nobody plans by it yet.
    await put('closed', { fromDay: '2026-12-24', toDay: '2026-12-24', closed: true });
    const { events } = await read((await feedOf('brandt')) ?? '');
    const closed = events.filter(({ uid }) => uid.startsWith('closed-'));
    expect(closed.map(({ uid, summary, allDay }) => [uid, summary, allDay])).toEqual([
      ['closed-2026-07-03@ample-crane.invalid', 'The works are closed', true],
      ['closed-2026-07-04@ample-crane.invalid', 'The works are closed', true],
    ]);
    // Chicago in summer is five hours behind.
    expect(events.find(({ uid }) => uid.startsWith('overtime-'))).toMatchObject({
      ...{ summary: 'Overtime at Body mill and Neck mill', allDay: false },
      ...{ start: new Date('2026-07-01T03:00:00Z'), end: new Date('2026-07-01T06:30:00Z') },
    });
  });

  it('keeps the name of an event and counts its changes: asked twice nothing is new, a hold that moves is', async () => {
    const rack = await works.openRack('I', 2, 'Bowline');
    const token = (await feedOf('brandt')) ?? '';
    const before = await read(token);
    const again = await read(token);
    expect(again.events).toEqual(before.events);
    const uid = `due-${rack}@ample-crane.invalid`;
    expect(before.events.map((event) => event.uid)).toContain(uid);
    // Due another day: the same event with a higher number.
    await works.app
      .get(DataSource)
      .query(
        "UPDATE batch SET state = jsonb_set(state, '{dueMs}', to_jsonb((state ->> 'dueMs')::bigint + 172800000)) WHERE code = $1",
        [rack],
      );
    const moved = (await read(token)).events.find((event) => event.uid === uid);
    const old = before.events.find((event) => event.uid === uid);
    expect(moved?.sequence).toBe((old?.sequence ?? 0) + 1);
    expect((moved?.start.getTime() ?? 0) - (old?.start.getTime() ?? 0)).toBe(2 * 24 * 3_600_000);
  });
});

const onePage = (pdf: Buffer): void => {
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  expect(pdf.toString('latin1').match(/\/Type \/Page\b(?!s)/g)).toHaveLength(1);
};

describe('the weekly review', () => {
  it('is one page, too, and says so where there is nothing to look back on', async () => {
    onePage((await works.http.get('/api/reports/weekly.pdf').buffer().expect(200)).body as Buffer);
    const { text } = await works.http.get('/api/reports/weekly.html').expect(200);
    for (const heading of ['Week by week', 'Lead time of what left', 'Sent back and scrapped'])
      expect(text).toContain(`<h2>${heading}</h2>`);
    expect(text).toContain('Nothing left.');
    expect(text).not.toMatch(/<script|src=|href=/);
  });

  it('tells what was lost where, as it was said', async () => {
    const rack = await works.openRack('B', 3, 'Halyard');
    await works.said(`${rack} end because dry by the other meter`);
    await works.said(`${rack} body mill 1 scrap <tear-out>`);
    works.later(1);
    const { text } = await works.http.get('/api/reports/weekly.html').expect(200);
    expect(text).toMatch(/Body mill \(B\)[^<]*: 0 back, 1 scrapped<\/td><td class="right">&lt;tear-out&gt;/);
    expect(text).toContain('Halyard body: 0</td><td class="right">lost most at Body mill, 0 of 100');
  });
});

describe('the morning sheet', () => {
  it('is one page of PDF, and one file of HTML that runs nothing and fetches nothing', async () => {
    await works.http
      .post('/api/orders')
      .send({
        ...{
          key: works.key(),
          by: 'brandt',
          customer: '<script>alert("x")</script> שלום',
          dueAt: works.dueAt,
        },
        lines: [{ model: 'Halyard', quantity: 1 }],
      })
      .expect(200);
    works.later(90 * 24);
    const pdf = (await works.http.get('/api/reports/morning.pdf').buffer().expect(200)).body as Buffer;
    onePage(pdf);
    const { text } = await works.http.get('/api/reports/morning.html').expect(200);
    expect(text).toContain('<h2>Cannot be in time</h2>');
    expect(text).toContain('&lt;script&gt;alert(&quot;x&quot;)&lt;/script&gt; שלום');
    expect(text).not.toMatch(/<script|src=|href=/);
  });
});
