import type { PartShortage } from '../kits/index.ts';
import { count } from '../ledger/index.ts';
import { spanWords } from '../time/span-words.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import type { SingleCall } from './call.ts';

/** A shortage with what the part is called. */
export interface NamedPartShortage extends PartShortage {
  name: string;
  onHand: number;
  supplier: string;
}

/** A purchase is called for so long before it must be made, days. Default. */
export const ORDER_WARNING_DAYS = 2;
/** A rack that will stand is called so long before, days. Default. */
export const STANDING_WARNING_DAYS = 3;
/** An instrument without its part stands all day. */
const STANDING_COST = 1;
/** A day of a purchase put off is a day of one rack later on. */
const ORDER_COST = 0.5;
const MOST_NAMED = 3;
const SHORTAGES = '/kits';

/** Parts that must be ordered now, and racks that will soon stand for one that comes too late. */
export function kitCalls(shortages: readonly NamedPartShortage[], nowMs: number): SingleCall[] {
  return shortages.flatMap((shortage) => {
    const { orderByMs, part } = shortage;
    if (orderByMs !== null && orderByMs <= nowMs + ORDER_WARNING_DAYS * DAY_MS)
      return [toOrder(shortage, orderByMs, nowMs)];
    const standing = shortage.racks.filter(
      ({ wantMs, comesMs }) => comesMs !== null && wantMs <= nowMs + STANDING_WARNING_DAYS * DAY_MS,
    );
    const [first] = standing;
    if (!first) return [];
    const latest = Math.max(...standing.map(({ comesMs }) => comesMs ?? nowMs));
    const missing = standing.reduce((sum, { short }) => sum + short, 0);
    const pieces = standing.reduce((sum, one) => sum + one.pieces, 0);
    return [
      {
        ...common(shortage),
        id: `kit-late:${part}`,
        cause: 'parts come too late',
        pieces,
        title: `${first.rack} will stand for ${shortage.name}`,
        detail: `${shortage.onHand} there, ${missing} missing for ${namedRacks(standing)}; the rest comes ${inWords(latest - nowMs)}.`,
        cost: STANDING_COST * pieces,
      },
    ];
  });
}

function toOrder(shortage: NamedPartShortage, orderByMs: number, nowMs: number): SingleCall {
  const { part, name, supplier, toOrder: missing, racks, hereByMs } = shortage;
  const open = racks.filter(({ comesMs }) => comesMs === null);
  const late = orderByMs < nowMs;
  const byLead = late
    ? `By its lead time it should have been ordered ${spanWords((nowMs - orderByMs) / HOUR_MS)} ago`
    : `It must be ordered ${inWords(orderByMs - nowMs)}`;
  return {
    ...common(shortage),
    id: `kit-order:${part}`,
    cause: 'parts must be ordered',
    pieces: 0,
    title: `Order ${missing} of ${part} ${name}`,
    detail: `${byLead}, of ${supplier}, to be here ${inWords((hereByMs ?? nowMs) - nowMs)} for ${namedRacks(open)}.`,
    cost: ORDER_COST * open.length * (late ? 2 : 1),
  };
}

const common = ({
  part,
}: NamedPartShortage): Pick<SingleCall, 'kind' | 'subject' | 'actions' | 'evidence'> => ({
  ...{ kind: 'kit', subject: part, evidence: SHORTAGES },
  actions: [{ label: 'See the part', href: `/kits/parts/${part}` }],
});

const inWords = (ms: number): string => (ms <= 0 ? 'now' : `in ${spanWords(ms / HOUR_MS)}`);

function namedRacks(racks: readonly { rack: string }[]): string {
  const names = [...new Set(racks.map(({ rack }) => rack))];
  const more = names.length - MOST_NAMED;
  return more > 0
    ? `${names.slice(0, MOST_NAMED).join(', ')} and ${count(more, 'rack')} more`
    : names.join(', ');
}
