import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { remakeStatesOnce } from '../commands/remake-states.ts';
import type { Remade } from '../log/remake.ts';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { freshDatabase } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';
import { LotsService } from '../wood/lots.service.ts';
import { migrate } from './data-source.ts';

const VERSIONS = join(__dirname, '../testing/versions');
const POSTGRES = '/usr/lib/postgresql';

/** A database as an earlier version left it: Tarrow Works, without the air of its rooms. Dumps are kept as hexadecimal text. */
async function restored(dump: string): Promise<string> {
  const url = await freshDatabase();
  const newest = readdirSync(POSTGRES)
    .sort((a, b) => Number(a) - Number(b))
    .at(-1);
  execFileSync(
    join(POSTGRES, newest ?? '', 'bin/pg_restore'),
    ['--no-owner', '--no-privileges', '--exit-on-error', '--dbname', url],
    {
      input: Buffer.from(
        readFileSync(join(VERSIONS, `${dump}.dump.hex`), 'ascii').replaceAll('\n', ''),
        'hex',
      ),
    },
  );
  return url;
}

/** What is logged of all batches, of all time, is compared: replaying a hundred of them takes seconds. */
describe.each(['4-finishing', '9-changes'])('data as %s holds them', (dump) => {
  let works: Works;
  afterEach(() => works.close());

  it('are brought to this version: states are made anew, and the log replays to them', async () => {
    const url = await restored(dump);
    expect((await migrate(url)).length).toBeGreaterThan(0);
    works = await Works.open(url);
    const [log, lots] = [works.app.get(ReplayCheckService), works.app.get(LotsService)];

    const told: string[] = [];
    const remake = () => remakeStatesOnce(works.app, (words) => told.push(words));
    const racks = jest.spyOn(log, 'remake');
    // Broken off on the way, it is not taken for done.
    jest.spyOn(lots, 'remake').mockRejectedValueOnce(new Error('power cut'));
    await expect(remake()).rejects.toThrow('power cut');
    // Brought along without making anything anew, the tables would not have agreed with the log.
    const { remade } = (await racks.mock.results[0]?.value) as Remade;
    expect(remade.length).toBeGreaterThan(10);
    expect(told).toContainEqual(expect.stringMatching(/^50 of \d+ batches looked at$/));
    await remake();
    expect(told.at(-1)).toMatch(/^\d+ states made anew from the log$/);
    const before = told.length;
    await remake();
    expect(told).toHaveLength(before);
    const { batches, wrong } = await log.disagreements();
    expect([batches > 100, wrong]).toEqual([true, []]);
    expect((await lots.disagreements()).wrong).toEqual([]);

    // And work goes on with them.
    await works.http.get('/api/board').expect(200);
    const batch = await works.openRack('B', 4);
    expect(await works.said(`${batch} read 7.1 7.2 7.1 7.0`)).toMatch(/4 readings/);
  });
});
