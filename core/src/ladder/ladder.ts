import {
  bridgedAlong,
  buildOn,
  coatedAlike,
  coatMinutes,
  coatsAsked,
  coatsOn,
  coatsWanted,
  freedOf,
  gatheredAlong,
  laidCoats,
  layersOn,
  recoatView,
  restsOf,
  airStretches,
  thickestOf,
  type Layer,
  type RestingSince,
} from '../coats/index.ts';
import { forecastEnd, isOver } from '../holds/index.ts';
import { count, hasLeft, type BatchState, type PanelEnd, type PieceState } from '../ledger/index.ts';
import {
  operationIndex,
  operationOf,
  type HoldOperation,
  type Operation,
  type Route,
} from '../route/index.ts';
import { rungsOf, type ByUntil, type Until } from '../finishing/coat-cure.ts';
import { roomAir } from '../finishing/cure.ts';
import { cureOutlook, whenGathered } from '../finishing/forecast-cure.ts';
import { summarise } from '../stats/descriptive.ts';
import { rangeOf } from '../time/grain.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import type { FinishAir } from './finish-air.ts';
import { contextIn, movedSince, type Moved } from './moved.ts';
import { buildSd, sandingAhead, type SandingAhead } from './sanding-ahead.ts';

/** One coat of the ladder: a rung to scale, with how far it has cured. */
export interface RungView {
  /** Name of the recipe's step, or of the operation it was laid at. */
  name: string;
  material: string;
  atMs: number;
  /** Dry film as it was laid, and what sanding has left of it, µm. */
  filmUm: number;
  leftUm: number;
  /** Film that hardens as one with it, µm: all coats of its slab, or its own. */
  slabUm: number;
  /** Reference hours since the last coat of its slab. */
  gathered: number;
  needs: ByUntil;
  /** 0…1. */
  progress: ByUntil;
  booth: string | null;
  lot: string | null;
  /** Why it was laid though the recipe did not ask for it. */
  extra: string | null;
}

export type FinishNext = Until | 'coat' | 'age' | 'work' | 'held';

/** Pieces of a rack that stand together and carry the same coats, and what may be done with them. */
export interface FinishView {
  operation: string;
  operationName: string;
  station: string;
  standing: 'waiting' | 'inHand' | 'onHold';
  positions: number[];
  /** Lowest first. */
  rungs: RungView[];
  buildUm: number;
  buildSdUm: number;
  next: FinishNext;
  /** It may be done now. */
  ready: boolean;
  /** 'Sand now', 'Buff Thu 08:00', 'Next coat before 16:00'. */
  title: string;
  detail: string;
  /** When it may be done, with its range; null: nobody can say. */
  fromMs: number | null;
  lowMs: number | null;
  highMs: number | null;
  /** When the recoat window closes; null: it does not. */
  closesMs: number | null;
  /** The recoat window has closed: the next coat wants a scuff before it. */
  scuffFirst: boolean;
  /** What moved the date since yesterday; null: nothing worth saying. */
  moved: Moved | null;
  /** Readings that came late made the clock count anew. */
  recomputed: string | null;
  /** Hours the room's usual air stands in for a silent sensor. */
  bridgedHours: number;
  sanding: SandingAhead | null;
  /** Next of the recipe's coats at this operation and how many there are; null: none is due. */
  coat: {
    number: number;
    of: number;
    step: string;
    /** Of spraying, for this coat on these pieces, by the route. */
    minutes: number;
    /** When the coats below let it be laid, whatever the air of its booth; null: nobody can say. */
    fromMs: number | null;
    /** Skill that whoever lays it must have; null: it is not asked for. */
    needs: string | null;
  } | null;
}

/** The same as a list of many racks draws it: its rungs to scale, without the numbers behind them. */
export type ListedView = Omit<FinishView, 'rungs'> & {
  rungs: Pick<RungView, 'name' | 'leftUm' | 'progress'>[];
};

