import { shiftAt, workingMinutesBetween, type FactoryCalendar } from '../time/calendar.ts';
import { workingClock, type WorkingClock } from '../time/working-clock.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';

/** A table or head of a machine that runs by itself. */
export interface MillTable {
  code: string;
  places: number;
  /** When it can take a load: now, or when its load in hand ends, ms. */
  freeMs: number;
  /** Program and revision it is set up for ('halyard-b-1/mill r3'); null: none. */
  program: string | null;
}

/** What one load of a program takes. */
export interface MillProgram {
  /** Name and revision. */
  name: string;
  /** Paid when the table was set up for another program or revision. */
  setUpMinutes: number;
  /** Load, zero and clamp; every load. */
  loadMinutes: number;
  cycleMinutes: number;
  /** Cut minutes of each tool in one cycle. */
  tools: { tool: string; minutes: number }[];
}

/** Pieces of one batch that wait for the mill. */
export interface WaitingPieces {
  batch: string;
  program: string;
  pieces: number;
  /** When they came to the mill, ms: first come, first served goes by it. */
  sinceMs: number;
  /** When they should be milled so that the rest of their route can still meet its due date, ms. */
  neededMs: number;
}

export interface Cutter {
  tool: string;
  /** Cut minutes since it was changed. */
  usedMinutes: number;
  lifeMinutes: number;
  changeMinutes: number;
}

export interface PlannedLoad {
  table: string;
  program: string;
  parts: { batch: string; pieces: number }[];
  /** From set-up to the last piece off, ms. */
  startMs: number;
  endMs: number;
  /** The table must be set up anew, and the first piece measured. */
  setUp: boolean;
  /** Cutters to change first, as the load would pass their life. */
  change: string[];
  /** Working minutes of the load after the shift it starts in; 0: it ends within. */
  pastShiftMinutes: number;
  /** What the plan does besides filling places in due order, in words. */
  says: string[];
}

export interface LoadPlan {
  loads: PlannedLoad[];
  setUps: number;
  /** Σ pieces × hours later than needed. */
  latePieceHours: number;
  /** When the last load is off, ms; null: nothing to cut. */
  endMs: number | null;
}

export interface LoadsQuestion {
  nowMs: number;
  calendar: FactoryCalendar;
  tables: readonly MillTable[];
  programs: readonly MillProgram[];
  waiting: readonly WaitingPieces[];
  cutters: readonly Cutter[];
}

/** Rounds of improving by changing places in the order; each tries every pair of neighbours and every move forward. */
const ROUNDS = 6;
/** More batches than this are planned by the rules alone, without trying orders. */
const MOST_TRIED = 40;
/** Windows within which a batch of the program that is set up is drawn forward, hours. */
const DRAW_FORWARD_HOURS = [0, 8, 24, 72, 240];
/** No batch is drawn forward: the next in order is taken, whatever its table is set up for. */
const AS_ORDERED = Number.NEGATIVE_INFINITY;

/**
 * Today's loads of a mill: batches in the order that makes the least lateness (pieces × hours after they are needed), then
 * the fewest set-ups, then the earliest end. Tried are first come first served, due order, due order with batches of the
 * program that is set up drawn forward, and changes of place in the best of these; so the plan is never later in total
 * than first come first served on the same tables. Loads run in working time (a cycle that meets the end of the shift goes
 * on in the next); cutters are changed before a load that would pass their life.
 * @throws RangeError for a batch whose program is not given, no places, or pieces that are no number.
 */
export function planLoads(asked: LoadsQuestion): LoadPlan {
  check(asked);
  const question = timed(asked);
  const { waiting } = question;
  const due = waiting.toSorted(
    (a, b) => a.neededMs - b.neededMs || a.sinceMs - b.sinceMs || a.batch.localeCompare(b.batch),
  );
  let best = drawUp(question, firstCome(waiting), AS_ORDERED);
  let order = firstCome(waiting);
  const consider = (candidate: readonly WaitingPieces[], drawHours: number): boolean => {
    const plan = drawUp(question, candidate, drawHours);
    if (!better(plan, best)) return false;
    [best, order] = [plan, [...candidate]];
    return true;
  };
  let drawHours = AS_ORDERED;
  for (const hours of DRAW_FORWARD_HOURS) {
    for (const start of [due, firstCome(waiting)]) if (consider(start, hours)) drawHours = hours;
  }
  if (waiting.length <= MOST_TRIED)
    improve(
      () => order,
      (candidate) => consider(candidate, drawHours),
    );
  return saidPlainly(best, question);
}

/** The same tables filled first come, first served: what the plan is compared with. */
export function firstComeLoads(question: LoadsQuestion): LoadPlan {
  check(question);
  return saidPlainly(drawUp(timed(question), firstCome(question.waiting), AS_ORDERED), question);
}

/**
 * Loads as a person put them, one after the other on each table: timed and judged like a plan of planLoads, so that what
 * was changed by hand says just as plainly what it does.
 * @throws RangeError for a table or program that is not given, or a load over the places of its table.
 */
