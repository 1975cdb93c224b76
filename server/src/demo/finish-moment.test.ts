import { DAY_MS } from '@ample-crane/core';
import { DataSource } from 'typeorm';
import { dataSourceOptions } from '../database/data-source.ts';
import { MaterialLotRow, MixRow } from '../finishing/rows.ts';
import { ROWS } from '../rows.ts';
import { freshWorks } from '../testing/databases.ts';
import { tarrowClimate } from './climate.ts';
import { finishStock } from './finish-moment.ts';
import { tarrowHistory } from './history.ts';

const SEED = 20_261_123;

let source: DataSource;
beforeAll(async () => {
  const url = await freshWorks();
  source = await new DataSource(dataSourceOptions(url, ROWS)).initialize();
});
afterAll(() => source.destroy());

/** Whoever starts the works does so on a day of their own: other days have other coats. */
describe('what was sprayed at Tarrow Works was there', () => {
  it.each(['2026-11-24T19:20:00Z', '2026-12-01T18:20:00Z', '2026-11-30T20:10:00Z', '2027-01-18T19:20:00Z'])(
    '%s: no mix and no lot gives more than it held',
    async (now) => {
      const nowMs = Date.parse(now);
      const air = tarrowClimate(nowMs - 100 * DAY_MS, nowMs, SEED);
      const history = tarrowHistory({ nowMs, seed: SEED + 23, climateOf: (room) => air.get(room) ?? [] });
      const coats = history.flatMap(({ atMs, drawn }) => (drawn ? [{ atMs, ...drawn }] : []));
      await source.query('TRUNCATE material_lot, mix');
      await source.transaction((manager) => finishStock(manager, history, nowMs));
      const mixes = await source.getRepository(MixRow).find({ order: { mixedAt: 'DESC' } });
      const lots = await source.getRepository(MaterialLotRow).find({ order: { openedAt: 'DESC' } });

      const left = new Map([...mixes, ...lots].map(({ code, litres }) => [code, litres]));
      const draw = (code: string | undefined | null, litres: number): void => {
        expect(code).toEqual(expect.any(String));
        left.set(code ?? '', (left.get(code ?? '') ?? 0) - litres);
      };
      for (const { atMs, material, litres, mixed } of coats)
        draw(
          mixed
            ? mixes.find(({ mixedAt }) => mixedAt.getTime() <= atMs)?.code
            : lots.find((lot) => lot.material === material && isOpen(lot, atMs))?.code,
          litres,
        );
      for (const { lot, lotLitres, additions } of mixes) {
        draw(lot, lotLitres ?? 0);
        for (const part of additions) draw(part.lot, part.litres);
      }
      expect(coats.filter(({ mixed }) => mixed).length).toBeGreaterThan(10);
      expect([...left].filter(([, litres]) => litres < 0)).toEqual([]);
    },
  );
});

const isOpen = ({ openedAt, finishedAt }: MaterialLotRow, atMs: number): boolean =>
  openedAt !== null && openedAt.getTime() <= atMs && (finishedAt === null || finishedAt.getTime() > atMs);
