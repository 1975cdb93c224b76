import { count } from '../ledger/index.ts';
import type { BoothJudgement } from '../finishing/booth.ts';
import type { Supply } from '../finishing/materials.ts';
import { sprayFirstWords, type SprayFirst } from '../finishing/spraying.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import type { SingleCall } from './call.ts';

/** A booth as calls see it. */
export interface BoothView {
  code: string;
  name: string;
  /** What its air says now; null: nobody logs it. */
  judged: BoothJudgement | null;
  /** The first moment to come at which one may no longer spray, or may again; null: not within what is forecast. */
  closesMs: number | null;
  opensMs: number | null;
  /** What is forecast to stand against it from that moment on. */
  closesAgainst: readonly string[];
  /** How many racks want spraying here. */
  racks: number;
  /** What to spray before it closes; null: nothing is due by then, or it does not close. */
  first: SprayFirst | null;
  filterHours: number;
  filterLifeHours: number;
}

/** A mix that is being used up. */
export interface MixView {
  code: string;
  material: string;
  endsMs: number;
  /** Somebody threw it away or used it up: nothing to call. */
  ended: boolean;
  leftLitres: number;
}

/** The stock of one material at the current plan. */
export interface MaterialView {
  material: string;
  supply: Supply;
  /** Days until more can be had. */
  leadDays: number;
}

/** A test panel that says another date than the clock. */
export interface PanelView {
  panel: string;
  batch: string;
  pieces: number;
  /** When the panel's fit says it was cured, and when the clock would. */
  curedMs: number;
  clockMs: number;
}

/** Blushed lacquer on a rack costs it a stay; a booth that stands still costs the racks in front of it a day each. */
const BLUSH_COST = 3;
const FILTER_COST = 1;
const MIX_COST = 0.8;
const SHORT_COST = 2.5;
/** A mix is called so long before its end, hours. */
export const MIX_WARNING_HOURS = 1;

const alone = (subject: string): Pick<SingleCall, 'subject' | 'cause' | 'pieces'> => ({
  subject,
  cause: null,
  pieces: 0,
});

/** Calls for booths that will blush or whose filters are at their end. */
export function boothCalls(
  booths: readonly BoothView[],
  nowMs: number,
  time: (ms: number) => string,
): SingleCall[] {
  return booths.flatMap((booth) => [...airCall(booth, nowMs, time), ...filterCall(booth)]);
}

function airCall(booth: BoothView, nowMs: number, time: (ms: number) => string): SingleCall[] {
  const { code, name, judged, closesMs, opensMs, closesAgainst, racks, first } = booth;
  if (!judged || racks === 0) return [];
  const href = `/finish/booths/${code}`;
  const common = { id: `booth:${code}`, kind: 'booth' as const, ...alone(name), evidence: href };
  const see = { label: 'See the booth', href };
  if (judged.verdict !== 'spray')
    return [
      {
        ...common,
        title: `${name}: do not spray now`,
        detail: `${judged.against.join('; ')}. ${count(racks, 'rack')} ${racks === 1 ? 'waits' : 'wait'} here${opensMs === null ? '' : `; forecast to open ${time(opensMs)}`}.`,
        cost: BLUSH_COST * racks,
        actions: [see],
      },
    ];
  if (closesMs === null || closesMs - nowMs > 12 * HOUR_MS || !first) return [];
  return [
    {
      ...common,
      title: `${name} closes ${time(closesMs)}`,
      detail:
        `${closesAgainst.length === 0 ? '' : `Forecast: ${closesAgainst.join('; ')}. `}` +
        sprayFirstWords(first, nowMs, time),
      cost: BLUSH_COST,
      actions: [see, { label: `See ${first.batch}`, href: `/finish/rack/${first.batch}` }],
    },
  ];
}

