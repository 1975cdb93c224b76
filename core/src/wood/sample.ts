import { judgeMoisture, type MoistureJudgement, type MoistureWindow } from './gate.ts';
import { METER_RESOLVES, type SetAside, type TakenReading } from './reading.ts';

/** A reading that is this near another one confirms it: twice the scatter of one reading. Default, % moisture. */
export const CONFIRMS_PCT = 0.6;
/** Readings within this time of the last one are one look. */
export const ONE_LOOK_MS = 12 * 60 * 60 * 1000;

/** What is known of some pieces now: the latest believed reading of each. */
export interface MoistureSample {
  /** One for each piece that is known: its core, where that was read in the same look. */
  readings: { piece: number | null; pct: number; depth: 'shell' | 'core' | null }[];
  /** Newer than what is believed of their pieces: they want to be read again. */
  setAside: SetAside[];
  /** Largest core minus shell of one piece, read in one look; null: on no piece both were read. */
  coreMinusShellPct: number | null;
  /** Readings of the last look that name no piece and find none unknown: they replace nothing. */
  leftOut: number;
  /** Every piece asked about is known. */
  complete: boolean;
  /** When the last look was; null: never. */
  lastMs: number | null;
}

/** Why a reading is not believed as it stands: by the meter's own raw value, or since no room dries so fast. */
function doubtOf({ shownPct, pct, floorPct, explained }: TakenReading): SetAside['why'] | null {
  if (explained) return null;
  if (shownPct < METER_RESOLVES.lowPct || shownPct > METER_RESOLVES.highPct) return 'range';
  return floorPct !== null && pct < floorPct ? 'fall' : null;
}

/** Readings that may be believed, and those set aside: a doubtful one is confirmed by another look that shows nearly the same. */
export function believedReadings<R extends TakenReading>(
  readings: readonly R[],
): { believed: R[]; setAside: (R & SetAside)[] } {
  const believed: R[] = [];
  const setAside: (R & SetAside)[] = [];
  for (const reading of readings) {
    const why = doubtOf(reading);
    const confirms = (other: R): boolean =>
      other.atMs !== reading.atMs &&
      other.piece === reading.piece &&
      Math.abs(other.shownPct - reading.shownPct) <= CONFIRMS_PCT;
    if (why === null || readings.some(confirms)) believed.push(reading);
    else setAside.push({ ...reading, why });
  }
  return { believed, setAside };
}

/**
 * The sample a gate judges (DOMAIN §3, revised): of each piece its latest believed reading; of the last look, a reading that names
 * no piece stands for one piece nobody has read by name, and never in place of a named one.
 * @param readings in order of time.
 */
export function sampleOf(readings: readonly TakenReading[], pieces: readonly number[]): MoistureSample {
  const here = readings.filter(({ piece }) => piece === null || pieces.includes(piece));
  const lastMs = here.at(-1)?.atMs ?? null;
  const { believed, setAside } = believedReadings(here);
  const known = pieces.flatMap((piece) => latestOf(believed.filter((one) => one.piece === piece)) ?? []);
  const isKnown = new Set(known.map(({ value }) => value.piece));
  const inLastLook = ({ atMs }: TakenReading): boolean => lastMs !== null && lastMs - atMs <= ONE_LOOK_MS;
  const unknown = pieces.filter((piece) => !isKnown.has(piece)).length;
  const inLook = here.filter((one) => one.piece === null && inLastLook(one));
  const unnamed = believed.filter((one) => inLook.includes(one));
  const deepest = unnamed.some(({ depth }) => depth === 'core')
    ? unnamed.filter(({ depth }) => depth === 'core')
    : unnamed;
  const standIns = unknown === 0 ? [] : deepest.slice(-unknown);
  const differences = known.flatMap(({ coreMinusShellPct }) => coreMinusShellPct ?? []);
  /** Nothing that is believed was read of its piece since; one that names no piece matters while one is unknown. */
  const isOpen = (one: SetAside): boolean =>
    one.piece === null
      ? unknown > 0 && inLastLook(one)
      : !believed.some((other) => other.piece === one.piece && isLater(here, other, one));
  return {
    readings: [...known.map(({ value }) => value), ...standIns].map(({ piece, pct, depth }) => ({
      piece,
      pct,
      depth,
    })),
    setAside: setAside.filter(isOpen),
    coreMinusShellPct:
      differences.length === 0
        ? null
        : differences.reduce((worst, one) => (Math.abs(one) > Math.abs(worst) ? one : worst)),
    leftOut: (unknown > 0 ? deepest.length : inLook.length) - standIns.length,
    complete: pieces.length > 0 && known.length + standIns.length >= pieces.length,
    lastMs,
  };
}

/** Read after it: of the same moment, the one told later. */
const isLater = (readings: readonly TakenReading[], one: TakenReading, other: SetAside): boolean =>
  one.atMs > other.atMs ||
  (one.atMs === other.atMs &&
    readings.indexOf(one) >
      readings.findIndex((r) => r.atMs === other.atMs && r.piece === other.piece && r.pct === other.pct));

/** The gate's judgement of pieces by the readings that count (see sampleOf), with those of them that pass by themselves. */
export function judgeSample(
  readings: readonly TakenReading[],
  pieces: readonly number[],
  window: MoistureWindow,
): { judgement: MoistureJudgement; sample: MoistureSample; passing: number[] } {
  const sample = sampleOf(readings, pieces);
  const { complete, coreMinusShellPct, setAside, leftOut } = sample;
  const judgement = judgeMoisture({
    readingsPct: sample.readings.map(({ pct }) => pct),
    ...{ window, complete, coreMinusShellPct, setAside, leftOut },
  });
  const doubted = new Set(setAside.map(({ piece }) => piece));
  const passing = sample.readings.flatMap(({ piece, pct }) =>
    piece !== null && !doubted.has(piece) && pct >= window.lowPct && pct <= window.highPct ? [piece] : [],
  );
  return { judgement, sample, passing: passing.sort((a, b) => a - b) };
}

/** What the last look at one piece says of it, with its core against its own shell. */
function latestOf(
  own: readonly TakenReading[],
): { value: TakenReading; coreMinusShellPct: number | null } | undefined {
  const last = own.at(-1);
  if (!last) return undefined;
  const look = own.filter(({ atMs }) => last.atMs - atMs <= ONE_LOOK_MS);
  const core = look.findLast(({ depth }) => depth === 'core');
  const shell = look.findLast(({ depth }) => depth === 'shell');
  return { value: core ?? last, coreMinusShellPct: core && shell ? core.pct - shell.pct : null };
}