/** A ladder as lists show it: its rungs without what only the rack's own page draws. */
export const listed = ({ rungs, ...view }: FinishView): ListedView => ({
  rungs: rungs.map(({ name, leftUm, progress }) => ({ name, leftUm, progress })),
  ...view,
});

interface Question {
  state: BatchState;
  route: Route;
  nowMs: number;
  air: FinishAir;
  /** Test panels sprayed with it that can tell when they are cured; absent: none. */
  panels?: readonly PanelEnd[];
  /** An instant in the factory's words. */
  time: (ms: number, rangeMs?: number) => string;
}

/** Every group of a rack that is still here, as its ladder shows it: in order of the route, then of places. */
export function finishViews(question: Question): FinishView[] {
  const { state, route } = question;
  return groupsOf(state)
    .map((group) => viewOf(question, group))
    .sort(
      (a, b) =>
        operationIndex(route, a.operation) - operationIndex(route, b.operation) ||
        (a.positions[0] ?? 0) - (b.positions[0] ?? 0),
    );
}

interface Group {
  operation: string;
  standing: FinishView['standing'];
  sinceMs: number;
  called: string | null;
  positions: number[];
}

function groupsOf(state: BatchState): Group[] {
  const together = new Map<string, PieceState[]>();
  for (const piece of state.pieces) {
    if (hasLeft(piece)) continue;
    const since = piece.standing === 'onHold' ? piece.sinceMs : 0;
    const id = `${piece.operation}|${piece.standing}|${since}|${piece.called?.reason ?? ''}`;
    together.set(id, [...(together.get(id) ?? []), piece]);
  }
  return [...together.values()].flatMap((pieces) => {
    const [first] = pieces;
    if (!first) return [];
    const { operation, called } = first;
    const standing = first.standing as FinishView['standing'];
    const sinceMs = Math.min(...pieces.map((piece) => piece.sinceMs));
    return coatedAlike(
      state,
      pieces.map(({ position }) => position),
    ).map((positions) => ({ operation, standing, sinceMs, called: called?.reason ?? null, positions }));
  });
}

function viewOf(question: Question, group: Group): FinishView {
  const { state, route, nowMs, air } = question;
  const operation = operationOf(route, group.operation);
  const thickest = thickestOf(state, group.positions);
  const layers = layersOn(state, thickest);
  const hold =
    operation.mode === 'hold' && group.called === null
      ? { room: operation.room, fromMs: group.sinceMs }
      : undefined;
  const stretches = airStretches(layers, air.climateOf, restsOf(state, thickest, hold));
  const rungs = stretches
    ? rungsOf(laidCoats(layers, freedOf(state, thickest)), gatheredAlong(stretches), nowMs)
    : [];
  const [firstMs] = layers.map(({ coat }) => coat.atMs);
  const bridged = stretches && firstMs !== undefined ? bridgedAlong(stretches, firstMs, nowMs) : [];
  // Pieces of a group carry the same coats and sandings: their films differ only where each was read.
  const read = layers.some(({ coat }) => coat.wetUms !== undefined);
  const builds = read
    ? group.positions.map((position) => buildOn(layersOn(state, position)))
    : [buildOn(layers)];
  const asked = coatsAsked(state, operation);
  const first = state.pieces.find(({ position }) => position === group.positions[0]);
  const on = first ? coatsOn(state, first) : 0;
  const due = on < coatsWanted(state, operation) && group.standing !== 'onHold';
  const outlook = outlookOf(
    question,
    group,
    operation,
    layers,
    due ? { number: on + 1, asked: asked.length } : null,
  );
  return {
    operation: operation.key,
    operationName: operation.name,
    station: operation.stations[0] ?? '',
    standing: group.standing,
    positions: group.positions,
    rungs: layers.map((layer, i) => rungView(state, route, layer, rungs[i])),
    buildUm: summarise(builds).mean,
    buildSdUm: buildSd(state, layers, thickest),
    bridgedHours: bridged.reduce((sum, span) => sum + span.toMs - span.fromMs, 0) / HOUR_MS,
    sanding: sandingAhead(state, route, operation, group.positions, layers),
    recomputed: recomputedWords(question, layers, stretches ? restsOf(state, thickest, hold) : []),
    coat: due
      ? {
          number: on + 1,
          of: coatsWanted(state, operation),
          step: asked[on]?.step ?? '',
          minutes: coatMinutes(state, operation) * group.positions.length,
          fromMs: outlook.ready ? nowMs : outlook.fromMs,
          needs: operation.mode === 'attended' && operation.ableOnly ? operation.skill : null,
        }
      : null,
    scuffFirst: false,
    ...outlook,
  };
}

