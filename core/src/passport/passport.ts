import { wetUmOn } from '../coats/index.ts';
import type { BatchState, Confirm, Freed, Sheet } from '../ledger/index.ts';
import { judgedValues } from '../holds/index.ts';
import type { Route } from '../route/index.ts';
import { judgeSetup } from '../assembly/setup.ts';
import { valuesAt } from '../measuring/index.ts';
import { valueWords, YES_NO } from '../machining/check.ts';
import { deltaE2000 } from '../finishing/delta-e.ts';
import { dryFilmUm } from '../finishing/film.ts';
import { summarise } from '../stats/descriptive.ts';

/** What a line of a passport is about; 'override' is what rules were passed by. */
export type PassportKind =
  | 'moisture'
  | 'measure'
  | 'coat'
  | 'sanding'
  | 'colour'
  | 'ageing'
  | 'evidence'
  | 'slip'
  | 'move'
  | 'tag'
  | 'sheet'
  | 'shipment'
  | 'override';

/** One thing that happened to a piece and is kept with it for ever. */
export interface PassportLine {
  atMs: number;
  kind: PassportKind;
  /** Name of the operation it happened at. */
  at: string;
  words: string;
  /** What the rule said against it; null: nothing did. */
  against: string | null;
  /** Code of who decided it; null: nobody had to. */
  by: string | null;
}

const EVIDENCE: Record<Freed['on'], string> = {
  clock: 'by the clock',
  panel: 'on a test panel',
  mark: 'on a mark test',
  sight: 'by eye',
  reason: 'rule passed by',
};

/**
 * Everything the log of its batch keeps about one piece, oldest first; of one moment, what was judged comes before what was
 * done, and a sanding before the coat it was for. What was logged of the
 * rack without telling pieces apart counts for each of them.
 */
export function passportOf(state: BatchState, route: Route, position: number): PassportLine[] {
  const name = (key: string): string => route.operations.find((one) => one.key === key)?.name ?? key;
  const line = (
    kind: PassportKind,
    { atMs, operation }: { atMs: number; operation: string },
    words: string,
    decided: { against?: string; by?: string } = {},
  ): PassportLine => ({
    ...{ atMs, kind, at: name(operation), words },
    against: decided.against ?? null,
    by: decided.by ?? null,
  });
  const shipping = route.operations.find(({ mode }) => mode === 'ship');
  const touches = ({ positions }: { positions: readonly number[] }): boolean => positions.includes(position);
  return [
    ...state.readings.flatMap((set) => {
      const own = ownValue(judgedValues(set), set.positions, position);
      const shown = set.correctedPct && ownValue(set.valuesPct, set.positions, position);
      const raw = shown ? `, shown as ${shown.value.toFixed(1)}` : '';
      const meter = set.meter === undefined ? '' : `, meter ${set.meter}`;
      return own
        ? [line('moisture', set, `${own.value.toFixed(1)} % moisture${raw}${meter}${own.words}`)]
        : [];
    }),
    ...(state.checks ?? []).flatMap((set) => {
      const own = ownValue(set.values, set.positions, position);
      const check = set.check.replaceAll('-', ' ');
      return own ? [line('measure', set, `${check} ${own.value.toFixed(3)}${own.words}`)] : [];
    }),
    ...state.measures.map((set) =>
      line('measure', set, `action ${summarise(set.valuesMm).mean.toFixed(2)} mm, mean of the rack`),
    ),
    ...(state.sheets ?? [])
      .filter((sheet) => sheet.position === position)
      .map((sheet) => line('sheet', sheet, sheetWords(route, sheet), { by: sheet.by })),
    ...(state.confirms ?? [])
      .filter(({ right, wrong }) => [...right, ...wrong].includes(position))
      .map((one) => line('tag', one, confirmWords(state, one, position), { by: one.by })),
    ...(state.shipments ?? [])
      .filter(touches)
      .map((one) =>
        line(
          'shipment',
          { atMs: one.atMs, operation: shipping?.key ?? '' },
          [
            `shipped${one.to ? ` to ${one.to}` : ''}`,
            one.order && `order ${one.order}`,
            one.carrier && `carrier ${one.carrier}`,
            one.contents && `with ${one.contents}`,
          ]
            .filter(Boolean)
            .join(', '),
          { by: one.by },
        ),
      ),
    // What was ended past its rule stands among the overrides, with what the rule said.
    ...(state.freed ?? [])
      .filter((one) => touches(one) && one.on !== 'reason')
      .map((one) => line('evidence', one, `hold ended ${EVIDENCE[one.on]}: ${one.words}`, { by: one.by })),
    ...state.overrides
      .filter(({ positions }) => positions === undefined || positions.includes(position))
      .map((one) => line('override', one, one.reason, one)),
    ...(state.slips ?? [])
      .filter(touches)
      .map((one) =>
        line(
          'slip',
          one,
          `${one.reason}${one.cause ? `: ${one.cause}` : ''}${one.origin ? `, caused at ${one.origin}` : ''}; back to ${name(one.to)}`,
          { by: one.by },
        ),
      ),
    ...(state.sandings ?? [])
      .filter(touches)
      .map((one) =>
        line(
          'sanding',
          one,
          `${one.removalUm.toFixed(0)} µm off${one.measured ? ', read' : ''}${one.grits.length > 0 ? `, grit ${one.grits.join(' → ')}` : ''}`,
        ),
      ),
    ...state.coats.filter(touches).map((coat) => line('coat', coat, coatWords(state, coat, position))),
    ...(state.colours ?? []).flatMap((set) => {
      const lab = set.labs[set.positions.indexOf(position)];
      const target = state.finish?.colour?.lab;
      return lab
        ? [
            line(
              'colour',
              set,
              `L* ${lab.l} a* ${lab.a} b* ${lab.b}${target ? `, ΔE ${deltaE2000(target, lab).toFixed(1)} to ${state.finish?.colour?.name ?? 'its target'}` : ''}`,
            ),
          ]
        : [];
    }),
    ...(state.ageing ?? [])
      .filter(touches)
      .map((turn) => line('ageing', turn, turn.to === 'cold' ? 'into the cold' : 'out to warm')),
    ...(state.moves ?? []).map((move) =>
      line(
        'move',
        { atMs: move.atMs, operation: move.to },
        `on ${move.to} from ${move.from}: ${move.reason}`,
        {
          by: move.by,
        },
      ),
    ),
  ].sort((a, b) => a.atMs - b.atMs);
}

