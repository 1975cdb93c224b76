/** What three independent signs say of one station or skill. */
export interface ConstraintSigns {
  /** Code of the station, or the skill. */
  code: string;
  by: 'station' | 'skill';
  /** Hours of work offered to it over the hours it has; 1: all of them. */
  loadShare: number;
  /** Share of the window it was the momentary constraint, alone and shifting. */
  soleShare: number;
  shiftingShare: number;
  /** Working days of work that wait before it, on average over the window. */
  queueDays: number;
}

export type Sign = 'load' | 'active' | 'queue';

export interface ConstraintVerdict {
  /** Null: no one is it, or the signs do not say which. */
  code: string | null;
  by: 'station' | 'skill' | null;
  /** What leads by each sign; null: nothing does. */
  leaders: Record<Sign, string | null>;
  /** Signs that name the one that leads all in all. */
  agree: Sign[];
  /** 0…1: how much of what all three say speaks for it. */
  sureness: number;
  /** It paces by turns with this one; null: alone. */
  shiftingWith: string | null;
  /** The one that would come next. */
  next: string | null;
}

/** Less sure than this we do not name one. */
export const SURE_ENOUGH = 0.5;
/** Two that pace by turns are named when they have so much of what the signs say between them. */
const SURE_OF_TWO = 0.75;
/** Nothing is a constraint that is offered less of its hours, and has less work waiting, working days. */
const LEAST_LOAD = 0.5;
const LEAST_QUEUE_DAYS = 0.25;
/** The second paces by turns where it has at least this share of the first's momentary time. */
const TURNS_SHARE = 0.6;
/** How sharply each sign tells apart: what is one and a half times another's load says more than one and a half times its queue. */
const SHARPNESS: Record<Sign, number> = { load: 6, active: 1.5, queue: 1.5 };

const valueOf: Record<Sign, (signs: ConstraintSigns) => number> = {
  load: ({ loadShare }) => loadShare,
  active: ({ soleShare, shiftingShare }) => soleShare + shiftingShare / 2,
  queue: ({ queueDays }) => queueDays,
};
const SIGNS: readonly Sign[] = ['load', 'active', 'queue'];

/**
 * Which station or skill paces the factory, by three signs that err for different reasons: what is offered to it (DOMAIN "Constraint"
 * 1), how long it is busy without a pause (2), and what waits for it (3). Each sign's share of its own sum, sharpened by how well it
 * tells apart, is multiplied: one sign that speaks against a candidate outweighs two that speak faintly for it.
 * @throws RangeError for a share or a queue that is no number of 0 or more
 */
export function constraintVerdict(candidates: readonly ConstraintSigns[]): ConstraintVerdict {
  for (const one of candidates)
    for (const sign of SIGNS)
      if (!(valueOf[sign](one) >= 0))
        throw new RangeError(`constraintVerdict: ${sign} of ${one.code} is ${valueOf[sign](one)}`);
  const leaders = Object.fromEntries(SIGNS.map((sign) => [sign, leaderOf(candidates, sign)])) as Record<
    Sign,
    string | null
  >;
  const scores = scored(candidates);
  const [first, second] = scores;
  const none = {
    ...{ code: null, by: null, leaders, agree: [], sureness: 0 },
    shiftingWith: null,
    next: null,
  };
  if (!first || (first.one.loadShare < LEAST_LOAD && first.one.queueDays < LEAST_QUEUE_DAYS)) return none;
  const agree = SIGNS.filter((sign) => leaders[sign] === first.one.code);
  const active = valueOf.active(first.one);
  const turns = candidates
    .filter(({ code }) => code !== first.one.code)
    .toSorted((a, b) => valueOf.active(b) - valueOf.active(a))[0];
  const shiftingWith =
    turns && active > 0 && valueOf.active(turns) >= TURNS_SHARE * active && turns.loadShare >= LEAST_LOAD
      ? turns.code
      : null;
  const { code, by } = first.one;
  const next = second?.one.code ?? null;
  const alone = first.share >= SURE_ENOUGH && agree.length >= 2;
  // Two that pace by turns share the signs between them: together they must be surer than one.
  const ofBoth = SIGNS.filter((sign) => [code, shiftingWith].includes(leaders[sign]));
  const byTurns =
    second !== undefined &&
    second.one.code === shiftingWith &&
    first.share + second.share >= SURE_OF_TWO &&
    ofBoth.length >= 2;
  const isSure = alone || byTurns;
  return {
    ...{ code: isSure ? code : null, by: isSure ? by : null, leaders, agree, next },
    ...{ sureness: first.share, shiftingWith },
  };
}

function leaderOf(candidates: readonly ConstraintSigns[], sign: Sign): string | null {
  const [first] = candidates.toSorted((a, b) => valueOf[sign](b) - valueOf[sign](a));
  return first && valueOf[sign](first) > 0 ? first.code : null;
}

/** Candidates with their share of what all signs say together, greatest first. */
function scored(candidates: readonly ConstraintSigns[]): { one: ConstraintSigns; share: number }[] {
  const products = candidates.map((one) => {
    const shares = SIGNS.map((sign) => {
      const sharp = (value: number): number => value ** SHARPNESS[sign];
      const whole = candidates.reduce((sum, other) => sum + sharp(valueOf[sign](other)), 0);
      // A sign that says nothing of anybody does not count.
      return whole > 0 ? Math.max(1e-6, sharp(valueOf[sign](one)) / whole) : 1;
    });
    return { one, product: shares.reduce((product, share) => product * share, 1) };
  });
  const whole = products.reduce((sum, { product }) => sum + product, 0);
  return products
    .map(({ one, product }) => ({ one, share: whole > 0 ? product / whole : 0 }))
    .toSorted((a, b) => b.share - a.share);
}