const ZERO: ByUntil = { recoat: 0, sand: 0, buff: 0 };

function rungView(
  state: BatchState,
  route: Route,
  { coat, filmUm, leftUm }: Layer,
  rung: { slabUm: number; gathered: number; needs: ByUntil; progress: ByUntil } | undefined,
): RungView {
  const step = state.finish?.coats.find((one) => one.step === coat.step);
  const operation = route.operations.find(({ key }) => key === coat.operation);
  return {
    name: step?.name ?? operation?.name ?? coat.operation,
    material: coat.spec.material,
    atMs: coat.atMs,
    filmUm,
    leftUm,
    slabUm: rung?.slabUm ?? filmUm,
    gathered: rung?.gathered ?? 0,
    needs: rung?.needs ?? coat.spec.hours,
    progress: rung?.progress ?? ZERO,
    booth: coat.booth ?? null,
    lot: coat.lot ?? null,
    extra: coat.extra ?? null,
  };
}

type Outlook = Pick<
  FinishView,
  'next' | 'ready' | 'title' | 'detail' | 'fromMs' | 'lowMs' | 'highMs' | 'closesMs' | 'moved'
> &
  Partial<Pick<FinishView, 'scuffFirst'>>;
const NO_DATE = { fromMs: null, lowMs: null, highMs: null, closesMs: null, moved: null };

function outlookOf(
  question: Question,
  group: Group,
  operation: Operation,
  layers: readonly Layer[],
  due: { number: number; asked: number } | null,
): Outlook {
  if (group.called !== null)
    return { ...NO_DATE, next: 'held', ready: false, title: 'On hold', detail: `${group.called}.` };
  if (operation.mode === 'hold') return heldOutlook(question, group, operation);
  if (due) return coatOutlook(question, group, operation, layers, due);
  const inHand = group.standing === 'inHand';
  return {
    ...NO_DATE,
    next: 'work',
    ready: true,
    title: inHand ? `In hand at ${operation.name}` : `Waits for ${operation.name}`,
    detail: inHand
      ? `${count(group.positions.length, 'piece')} since ${question.time(group.sinceMs)}.`
      : `${count(group.positions.length, 'piece')}, nothing rests.`,
  };
}

const sentenceCase = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

const VERB: Record<Until, string> = { recoat: 'Recoat', sand: 'Sand', buff: 'Buff' };

function heldOutlook(question: Question, group: Group, operation: HoldOperation): Outlook {
  const { state, nowMs, air, time } = question;
  const context = contextIn(state, group, operation, nowMs, air.climateOf, question.panels);
  const judged = isOver(operation, context);
  const { endMs, lowMs, highMs } = forecastEnd(operation, context);
  const { rule } = operation;
  const next = rule.rule === 'cure' ? rule.until : rule.rule === 'ageing' ? 'age' : 'work';
  const verb = rule.rule === 'cure' ? VERB[rule.until] : operation.name;
  const when =
    rule.rule === 'ageing' && !judged.over
      ? ''
      : judged.over
        ? ' now'
        : endMs === null
          ? ', no date yet'
          : ` ${time(endMs, rangeOf({ lowMs, highMs }))}`;
  return {
    next,
    ready: judged.over,
    title: `${verb}${when}`,
    // The title says what it waits for already.
    detail: sentenceCase(judged.detail ?? judged.sentence),
    fromMs: endMs,
    lowMs,
    highMs,
    closesMs: null,
    moved: judged.over ? null : movedSince({ state, group, operation, context, endMs }),
  };
}

