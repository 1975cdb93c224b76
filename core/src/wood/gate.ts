import { summarise } from '../stats/descriptive.ts';
import { toleranceFactor } from '../stats/tolerance.ts';
import { equilibriumMoistureContentPct, type Air } from './emc.ts';
import type { SetAside } from './reading.ts';

/** Moisture that wood must show before it may go on, in percent of oven-dry mass, both ends included. */
export interface MoistureWindow {
  lowPct: number;
  highPct: number;
}

/**
 * Two schools of how dry is dry enough: a window the factory trusts, or the EMC of the air the wood goes to (the
 * customer's home, the next room), more or less a tolerance.
 */
export type MoistureGate =
  | { school: 'fixed'; lowPct: number; highPct: number }
  | { school: 'destination'; air: Air; tolerancePct: number };

/** The window of a gate of either school. @throws RangeError for a tolerance that is not above 0 or impossible air. */
export function moistureWindow(gate: MoistureGate): MoistureWindow {
  if (gate.school === 'fixed') return { lowPct: gate.lowPct, highPct: gate.highPct };
  if (!(gate.tolerancePct > 0))
    throw new RangeError(`moistureWindow: tolerancePct must be above 0, got ${gate.tolerancePct}`);
  const emcPct = equilibriumMoistureContentPct(gate.air);
  return { lowPct: Math.max(0, emcPct - gate.tolerancePct), highPct: emcPct + gate.tolerancePct };
}

/**
 * What the gate says: pass, wait (too wet, or core and shell too far apart), sort (some pass now), reject (too dry to
 * use as it is), unread (the sample does not prove anything yet).
 */
export type GateVerdict = 'pass' | 'wait' | 'sort' | 'reject' | 'unread';

export interface MoistureJudgement {
  verdict: GateVerdict;
  count: number;
  meanPct: number;
  sdPct: number;
  /** Readings outside the window, 0–100. */
  shareOutsidePct: number;
  over: number;
  under: number;
  /** 1-based places in the list of readings that lie inside the window. */
  inside: number[];
  /** Readings that count for nothing until they are confirmed: they want to be read again. */
  setAside: readonly SetAside[];
  /** Readings that name no piece where every piece is known: they replace nothing. */
  leftOut: number;
  /** With `confidence`, at least the share `coverage` of all pieces lies below the upper and above the lower bound. */
  bounds: { lowPct: number; highPct: number; confidence: number; coverage: number } | null;
  /** How many more to read before the sample can prove itself, at this mean and spread; null: no sample can. */
  readNext: number | null;
  /** Core minus shell, where both were read. */
  coreMinusShellPct: number | null;
}

/** Nothing a meter can say lies outside this; it is a slip of the hand. */
export const MOISTURE_POSSIBLE = { lowPct: 0, highPct: 100 };
/** Fewer readings than this say nothing about a rack. Default, DOMAIN §3. */
export const FEWEST_READINGS = 3;
/** One piece in twenty may lie beyond the bound, and the bound is right nineteen times in twenty. Defaults, DOMAIN §3. */
const CONFIDENCE = 0.95;
const COVERAGE = 0.95;
/** A core this much wetter than its shell moves when it is cut: case-hardened. Default, DOMAIN §3. */
export const CORE_SHELL_LIMIT_PCT = 1.5;
/** Nobody reads more pieces than this to prove a sample. */
const LARGEST_SAMPLE = 60;

export interface MoistureQuestion {
  readingsPct: readonly number[];
  window: MoistureWindow;
  /** Confidence of the tolerance bound, 0…1. Default 0.95. */
  confidence?: number;
  /** Share of all pieces the bound speaks for, 0…1. Default 0.95. */
  coverage?: number;
  /** Every piece asked about was read: however few they are, they are no sample and need no bound. */
  complete?: boolean;
  /** Core minus shell of one piece, % moisture: of the piece where they differ most; null: on none both were read. */
  coreMinusShellPct?: number | null;
  /** See MoistureJudgement. */
  setAside?: readonly SetAside[];
  leftOut?: number;
}

