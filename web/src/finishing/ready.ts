import type { ListedView } from '@ample-crane/core';
import type { EntryDraft } from '../api/filing.ts';
import type { ListedRack } from './queries.ts';

/** What the list is read in: what may go on, what wants its next coat, what cures, what stands at a bench. */
export const GROUPS = ['now', 'coat', 'curing', 'bench'] as const;
export type Group = (typeof GROUPS)[number];
export const GROUP_NAMES: Record<Group, string> = {
  now: 'May go on now',
  coat: 'Next coat',
  curing: 'Curing',
  bench: 'At the benches',
};

export interface Line {
  rack: ListedRack;
  view: ListedView;
  group: Group;
}

function groupOf({ next, ready }: ListedView): Group {
  if (next === 'coat') return 'coat';
  if (next === 'work') return ready ? 'bench' : 'curing';
  return ready ? 'now' : 'curing';
}

/** The ready list: each group of pieces a line, what can be done soonest first; ties by rack and place. */
export function readyLines(racks: readonly ListedRack[]): Line[] {
  const soonest = ({ view }: Line): number => view.closesMs ?? view.fromMs ?? Infinity;
  return racks
    .flatMap((rack) => rack.views.map((view): Line => ({ rack, view, group: groupOf(view) })))
    .sort(
      (a, b) =>
        GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) ||
        (soonest(a) === soonest(b) ? 0 : soonest(a) - soonest(b)) ||
        a.rack.dueMs - b.rack.dueMs ||
        a.rack.batch.localeCompare(b.rack.batch) ||
        (a.view.positions[0] ?? 0) - (b.view.positions[0] ?? 0),
    );
}

/** The one sentence above the list. */
export function listVerdict(lines: readonly Line[], time: (ms: number) => string): string {
  const codes = (group: Group): string[] => [
    ...new Set(lines.filter((line) => line.group === group).map(({ rack }) => rack.batch)),
  ];
  const now = codes('now');
  const coats = lines.filter(({ group, view }) => group === 'coat' && view.ready).length;
  const next = lines
    .filter(({ group, view }) => group === 'curing' && view.fromMs !== null)
    .toSorted((a, b) => (a.view.fromMs ?? 0) - (b.view.fromMs ?? 0))[0];
  const words = [
    now.length > 0 ? `Ready: ${now.join(', ')}` : 'Nothing has cured through now',
    coats > 0 ? `${coats} may get ${coats === 1 ? 'its' : 'their'} next coat` : '',
    next ? `next is ${next.rack.batch}, ${lower(next.view.title)}` : '',
  ].filter(Boolean);
  const closes = lines.find(({ group, view }) => group === 'coat' && view.ready && view.closesMs !== null);
  const window = closes?.view.closesMs
    ? ` Coat ${closes.rack.batch} before ${time(closes.view.closesMs)}.`
    : '';
  return `${words.join('; ')}.${window}`;
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

export interface Deed {
  label: string;
  entry: EntryDraft;
}

/**
 * What can be done with a line by one touch of somebody with these skills; null: nothing, or it wants a decision on the rack's
 * page, such as who does it.
 */
export function deedOf({ view }: Pick<Line, 'view'>, skills: readonly string[] = []): Deed | null {
  const here = { operation: view.operation, pieces: view.positions };
  if (view.standing === 'onHold') {
    const frees = view.ready && (view.next === 'sand' || view.next === 'buff' || view.next === 'recoat');
    return frees ? { label: `End hold, on to ${view.next}`, entry: { type: 'end', ...here } } : null;
  }
  if (view.coat && view.standing === 'inHand') {
    const { needs } = view.coat;
    if (view.ready && needs !== null && !skills.includes(needs)) return null;
    if (view.ready)
      return {
        label: `Log coat ${view.coat.number}`,
        entry: { type: 'coat', ...here, number: view.coat.number },
      };
    if (view.scuffFirst) return { label: 'Note the scuff', entry: { type: 'sand', ...here, scuff: true } };
  }
  return null;
}