export function loadsByHand(
  asked: LoadsQuestion,
  loads: readonly Pick<PlannedLoad, 'table' | 'program' | 'parts'>[],
): LoadPlan {
  const question = timed(asked);
  const drawn = emptyTables(question);
  const timedLoads = loads.map((load) => {
    const table = drawn.tables.find(({ code }) => code === load.table);
    if (!table) throw new RangeError(`loadsByHand: there is no table '${load.table}'`);
    const pieces = load.parts.reduce((sum, part) => sum + part.pieces, 0);
    if (pieces > table.places)
      throw new RangeError(`loadsByHand: ${pieces} pieces on the ${table.places} places of ${table.code}`);
    return put(question, drawn, table, load);
  });
  return saidPlainly(summed(timedLoads, asked), asked);
}

const firstCome = (waiting: readonly WaitingPieces[]): WaitingPieces[] =>
  waiting.toSorted((a, b) => a.sinceMs - b.sinceMs || a.batch.localeCompare(b.batch));

function check({ tables, programs, waiting }: LoadsQuestion): void {
  for (const { code, places } of tables)
    if (!(Number.isInteger(places) && places > 0))
      throw new RangeError(`planLoads: table ${code} has no places: ${places}`);
  for (const { batch, program, pieces } of waiting) {
    if (!programs.some(({ name }) => name === program))
      throw new RangeError(`planLoads: ${batch} wants program '${program}', which is not given`);
    if (!(Number.isInteger(pieces) && pieces > 0))
      throw new RangeError(`planLoads: ${batch} has no pieces to cut: ${pieces}`);
  }
}

/** A minute counts as equal: plans are compared by what matters on the floor. */
function better(a: LoadPlan, b: LoadPlan): boolean {
  if (Math.abs(a.latePieceHours - b.latePieceHours) > 1 / 60) return a.latePieceHours < b.latePieceHours;
  if (a.setUps !== b.setUps) return a.setUps < b.setUps;
  return (a.endMs ?? 0) < (b.endMs ?? 0) - MINUTE_MS;
}

/** Neighbours change places, and batches move to the front, as long as that helps. */
function improve(
  order: () => readonly WaitingPieces[],
  consider: (candidate: readonly WaitingPieces[]) => boolean,
): void {
  for (let round = 0; round < ROUNDS; round += 1) {
    let helped = false;
    for (let i = 1; i < order().length; i += 1) {
      for (const to of new Set([i - 1, Math.max(0, i - 3), 0])) {
        const candidate = [...order()];
        const [moved] = candidate.splice(i, 1);
        if (moved) candidate.splice(to, 0, moved);
        helped = consider(candidate) || helped;
      }
    }
    if (!helped) return;
  }
}

/** A question with its calendar laid out once, for the hundreds of plans that are drawn up for it. */
interface Timed extends LoadsQuestion {
  clock: WorkingClock;
}

const timed = (question: LoadsQuestion): Timed => ({
  ...question,
  clock: workingClock(question.calendar, question.nowMs),
});

interface Drawn {
  tables: MillTable[];
  used: Map<string, number>;
}

const emptyTables = ({ tables, cutters, nowMs }: LoadsQuestion): Drawn => ({
  tables: tables.map((table) => ({ ...table, freeMs: Math.max(table.freeMs, nowMs) })),
  used: new Map(cutters.map(({ tool, usedMinutes }) => [tool, usedMinutes])),
});

/** Fills the tables in an order: the table that would be done first takes the first batch, and more of its program. */
function drawUp(question: Timed, order: readonly WaitingPieces[], drawHours: number): LoadPlan {
  const drawn = emptyTables(question);
  const left = order.map((batch) => ({ ...batch }));
  const loads: PlannedLoad[] = [];
  while (left.length > 0 && drawn.tables.length > 0) {
    const { table, first } = nextUp(drawn, left, drawHours);
    const parts = collect(table.places, first, left);
    loads.push(put(question, drawn, table, { program: first.program, parts }));
    for (const part of parts) {
      const batch = left.find((candidate) => candidate.batch === part.batch);
      if (!batch) continue;
      batch.pieces -= part.pieces;
      if (batch.pieces === 0) left.splice(left.indexOf(batch), 1);
    }
  }
  return summed(loads, question);
}

function summed(loads: PlannedLoad[], { waiting }: Pick<LoadsQuestion, 'waiting'>): LoadPlan {
  const needed = new Map(waiting.map((batch) => [batch.batch, batch.neededMs]));
  const late = ({ endMs, parts }: PlannedLoad): number =>
    parts.reduce(
      (sum, part) => sum + part.pieces * Math.max(0, endMs - (needed.get(part.batch) ?? endMs)),
      0,
    );
  return {
    loads,
    setUps: loads.filter((load) => load.setUp).length,
    latePieceHours: loads.reduce((sum, load) => sum + late(load), 0) / HOUR_MS,
    endMs: loads.length > 0 ? Math.max(...loads.map((load) => load.endMs)) : null,
  };
}

