import { count } from '../ledger/index.ts';
import { limitsWords, valueWords, type Check } from '../machining/check.ts';
import type { Drift } from '../machining/drift.ts';
import { driftPieces, type RangeHit } from '../machining/look-chart.ts';
import { RUN_RULES, type RunHit } from '../machining/run-rules.ts';
import type { SingleCall } from './call.ts';

/** One dimension as its chart sees it. */
export interface DimensionView {
  model: string;
  kind: string;
  check: Check;
  /** Pieces cut for each point of the chart. */
  piecesAPoint: number;
  drift: Drift | null;
  /** The strongest rule its newest point completes; null: none. */
  hit: RunHit | null;
  /** The range of its newest look, beyond its limits; null: inside. */
  rangeHit: RangeHit | null;
  /** Values of the newest look outside its spec. */
  outside: number[];
  /** Where its chart is. */
  href: string;
}

export interface CutterView {
  station: string;
  stationName: string;
  tool: string;
  usedMinutes: number;
  lifeMinutes: number;
  /** Loads that wait and would take it past its life; null: none. */
  pastWith: string | null;
}

export interface MachineView {
  code: string;
  name: string;
  station: string;
  trouble: string | null;
  /** Cycles it ran that nobody has confirmed. */
  open: number;
}

/** A dimension that leaves its limits spoils loads; what is left of it decides the cost. */
const SPOILT_LOAD_COST = 6;
const HIT_COST = 1.2;
const CUTTER_COST = 1.5;
const MACHINE_COST = 2;
const UNCONFIRMED_COST = 0.4;
/** A limit further away than this is not yet worth a call, pieces. */
const SOON_PIECES = 150;

/** Calls for dimensions that drift or break a run rule, cutters at their end, and machines that cannot be trusted. */
export function millCalls(options: {
  dimensions: readonly DimensionView[];
  cutters: readonly CutterView[];
  machines: readonly MachineView[];
}): SingleCall[] {
  return [
    ...options.dimensions.flatMap(dimensionCall),
    ...options.cutters.flatMap(cutterCall),
    ...options.machines.flatMap(machineCall),
  ];
}

function dimensionCall(view: DimensionView): SingleCall[] {
  const { check, model, kind, drift, hit, href, piecesAPoint } = view;
  const name = `${model} ${kind}: ${check.name.toLowerCase()}`;
  const common = {
    kind: 'dimension' as const,
    subject: name,
    cause: null,
    pieces: 0,
    actions: [{ label: 'See the chart', href }],
    evidence: href,
  };
  const id = `dimension:${model}:${kind}:${check.key}`;
  if (view.outside.length > 0)
    return [
      {
        ...common,
        id,
        title: `${name} is outside its limits`,
        detail: `The last look has ${view.outside.map((value) => valueWords(check, value)).join(', ')}; limits ${limitsWords(check)}.`,
        cost: SPOILT_LOAD_COST,
      },
    ];
  const reach = drift ? driftPieces(drift, piecesAPoint) : null;
  if (drift && reach && reach.about <= SOON_PIECES) {
    const when =
      reach.about === 0 ? `is at its ${drift.toward} limit` : `will reach its limit in ${reach.words}`;
    return [
      {
        ...common,
        id,
        title: `${name} ${when}`,
        detail: `Now ${drift.now.toFixed(2)} ${check.unit} by its trend, ${drift.slope > 0 ? 'rising' : 'falling'} ${Math.abs(drift.slope / piecesAPoint).toFixed(4)} a piece; limits ${limitsWords(check)}; 90 % range.`,
        cost: SPOILT_LOAD_COST / (1 + reach.about / 20),
      },
    ];
  }
  const broken = hit
    ? `${RUN_RULES[hit.rule].name}, ${hit.side} the centre`
    : view.rangeHit && `its pieces differ too ${view.rangeHit.side === 'above' ? 'much' : 'little'}`;
  if (!broken) return [];
  return [
    {
      ...common,
      id,
      title: `${name} is out of control`,
      detail: `Its newest look breaks a rule: ${broken}.`,
      cost: HIT_COST,
    },
  ];
}

function cutterCall({
  station,
  stationName,
  tool,
  usedMinutes,
  lifeMinutes,
  pastWith,
}: CutterView): SingleCall[] {
  const over = usedMinutes >= lifeMinutes;
  if (!over && pastWith === null) return [];
  const href = `/mill/${station}`;
  return [
    {
      id: `cutter:${station}:${tool}`,
      kind: 'cutter',
      subject: tool,
      cause: stationName,
      pieces: 0,
      title: over ? `${tool} at ${stationName} is past its life` : `Change ${tool} at ${stationName} soon`,
      detail:
        `${Math.round(usedMinutes)} of ${Math.round(lifeMinutes)} cut minutes used.` +
        (pastWith === null ? '' : ` ${pastWith} would take it past its life.`),
      cost: over ? 2 * CUTTER_COST : CUTTER_COST,
      actions: [{ label: 'See the cutters', href }],
      evidence: href,
    },
  ];
}

function machineCall({ code, name, station, trouble, open }: MachineView): SingleCall[] {
  const href = `/mill/${station}`;
  const common = { kind: 'machine' as const, subject: name, cause: null, pieces: 0, evidence: href };
  const calls: SingleCall[] = [];
  if (trouble !== null)
    calls.push({
      ...common,
      id: `machine:${code}`,
      title: `${name} cannot be trusted now`,
      detail: trouble,
      cost: MACHINE_COST,
      actions: [{ label: 'See the machine', href }],
    });
  if (open > 0)
    calls.push({
      ...common,
      id: `machine-cycles:${code}`,
      title: `${name} ran ${count(open, 'cycle')} nobody has confirmed`,
      detail: 'Its counts are proposals until an operator says what they were.',
      cost: UNCONFIRMED_COST * open,
      actions: [{ label: 'Confirm', href }],
    });
  return calls;
}