/**
 * The moisture gate: number read, mean, spread, share outside the window, the one-sided tolerance bounds (exact
 * noncentral-t factor, see toleranceFactor) and the core–shell difference, and what follows from them.
 * Passes when none lies outside and either every piece was read or both bounds lie inside the window; sorts when some
 * lie outside and some do not; `unread` while a sample without a fault is too small to prove it, or a reading is set aside.
 * @throws RangeError for a window that is upside down or a reading outside 0…100 %.
 */
export function judgeMoisture(question: MoistureQuestion): MoistureJudgement {
  const {
    readingsPct,
    window,
    coreMinusShellPct = null,
    complete = false,
    setAside = [],
    leftOut = 0,
  } = question;
  if (!(window.lowPct < window.highPct)) {
    throw new RangeError(`judgeMoisture: window must rise, got ${window.lowPct}–${window.highPct} %`);
  }
  for (const value of readingsPct) {
    if (!(value >= MOISTURE_POSSIBLE.lowPct && value <= MOISTURE_POSSIBLE.highPct)) {
      throw new RangeError(`judgeMoisture: readings must be 0…100 %, got ${value}`);
    }
  }
  if (readingsPct.length === 0) return { ...NOTHING_READ, coreMinusShellPct, setAside, leftOut };
  const { count, mean, sd } = summarise(readingsPct);
  const over = readingsPct.filter((value) => value > window.highPct).length;
  const under = readingsPct.filter((value) => value < window.lowPct).length;
  const numbers = {
    count,
    meanPct: mean,
    sdPct: sd,
    shareOutsidePct: (100 * (over + under)) / count,
    over,
    under,
    inside: readingsPct.flatMap((v, i) => (v >= window.lowPct && v <= window.highPct ? [i + 1] : [])),
    setAside,
    leftOut,
    ...proofOf(question, { count, mean, sd }),
    coreMinusShellPct,
  };
  return { verdict: verdictOf(numbers, window, complete), ...numbers };
}

const NOTHING_READ: MoistureJudgement = {
  verdict: 'unread',
  count: 0,
  meanPct: 0,
  sdPct: 0,
  shareOutsidePct: 0,
  over: 0,
  under: 0,
  inside: [],
  setAside: [],
  leftOut: 0,
  bounds: null,
  readNext: FEWEST_READINGS,
  coreMinusShellPct: null,
};

type Proof = Pick<MoistureJudgement, 'bounds' | 'readNext'>;

/** The tolerance bounds of a sample, and how many more readings of the same mean and spread would bring them inside. */
function proofOf(question: MoistureQuestion, sample: { count: number; mean: number; sd: number }): Proof {
  const { window, confidence = CONFIDENCE, coverage = COVERAGE } = question;
  const { count, mean, sd } = sample;
  if (count < FEWEST_READINGS) return { bounds: null, readNext: FEWEST_READINGS - count };
  const reach = (n: number): number => toleranceFactor({ n, confidence, coverage }) * sd;
  const room = Math.min(window.highPct - mean, mean - window.lowPct);
  const bounds = { lowPct: mean - reach(count), highPct: mean + reach(count), confidence, coverage };
  if (reach(count) <= room) return { bounds, readNext: 0 };
  if (reach(LARGEST_SAMPLE) > room) return { bounds, readNext: null };
  let [tooFew, enough] = [count, LARGEST_SAMPLE];
  while (enough - tooFew > 1) {
    const middle = Math.floor((tooFew + enough) / 2);
    if (reach(middle) <= room) enough = middle;
    else tooFew = middle;
  }
  return { bounds, readNext: enough - count };
}

const caseHardened = (difference: number | null): boolean =>
  difference !== null && Math.abs(difference) > CORE_SHELL_LIMIT_PCT;

function verdictOf(
  numbers: Omit<MoistureJudgement, 'verdict'>,
  window: MoistureWindow,
  complete: boolean,
): GateVerdict {
  const { count, over, under, inside, readNext, coreMinusShellPct, setAside } = numbers;
  if (count < FEWEST_READINGS && !complete) return 'unread';
  if (over + under > 0) {
    if (inside.length > 0) return 'sort';
    return over >= under ? 'wait' : 'reject';
  }
  if (caseHardened(coreMinusShellPct)) return 'wait';
  return setAside.length === 0 && (complete || readNext === 0) ? 'pass' : 'unread';
}

