import { skillRisk } from './available-hours.ts';
import { trainFirst, type TaughtPerson } from './training.ts';

const person = (code: string, skills: string[], more: Partial<TaughtPerson> = {}): TaughtPerson => ({
  ...{ code, skills, learning: [], teaches: [] },
  ...more,
});
const people = [
  person('tamsin', ['spray', 'burst'], { teaches: ['burst'] }),
  person('greave', ['spray'], { learning: ['burst'] }),
  person('keld', ['buff']),
  person('arden', ['buff']),
  person('ostrander', []),
];
const wanted = [
  { skill: 'burst', hoursADay: 7 },
  { skill: 'spray', hoursADay: 6 },
  { skill: 'buff', hoursADay: 4 },
];
const asked = {
  ...{ people, shiftHours: 9, cover: skillRisk({ wanted, people, shiftHours: 9 }) },
  trainingDays: (skill: string) => (skill === 'burst' ? 40 : 10),
};

describe('whom to train first', () => {
  it('is who brings the constraint most hours for a day of training; what it brings, and when it has paid', () => {
    const [first, ...others] = trainFirst({ ...asked, pace: { skill: 'burst', piecesAnHour: 2, upTo: 9 } });
    // Greave is wanted for half of the spraying, 3 h, and has 6; half of 40 days is behind them: 6/20 beats Keld's 7/40.
    // 6 h × 2 would be 12 pieces, but another paces after 9; teaching takes 20 days × 9 h / 4 × 2 = 90 pieces: ten days.
    expect(first).toEqual({
      ...{ skill: 'burst', person: 'greave', isLearning: true, teachers: ['tamsin'], trainingDays: 20 },
      ...{ hoursADay: 6, why: 'paces', piecesADay: 9, paysBackDays: 10 },
    });
    // Two can spray and two can buff, and one of them can do it alone.
    expect(others).toEqual([]);
  });

  it('is nobody for the constraint’s sake where a place paces; what hangs on one is told, and brings no piece more', () => {
    const [first] = trainFirst({ ...asked, pace: null });
    expect(first).toMatchObject({ skill: 'burst', why: 'one-away', piecesADay: null, paysBackDays: null });
  });

  it('puts what has too little before what hangs on one, and leaves out whoever has no hour, or works at no bench', () => {
    const few = [person('a', ['cut']), person('b', ['fit']), person('office', [])];
    const cover = skillRisk({
      ...{ people: few, shiftHours: 8 },
      wanted: [
        { skill: 'cut', hoursADay: 4 },
        { skill: 'fit', hoursADay: 12 },
        { skill: 'weld', hoursADay: 0 },
      ],
    });
    const found = trainFirst({ people: few, cover, shiftHours: 8, trainingDays: () => 10, pace: null });
    expect(found.map(({ skill, person: who, why, teachers }) => [skill, who, why, teachers])).toEqual([
      ['fit', 'a', 'too-few', []],
    ]);
  });
});