/** The value of one place; the mean, and of how many, where they were not told apart; undefined where it was left out. */
function ownValue(
  values: readonly number[],
  positions: readonly number[],
  position: number,
): { value: number; words: string } | undefined {
  if (positions.length === 0)
    return values.length === 0
      ? undefined
      : { value: summarise(values).mean, words: `, mean of ${values.length} read on the rack` };
  const value = values[positions.indexOf(position)];
  return value === undefined ? undefined : { value, words: '' };
}

/** 'Frets jumbo, as its tag says'. */
function confirmWords(
  { allotted = [] }: BatchState,
  { option, value, right }: Confirm,
  position: number,
): string {
  const known = allotted.flatMap(({ spec }) => spec.lines).filter((one) => one.option === option);
  const name = known[0]?.name ?? option;
  const called = known.find((one) => one.value === value)?.valueName ?? value;
  return `${name} ${called}, ${right.includes(position) ? 'as its tag says' : 'not what its tag says: caught there'}`;
}

function coatWords(state: BatchState, coat: BatchState['coats'][number], position: number): string {
  const step = state.finish?.coats.find((one) => one.step === coat.step);
  const { spec, wetUm } = coat;
  const film = spec
    ? `, ${dryFilmUm({ wetUm: wetUmOn({ ...coat, spec }, position), solidsPct: spec.solidsPct }).toFixed(1)} µm dry`
    : wetUm === null
      ? ''
      : `, ${wetUm} µm wet`;
  const where = [coat.booth, coat.lot && `lot ${coat.lot}`].filter(Boolean).join(', ');
  return `${step?.name ?? 'coat'}${film}${where ? `, ${where}` : ''}${coat.extra ? `; extra: ${coat.extra}` : ''}`;
}

/** Every value of a sheet by its name, and what the sheet says as a whole. */
function sheetWords(route: Route, { operation, values, note }: Sheet): string {
  const checks = route.operations.find(({ key }) => key === operation)?.checks ?? [];
  const read = checks.filter(({ key }) => values[key] !== undefined);
  const told = read.map(
    (check) => `${check.name.toLowerCase()} ${valueWords(check, values[check.key] ?? 0)}`,
  );
  const { verdict } = judgeSetup(values, read);
  return `${told.join(', ')}${verdict === 'adjust' ? '; outside its limits' : ''}${note ? `; ${note}` : ''}`;
}

/** One value of an instrument as it was set up, and as it was when it had settled. */
export interface SetUpValue {
  key: string;
  name: string;
  unit: string;
  /** Null: not read there. */
  atSetUp: number | null;
  settled: number | null;
}

/**
 * How an instrument was set up and how it had settled: of each check the last value that counts, since it was sent back if it was.
 * Empty for a piece that was never on a bench with a settling shelf behind it.
 */
export function setUpOf(state: BatchState, route: Route, position: number): SetUpValue[] {
  const shelf = route.operations.findIndex((one) => one.mode === 'hold' && one.rule.rule === 'settle');
  const settle = route.operations[shelf];
  const setUp = route.operations.slice(0, Math.max(0, shelf)).findLast(({ checks }) => checks);
  const piece = state.pieces.find((one) => one.position === position);
  if (!settle || !setUp || !piece) return [];
  const [before, after] = [setUp, settle].map((operation) => valuesAt(state, operation)(piece));
  return (setUp.checks ?? []).flatMap(({ key, name, unit }) => {
    const [atSetUp = null, settled = null] = [before?.[key], after?.[key]];
    return unit === YES_NO || (atSetUp === null && settled === null)
      ? []
      : [{ key, name, unit, atSetUp, settled }];
  });
}
