import { cleared, route } from '../testing/finish-rack.ts';
import { passportOf } from './passport.ts';

const words = (position: number, rack = cleared()): string[] =>
  passportOf(rack.state, route, position).map(({ at, kind, words: said }) => `${at} ${kind}: ${said}`);

describe('the passport of a piece', () => {
  it('holds its coats with their film, its sandings and its evidence, oldest first', () => {
    const lines = words(3);
    expect(lines.slice(0, 3)).toEqual([
      'prep coat: Sealer, 20.9 µm dry',
      expect.stringMatching(
        /^sealer evidence: hold ended by the clock: Ready to sand: all 2\.8 reference hours reached, and 2\.2 more\.$/,
      ),
      expect.stringMatching(/^colour sanding: \d+ µm off/),
    ]);
    expect(lines.filter((line) => line.startsWith('clear coat'))).toHaveLength(4);
    expect(lines.find((line) => line.startsWith('clear coat'))).toMatch(/booth-3, lot TL-88$/);
  });

  it('keeps what rules were passed by for ever, with what the rule said and who decided it', () => {
    const rack = cleared();
    expect(rack.end(40, { because: 'the fair is tomorrow', pieces: [1, 2] })).toBeNull();
    const [override, ...more] = passportOf(rack.state, route, 2).filter(({ kind }) => kind === 'override');
    expect(override).toMatchObject({ at: 'cure', words: 'the fair is tomorrow', by: 'ostrander' });
    expect(override?.against).toMatch(/^Wait to buff: /);
    expect(more).toEqual([]);
    // The same end of a hold does not stand there a second time, and not with pieces it was not about.
    expect(passportOf(rack.state, route, 2).filter(({ atMs }) => atMs === override?.atMs)).toHaveLength(1);
    expect(passportOf(rack.state, route, 5).some(({ kind }) => kind === 'override')).toBe(false);
    rack.must(41, { type: 'start', pieces: [1, 2] });
    rack.must(42, { type: 'done', pieces: [1, 2] });
    expect(passportOf(rack.state, route, 2).some(({ kind }) => kind === 'override')).toBe(true);
  });

  it('tells of a slip only with the piece that went back, with its cause', () => {
    const rack = cleared();
    rack.must(20, { type: 'rework', to: 'colour', reason: 'scrape slip', cause: 'dull blade', pieces: [4] });
    expect(words(4, rack).slice(-2)).toEqual([
      'cure slip: scrape slip: dull blade; back to colour',
      expect.stringMatching(/^cure sanding: \d+ µm off$/),
    ]);
    expect(words(1, rack).some((line) => line.includes('slip'))).toBe(false);
  });

  it('takes the value of the place, and the mean where pieces were not told apart', () => {
    const rack = cleared();
    rack.must(15, { type: 'read', valuesPct: [7.1, 7.3], pieces: [1, 2], meter: 'pin-1' });
    rack.must(16, { type: 'read', valuesPct: [7, 8] });
    const moisture = (position: number) => words(position, rack).filter((line) => line.includes('moisture'));
    expect(moisture(2)).toEqual([
      'cure moisture: 7.3 % moisture, meter pin-1',
      'cure moisture: 7.5 % moisture, mean of 2 read on the rack',
    ]);
    expect(moisture(6)).toEqual(['cure moisture: 7.5 % moisture, mean of 2 read on the rack']);
  });

  it('has its colour against the target, and its turns in the cold', () => {
    const rack = cleared();
    const target = rack.state.finish?.colour;
    const lab = { l: 58, a: 21, b: 52 };
    rack.must(15, { type: 'colour', pieces: [2], labs: [lab] });
    const [line] = words(2, rack).filter((one) => one.includes('colour: '));
    expect(line).toContain('L* 58 a* 21 b* 52');
    if (target) expect(line).toMatch(/ΔE \d+\.\d to /);
    expect(words(1, rack).some((one) => one.includes('colour: '))).toBe(false);
  });
});
