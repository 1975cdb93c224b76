import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ReplayCheckService } from './replay-check.service.ts';

const CLIENTS = 2;
const EACH = 500;

/** Two tablets file on the same racks at once, each as fast as it is answered. */
it('loses nothing and files nothing twice when two clients file 500 entries each', async () => {
  const works = await Works.open();
  const batches = await Promise.all(Array.from({ length: 4 }, () => works.openRack('B', 500)));
  works.later(1);
  const filed: string[] = [];
  const otherwise: string[] = [];
  const client = async (name: number): Promise<void> => {
    for (let i = 0; i < EACH; i += 1) {
      const batch = batches[(i + name) % batches.length] ?? '';
      const key = `client-${name}-${String(i).padStart(4, '0')}`;
      const { status, body } = await works.line(`${batch} 1 hold look`, key);
      if (status === 200) filed.push(key);
      else otherwise.push(`${key}: ${status} ${JSON.stringify(body)}`);
      // Every tenth answer is lost on the way: the client sends the same key again.
      if (i % 10 === 0) await works.line(`${batch} 1 hold look`, key);
    }
  };
  const setUp = batches.map((batch) => works.said(`${batch} end because test`));
  await Promise.all(setUp);
  await Promise.all(Array.from({ length: CLIENTS }, (_, name) => client(name)));
  expect(otherwise).toEqual([]);
  expect(filed).toHaveLength(CLIENTS * EACH);

  const source = works.app.get(DataSource);
  const rows = await source.query<{ filing_key: string }[]>(
    "SELECT filing_key FROM log_entry WHERE type = 'hold'",
  );
  expect(rows.map((row) => row.filing_key).sort()).toEqual(filed.sort());
  const sequences = await source.query<{ unbroken: boolean }[]>(
    'SELECT max(seq) = count(*) AND min(seq) = 1 AS unbroken FROM log_entry GROUP BY batch',
  );
  expect(sequences).toHaveLength(4);
  expect(sequences.every((row) => row.unbroken)).toBe(true);
  expect((await works.app.get(ReplayCheckService).disagreements()).wrong).toEqual([]);
  await works.close();
});

it('lets the second of two people see the state the first one left', async () => {
  const works = await Works.open();
  const batch = await works.openRack('B', 12);
  works.later(1);
  await works.said(`${batch} end because test`);
  const answers = await Promise.all([
    works.line(`${batch} 8 scrap knots`),
    works.line(`${batch} 8 scrap knots`),
  ]);
  expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
  const refused = answers.find((answer) => answer.status === 409)?.body as { refused: string };
  expect(refused.refused).toBe('only 4 of 12 are in hand or waiting or on hold at Body mill, not 8');
  await works.close();
});

// With a pool of ten, a filing that asked for a second connection from within its transaction once stood still.
it('does not stand still when more clients file at once than there are connections', async () => {
  const works = await Works.open();
  const batches = await Promise.all(Array.from({ length: 30 }, () => works.openRack('N', 2)));
  works.later(1);
  for (let round = 0; round < 3; round += 1) {
    works.app.get(SetupService).forget();
    const answers = await Promise.all(
      batches.map((batch) => works.file(batch, { type: 'read', valuesPct: [7.1] })),
    );
    expect(answers.map((answer) => answer.status)).toEqual(batches.map(() => 200));
  }
  await works.close();
});