function coatOutlook(
  { state, air, nowMs, time }: Question,
  { positions }: Group,
  operation: Operation,
  layers: readonly Layer[],
  due: { number: number; asked: number },
): Outlook {
  const which = `Coat ${due.number}${due.asked > 0 ? ` of ${due.asked}` : ''} at ${operation.name}`;
  const position = positions[0] ?? 0;
  const seen = recoatView({ state, position, layers, climateOf: air.climateOf, atMs: nowMs });
  if (!seen)
    return {
      ...NO_DATE,
      next: 'coat',
      ready: true,
      title: 'Next coat now',
      detail:
        layers.length === 0
          ? `${which}.`
          : `${which}; no air is logged where it stands, so its recoat clock cannot run.`,
    };
  const { leftHours, closesInHours, scuffed } = seen;
  const when = (hours: number): number | null => {
    const outlook = cureOutlook(seen.samples, nowMs, seen.q);
    return (outlook && whenGathered(outlook, hours, nowMs)?.median) ?? null;
  };
  const closesMs =
    closesInHours === null || scuffed ? null : closesInHours <= 0 ? nowMs : when(closesInHours);
  if (leftHours > 0 && !seen.freed) {
    const fromMs = when(leftHours);
    return {
      next: 'coat',
      ready: false,
      title: fromMs === null ? 'Next coat, no date yet' : `Next coat from ${time(fromMs)}`,
      detail: `${which}; ${leftHours.toFixed(1)} reference hours to recoat.`,
      fromMs,
      lowMs: fromMs,
      highMs: fromMs,
      closesMs,
      moved: null,
    };
  }
  const open = { next: 'coat' as const, fromMs: nowMs, lowMs: nowMs, highMs: nowMs, closesMs, moved: null };
  if (closesInHours !== null && closesInHours <= 0 && !scuffed)
    return {
      ...open,
      ready: false,
      scuffFirst: true,
      title: 'Scuff, then the next coat',
      detail: `${which}; its recoat window closed ${(-closesInHours).toFixed(1)} reference hours ago.`,
    };
  return {
    ...open,
    ready: true,
    title: closesMs === null ? 'Next coat now' : `Next coat before ${time(closesMs)}`,
    detail: `${which}${closesInHours !== null && scuffed ? '; scuffed' : ''}.`,
  };
}

/** Readings that came late within the last day and changed what the coats have gathered, in words. */
function recomputedWords(
  { nowMs, air, time }: Question,
  layers: readonly Layer[],
  rests: readonly RestingSince[],
): string | null {
  const first = layers[0];
  if (!first) return null;
  const rooms = new Set([...rests.map(({ room }) => room), ...layers.map(({ coat }) => coat.room)]);
  for (const { room: where, fromMs, toMs, cameMs } of air.late) {
    const from = Math.max(fromMs, first.coat.atMs);
    if (!rooms.has(where) || cameMs < nowMs - DAY_MS || toMs <= from) continue;
    const samples = air.climateOf(where) ?? [];
    const without = samples.filter(({ atMs }) => atMs < fromMs || atMs >= toMs);
    const { q } = first.coat.spec;
    const now = roomAir(samples)?.hours(from, toMs, q);
    const then = roomAir(without)?.hours(from, toMs, q);
    if (now === undefined || then === undefined) continue;
    const hours = now - then;
    return `Readings of ${where}, ${time(from)} to ${time(toMs)}, came late at ${time(cameMs)}: computed anew, ${Math.abs(hours).toFixed(1)} reference hours ${hours < 0 ? 'fewer' : 'more'}.`;
  }
  return null;
}
