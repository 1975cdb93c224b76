import type { ConstraintService, ConstraintView } from './constraint.service.ts';
import { PaceService } from './pace.service.ts';

const MINUTE = 60_000;
const row = (by: 'station' | 'skill', code: string, hoursOfferedADay: number, goesWith: string[]) => ({
  ...{ by, code, hoursOfferedADay, goesWith },
});
const rows = [
  row('station', 'colour', 12, ['burst', 'spray']),
  row('station', 'clear', 7, ['spray']),
  row('skill', 'burst', 6, ['colour']),
  row('skill', 'spray', 9, ['clear', 'colour']),
];
const verdict = (code: string | null, by: 'station' | 'skill' | null) => ({
  ...{ code, by, agree: ['load', 'queue'] },
});

/** The log says one after the other, and may take as long as it likes over it. */
function log(...says: (object | Error)[]) {
  let asked = 0;
  const view = () => {
    const said = says[Math.min(asked, says.length - 1)];
    asked += 1;
    return said instanceof Error
      ? Promise.reject(said)
      : Promise.resolve({ verdict: said, rows } as unknown as ConstraintView);
  };
  const service = new PaceService({ view } as unknown as ConstraintService);
  return { service, asked: () => asked };
}
const settled = () => new Promise((done) => setImmediate(done));

describe('which station paces the house', () => {
  it('is the one the signs name; a skill at the station at which most of its work comes; nobody where they name none', async () => {
    const said = { agree: 2, days: 20 };
    const named = (is: object) => log(is).service.named(0);
    expect(await named(verdict('clear', 'station'))).toEqual({ ...said, station: 'clear', skill: null });
    expect(await named(verdict('spray', 'skill'))).toEqual({ ...said, station: 'colour', skill: 'spray' });
    expect(await named(verdict('carve', 'skill'))).toBeNull();
    expect(await named(verdict(null, null))).toBeNull();
  });

  it('is reckoned anew after ten minutes, beside what was known; after a day whoever asks waits for it', async () => {
    const { service, asked } = log(verdict('clear', 'station'), verdict('colour', 'station'));
    const [first, second] = await Promise.all([service.named(0), service.named(0)]);
    expect([first?.station, second?.station, asked()]).toEqual(['clear', 'clear', 1]);
    expect((await service.named(9 * MINUTE))?.station).toBe('clear');
    expect(asked()).toBe(1);
    expect((await service.named(11 * MINUTE))?.station).toBe('clear');
    await settled();
    expect((await service.named(12 * MINUTE))?.station).toBe('colour');
    expect(asked()).toBe(2);
    await service.named(12 * MINUTE + 25 * 60 * MINUTE);
    expect(asked()).toBe(3);
  });

  it('tells what was known while the log cannot be asked, and fails only where nothing is known', async () => {
    const { service } = log(verdict('clear', 'station'), new Error('no database'));
    await service.named(0);
    expect((await service.named(20 * MINUTE))?.station).toBe('clear');
    await settled();
    expect((await service.named(21 * MINUTE))?.station).toBe('clear');
    await expect(log(new Error('no database')).service.named(0)).rejects.toThrow('no database');
  });
});