function filterCall({ code, name, filterHours, filterLifeHours }: BoothView): SingleCall[] {
  if (filterHours < filterLifeHours) return [];
  const href = `/finish/booths/${code}`;
  return [
    {
      id: `filters:${code}`,
      kind: 'booth',
      ...alone(name),
      title: `${name} wants new filters`,
      detail: `${filterHours.toFixed(0)} hours of spraying since they were changed, ${filterLifeHours.toFixed(0)} allowed.`,
      cost: FILTER_COST,
      actions: [{ label: 'See the booth', href }],
      evidence: href,
    },
  ];
}

/** Calls for mixes that go off and stock that runs out before more can come. */
export function materialCalls(
  options: { mixes: readonly MixView[]; materials: readonly MaterialView[] },
  nowMs: number,
  time: (ms: number) => string,
): SingleCall[] {
  const evidence = '/finish/materials';
  const see = { label: 'See the materials', href: evidence };
  return [
    ...options.mixes
      .filter(({ ended, endsMs }) => !ended && endsMs - nowMs <= MIX_WARNING_HOURS * HOUR_MS)
      .map(({ code, material, endsMs, leftLitres }): SingleCall => {
        const over = endsMs <= nowMs;
        return {
          id: `mix:${code}`,
          kind: 'material',
          subject: code,
          cause: 'mixes are at the end of their pot life',
          pieces: 0,
          title: over ? `Mix ${code} is past its pot life` : `Mix ${code} goes off ${time(endsMs)}`,
          detail: `${material}, about ${leftLitres.toFixed(1)} l left${over ? `; its pot life ended ${time(endsMs)}: no more coats from it` : '; lay the coats it is meant for, or mix less next time'}.`,
          cost: over ? 2 * MIX_COST : MIX_COST,
          actions: [see],
          evidence,
        };
      }),
    ...options.materials.flatMap(({ material, supply, leadDays }): SingleCall[] => {
      const { runsOut, litres, plannedLitres, shortLitres, wastedLitres } = supply;
      if (!runsOut || runsOut.atMs - nowMs >= leadDays * DAY_MS) return [];
      const days = Math.max(0, (runsOut.atMs - nowMs) / DAY_MS);
      const when = runsOut.atMs <= nowMs ? 'now' : `${time(runsOut.atMs)} at the soonest`;
      return [
        {
          id: `material:${material}`,
          kind: 'material',
          subject: material,
          cause: 'materials do not reach',
          pieces: 0,
          title: litres > 0 ? `${material} does not reach ${runsOut.batch}` : `There is no ${material} left`,
          detail: `${litres.toFixed(1)} l usable; the racks ahead take ${plannedLitres.toFixed(1)} l by their recipes, ${shortLitres.toFixed(1)} l are missing. ${runsOut.batch} wants its coats ${when}; more takes ${count(leadDays, 'day')}.${wastedLitres > 0.05 ? ` ${wastedLitres.toFixed(1)} l of the stock will be past their date first.` : ''}`,
          cost: SHORT_COST * (1 + leadDays - days),
          actions: [see],
          evidence,
        },
      ];
    }),
  ];
}

/** Calls for racks whose test panel is cured before their clock is. */
export function panelCalls(panels: readonly PanelView[], time: (ms: number) => string): SingleCall[] {
  return panels.map(({ panel, batch, pieces, curedMs, clockMs }) => ({
    id: `panel:${panel}:${batch}`,
    kind: 'panel',
    subject: batch,
    cause: 'panels',
    pieces,
    title: `Test panel ${panel} says ${batch} is cured`,
    detail: `The panel was cured ${time(curedMs)}; the clock says ${time(clockMs)}. ${count(pieces, 'piece')} could go on now for a reason: the clock is later and holds.`,
    cost: (pieces * Math.max(0, clockMs - curedMs)) / DAY_MS / 2,
    actions: [{ label: 'See the evidence', href: `/finish/rack/${batch}` }],
    evidence: `/finish/panels/${panel}`,
  }));
}
