import pg from 'pg';
import { testDatabaseAddress } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';
import { FLOOR_ROLE, grantFloor } from './floor-role.ts';

/** The cluster's role for the floor, with a password of this test; other tests of the cluster may have made it. */
async function floorAddress(databaseUrl: string): Promise<string> {
  const owner = new pg.Client({ connectionString: testDatabaseAddress() });
  await owner.connect();
  await owner.query(`CREATE ROLE ${FLOOR_ROLE}`).catch(() => undefined);
  await owner.query(`ALTER ROLE ${FLOOR_ROLE} LOGIN PASSWORD 'of the floor'`);
  await owner.end();
  const url = new URL(databaseUrl);
  url.username = FLOOR_ROLE;
  url.password = encodeURIComponent('of the floor');
  return url.href;
}

describe('the log is out of reach of the role the server works as (12.12)', () => {
  let owner: Works;
  let works: Works;
  let floor: pg.Client;
  beforeAll(async () => {
    owner = await Works.open();
    const url = await floorAddress(owner.databaseUrl);
    expect(await grantFloor(owner.databaseUrl)).toBe(true);
    works = await Works.open(url);
    floor = new pg.Client({ connectionString: url });
    await floor.connect();
  });
  afterAll(async () => {
    await floor.end();
    await works.close();
    await owner.close();
  });

  it('which files, corrects, keeps climate of a new month, and reads', async () => {
    const batch = await works.openRack('B', 4);
    await works.said(`${batch} read 7.1 7.2 7.0 7.1`);
    expect(await works.said(`${batch} undo`)).toMatch(/^Corrected/);
    const reading = {
      room: 'Wood room',
      at: '2025-03-04T10:00:00Z',
      temperatureC: 20,
      relativeHumidityPct: 40,
    };
    expect((await works.http.post('/api/climate').send({ readings: [reading] })).status).toBe(200);
    expect((await works.http.get('/api/board')).status).toBe(200);
  });

  it.each([
    'TRUNCATE log_entry',
    'TRUNCATE filing CASCADE',
    "UPDATE log_entry SET person = 'venn'",
    'DELETE FROM log_entry',
    'DELETE FROM filing',
    'ALTER TABLE log_entry DISABLE TRIGGER ALL',
    'DROP TABLE log_entry',
    'DROP FUNCTION log_is_for_ever CASCADE',
    'SET session_replication_role = replica',
    'ALTER ROLE CURRENT_USER SUPERUSER',
    'CREATE TABLE mine (a int)',
    'UPDATE migration SET name = name',
  ])('cannot: %s', async (statement) => {
    await expect(floor.query(statement)).rejects.toMatchObject({ code: '42501' });
  });
});
