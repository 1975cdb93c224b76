import { batch, floorOf, HOUR, NOW, piece } from '../testing/tarrow.ts';
import { previewLine, racksOf } from './preview.ts';

const inHand = { standing: 'inHand', station: 'body-mill' } as const;
const resting = { operation: 'rest', standing: 'onHold', sinceMs: NOW - 10 * HOUR } as const;
const atJoin = { operation: 'join' } as const;
const racks = [
  batch('B-217', [piece(1, inHand), piece(2, inHand), piece(3)]),
  batch('B-220', [piece(1, resting)]),
  batch('B-221', [piece(1, atJoin), piece(2, atJoin)]),
  batch('N-118', [piece(1, atJoin)]),
];
const floor = floorOf(racks);
const known = new Map(racks.map((rack) => [rack.code, rack]));
const say = (line: string) => previewLine(line, floor, known, NOW);

describe('the preview of a line', () => {
  it('says what it would change, with the reducer of the server', () => {
    expect(say('B-217 1 done 1 scrap tear-out')).toEqual({
      kind: 'good',
      text: 'B-217: 1 done, 1 scrapped (tear-out), 1 waiting at Body mill',
    });
  });

  it('reads a lot of lumber, and sends everything else about it to its page', () => {
    expect(say('W-74 read 7.9 8.2 8.0')).toEqual({
      kind: 'good',
      text: 'W-74: 3 readings, mean 8.03 % as shown',
    });
    expect(say('W-74 2 done')).toMatchObject({ kind: 'refused' });
    expect(say('W-74 undo')).toMatchObject({ kind: 'good' });
  });

  it('asks whoever measures in inches what a number without a sign is in', () => {
    const units = { length: 'in', temperature: 'C' } as const;
    const inches = (line: string) => previewLine(line, floor, known, NOW, { units });
    expect(inches('B-217 plane 0.007')).toMatchObject({
      kind: 'wrong',
      text: 'is 0.007 in inches or in mm?',
      choices: [{ line: 'B-217 plane 0.007in' }, { line: 'B-217 plane 0.007mm' }],
    });
    expect(inches('B-217 plane 0.007in').kind).toBe(say('B-217 plane 0.1778').kind);
  });

  it('says what the reducer would refuse', () => {
    expect(say('B-217 9 done')).toEqual({
      kind: 'refused',
      text: 'only 2 of 3 are in hand at Body mill, not 9',
    });
    expect(say('B-220 end')).toEqual({ kind: 'refused', text: 'Wait: 38 h of rest left, of 2 days.' });
    expect(say('B-217 2 done at 23:00')).toMatchObject({
      kind: 'refused',
      text: expect.stringMatching(/in the future/) as string,
    });
  });

  it('is quiet while the line is unfinished, and marks a word that is wrong', () => {
    expect(say('')).toEqual({ kind: 'empty' });
    expect(say('B-217')).toMatchObject({ kind: 'unfinished' });
    expect(say('B-217 drill')).toEqual({
      ...{ kind: 'wrong', text: "'drill' is not understood", start: 6, length: 5, choices: [] },
    });
  });

  it('previews a join by its plan, and a correction by what it means', () => {
    expect(say('N-118 join B-221')).toEqual({
      kind: 'good',
      text: 'B-221: 1 joined with N-118, making I-221',
    });
    expect(say('B-221 join N-118 2')).toMatchObject({
      kind: 'refused',
      text: 'only 1 of N-118 is at Neck joint, 2 wanted',
    });
    expect(say('B-217 undo')).toMatchObject({
      kind: 'good',
      text: 'B-217: takes back the last thing filed on it',
    });
    expect(say('B-217 1 done undo')).toMatchObject({ kind: 'refused' });
  });

  it('needs the racks it names, and without them says what it understood', () => {
    expect(racksOf('B-217 1 done', floor)).toEqual(['B-217']);
    expect(racksOf('N-118 join B-221', floor)).toEqual(['N-118', 'B-221']);
    expect(racksOf('W-74 read 7.9', floor)).toEqual([]);
    expect(racksOf('B-217 drill', floor)).toEqual([]);
    const unseen = (line: string) => previewLine(line, floor, new Map(), NOW);
    expect(unseen('B-217 1 done 1 scrap tear-out')).toEqual({
      kind: 'unseen',
      text: 'B-217, done, scrap: Enter asks the server',
    });
    expect(unseen('B-217 drill')).toMatchObject({ kind: 'wrong' });
    expect(unseen('N-118 join B-221')).toMatchObject({ kind: 'unseen' });
  });

  it('leaves a batch it does not see to the server', () => {
    expect(say('I-12 undo')).toEqual({
      kind: 'unseen',
      text: 'I-12 is not on the board: Enter asks the server',
    });
    expect(say('B-999')).toMatchObject({ kind: 'wrong' });
  });
});