const pct = (value: number): string => value.toFixed(1);

const oneIn = (coverage: number): string => `one in ${Math.round(1 / (1 - coverage))}`;

/** What a sample says of the pieces nobody read. */
function boundWords({ bounds, meanPct }: MoistureJudgement, window: MoistureWindow): string {
  if (!bounds) return '';
  const wet = window.highPct - meanPct <= meanPct - window.lowPct;
  const bound = wet ? `over ${pct(bounds.highPct)}` : `under ${pct(bounds.lowPct)}`;
  return `; ${oneIn(bounds.coverage)} may be ${bound} % (${Math.round(100 * bounds.confidence)} % sure)`;
}

function readMoreWords(judgement: MoistureJudgement): string {
  if (judgement.count < FEWEST_READINGS) return `at least ${FEWEST_READINGS} are needed.`;
  if (judgement.readNext === null) return 'no sample proves it at this spread: read every piece.';
  return `read ${judgement.readNext} more.`;
}

/** At most so many of the readings set aside are told one by one. */
const MOST_TOLD = 2;

/** '4.2 % on 3 is outside what the meter resolves; 7.2 % on 5 fell faster than its room dries (9.0 % at the lowest)'. */
function setAsideWords(setAside: readonly SetAside[]): string {
  if (setAside.length === 0) return '';
  const told = setAside.slice(0, MOST_TOLD).map(({ piece, shownPct, pct: value, floorPct, why }) => {
    const where = piece === null ? '' : ` on ${piece}`;
    return why === 'range'
      ? `${pct(shownPct)} %${where} is outside what the meter resolves`
      : `${pct(value)} %${where} fell faster than its room dries (${pct(floorPct ?? 0)} % at the lowest)`;
  });
  const more = setAside.length - told.length;
  return ` Read again: ${told.join('; ')}${more > 0 ? `; and ${more} more` : ''}.`;
}

const leftOutWords = (leftOut: number): string =>
  leftOut === 0
    ? ''
    : ` ${leftOut === 1 ? '1 reading names' : `${leftOut} readings name`} no piece and ${leftOut === 1 ? 'replaces' : 'replace'} none.`;

/** The verdict in one sentence with its numbers, as the floor reads it. */
export function gateSentence(judgement: MoistureJudgement, window: MoistureWindow): string {
  const { verdict, count, meanPct, over, under, inside, coreMinusShellPct } = judgement;
  const gate = `gate ${pct(window.lowPct)}–${pct(window.highPct)} %`;
  if (count === 0) return `Read it: no moisture readings yet, ${gate}.${setAsideWords(judgement.setAside)}`;
  const numbers = `${count} read, mean ${pct(meanPct)} %, ${gate}`;
  const outside = [over > 0 ? `${over} over` : '', under > 0 ? `${under} under` : '']
    .filter(Boolean)
    .join(', ');
  const doubt = `${setAsideWords(judgement.setAside)}${leftOutWords(judgement.leftOut)}`;
  const hard = caseHardened(coreMinusShellPct)
    ? ` Core ${pct(Math.abs(coreMinusShellPct ?? 0))} ${(coreMinusShellPct ?? 0) > 0 ? 'above' : 'below'} shell: it will move when it is cut.`
    : '';
  switch (verdict) {
    case 'unread':
      if (judgement.setAside.length > 0 && judgement.readNext === 0)
        return `Not yet: ${numbers}.${doubt}${hard}`;
      return `Read more: ${numbers}${boundWords(judgement, window)}: ${readMoreWords(judgement)}${doubt}${hard}`;
    case 'pass':
      return `Pass: ${numbers}; all inside.${doubt}`;
    case 'sort':
      return `Sort: ${numbers}; ${outside}, ${inside.length} would pass now.${doubt}${hard}`;
    case 'wait':
      return `Wait: ${numbers}${outside ? `; ${outside}` : ''}.${doubt}${hard}`;
    case 'reject':
      return `Reject: ${numbers}; ${outside}, too dry to mill as it is.${doubt}${hard}`;
  }
}