/** The table free first, and what it takes: the next in order, or a batch of its program needed not much later. */
function nextUp(
  drawn: Drawn,
  left: readonly WaitingPieces[],
  drawHours: number,
): { table: MillTable; first: WaitingPieces } {
  const next = left[0];
  const free = Math.min(...drawn.tables.map((table) => table.freeMs));
  // Of tables free at the same time the one set up for the next batch takes it.
  const tables = drawn.tables.filter((table) => table.freeMs === free);
  const table = tables.find((candidate) => candidate.program === next?.program) ?? tables[0];
  if (!table || !next) throw new Error('planLoads: nothing left to plan');
  const same = left.find((batch) => batch.program === table.program);
  const near = same && same.neededMs <= next.neededMs + drawHours * HOUR_MS;
  return { table, first: near ? same : next };
}

/** As many pieces as the table has places: of the first batch, then of others of its program in order. */
function collect(places: number, first: WaitingPieces, left: readonly WaitingPieces[]): PlannedLoad['parts'] {
  const parts: PlannedLoad['parts'] = [];
  let room = places;
  for (const batch of [first, ...left.filter((other) => other !== first)]) {
    if (batch.program !== first.program || room === 0) continue;
    const pieces = Math.min(room, batch.pieces);
    parts.push({ batch: batch.batch, pieces });
    room -= pieces;
  }
  return parts;
}

/** Times a load on a table, after what was put on it before, and wears its cutters. */
function put(
  { programs, cutters, clock }: Timed,
  drawn: Drawn,
  table: MillTable,
  { program: name, parts }: Pick<PlannedLoad, 'program' | 'parts'>,
): PlannedLoad {
  const program = programs.find((candidate) => candidate.name === name);
  if (!program) throw new RangeError(`planLoads: there is no program '${name}'`);
  const setUp = table.program !== program.name;
  const change = program.tools
    .filter(({ tool, minutes }) => {
      const cutter = cutters.find((candidate) => candidate.tool === tool);
      return cutter !== undefined && (drawn.used.get(tool) ?? 0) + minutes > cutter.lifeMinutes;
    })
    .map(({ tool }) => tool);
  const changing = change.reduce(
    (sum, tool) => sum + (cutters.find((cutter) => cutter.tool === tool)?.changeMinutes ?? 0),
    0,
  );
  for (const { tool, minutes } of program.tools)
    drawn.used.set(tool, (change.includes(tool) ? 0 : (drawn.used.get(tool) ?? 0)) + minutes);
  const minutes = (setUp ? program.setUpMinutes : 0) + changing + program.loadMinutes + program.cycleMinutes;
  const startMs = clock.add(table.freeMs, 0);
  const endMs = clock.add(startMs, minutes);
  table.freeMs = endMs;
  table.program = program.name;
  return {
    table: table.code,
    program: program.name,
    parts,
    startMs,
    endMs,
    setUp,
    change,
    pastShiftMinutes: 0,
    says: [],
  };
}

/** Working minutes of a load that come after the shift it starts in. */
function pastShift(calendar: FactoryCalendar, startMs: number, endMs: number): number {
  const shift = shiftAt(calendar, startMs);
  return shift && endMs > shift.endMs ? workingMinutesBetween(calendar, shift.endMs, endMs) : 0;
}

/** Names everything the plan does that somebody must know of. */
function saidPlainly(plan: LoadPlan, { waiting, tables, calendar }: LoadsQuestion): LoadPlan {
  const needed = new Map(waiting.map((batch) => [batch.batch, batch.neededMs]));
  const loads = plan.loads.map((drawn, i) => {
    const load = { ...drawn, pastShiftMinutes: pastShift(calendar, drawn.startMs, drawn.endMs) };
    const says: string[] = [];
    if (load.setUp) says.push(`set up for ${load.program}, first piece measured`);
    for (const tool of load.change) says.push(`change ${tool} first: this load would pass its life`);
    if (load.pastShiftMinutes > 0) says.push(`runs ${Math.ceil(load.pastShiftMinutes)} min past the shift`);
    const latest = Math.max(...load.parts.map((part) => needed.get(part.batch) ?? 0));
    const overtaken = plan.loads
      .slice(i + 1)
      .filter((later) => later.startMs > load.startMs)
      .flatMap((later) => later.parts.map((part) => part.batch))
      .find((batch) => (needed.get(batch) ?? 0) < latest && !load.parts.some((part) => part.batch === batch));
    if (overtaken !== undefined) says.push(`goes before ${overtaken}, which is needed sooner`);
    const places = tables.find((table) => table.code === load.table)?.places ?? 0;
    const free = places - load.parts.reduce((sum, part) => sum + part.pieces, 0);
    if (free > 0) says.push(`${free} of ${places} places stay free`);
    return { ...load, says };
  });
  return { ...plan, loads };
}
