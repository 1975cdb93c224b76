import type { ListedSight } from '@ample-crane/core';
import type { EntryDraft } from '../api/filing.ts';
import type { Booth, ListedRack } from './queries.ts';

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
  sight: ListedSight;
  group: Group;
}

function groupOf({ next, ready }: ListedSight): Group {
  if (next === 'coat') return 'coat';
  if (next === 'work') return ready ? 'bench' : 'curing';
  return ready ? 'now' : 'curing';
}

/** A coat is laid in a booth: its air may be against it now, or soon. */
export function inBooth<S extends ListedSight>(
  sight: S,
  booths: readonly Booth[],
  time: (ms: number) => string,
): S {
  const booth = booths.find(({ station }) => station === sight.station);
  if (sight.next !== 'coat' || !sight.ready || !booth?.now) return sight;
  const { judged } = booth.now;
  if (judged.verdict !== 'spray')
    return {
      ...sight,
      ready: false,
      title: `Hold the coat${booth.opensMs === null ? '' : `, ${booth.name} opens ${time(booth.opensMs)}`}`,
      detail: `${sight.detail} ${booth.name}: ${judged.against.join('; ')}.`,
      fromMs: booth.opensMs,
    };
  const closes = booth.closesMs;
  if (closes === null || (sight.closesMs !== null && sight.closesMs <= closes)) return sight;
  return {
    ...sight,
    closesMs: closes,
    title: `Next coat before ${time(closes)}`,
    detail: `${sight.detail.replace(/\.$/, '')}; after that ${booth.name.toLowerCase()} is too damp.`,
  };
}

/** The ready list: each group of pieces a line, what can be done soonest first; ties by rack and place. */
export function readyLines(
  racks: readonly ListedRack[],
  booths: readonly Booth[] = [],
  time: (ms: number) => string = String,
): Line[] {
  const soonest = ({ sight }: Line): number => sight.closesMs ?? sight.fromMs ?? Infinity;
  return racks
    .flatMap((rack) =>
      rack.sights.map((seen): Line => {
        const sight = inBooth(seen, booths, time);
        return { rack, sight, group: groupOf(sight) };
      }),
    )
    .sort(
      (a, b) =>
        GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) ||
        (soonest(a) === soonest(b) ? 0 : soonest(a) - soonest(b)) ||
        a.rack.dueMs - b.rack.dueMs ||
        a.rack.batch.localeCompare(b.rack.batch) ||
        (a.sight.positions[0] ?? 0) - (b.sight.positions[0] ?? 0),
    );
}

/** The one sentence above the list. */
export function listVerdict(lines: readonly Line[], time: (ms: number) => string): string {
  const codes = (group: Group): string[] => [
    ...new Set(lines.filter((line) => line.group === group).map(({ rack }) => rack.batch)),
  ];
  const now = codes('now');
  const coats = lines.filter(({ group, sight }) => group === 'coat' && sight.ready).length;
  const next = lines
    .filter(({ group, sight }) => group === 'curing' && sight.fromMs !== null)
    .toSorted((a, b) => (a.sight.fromMs ?? 0) - (b.sight.fromMs ?? 0))[0];
  const words = [
    now.length > 0 ? `Ready: ${now.join(', ')}` : 'Nothing has cured through now',
    coats > 0 ? `${coats} may get ${coats === 1 ? 'its' : 'their'} next coat` : '',
    next ? `next is ${next.rack.batch}, ${lower(next.sight.title)}` : '',
  ].filter(Boolean);
  const closes = lines.find(({ group, sight }) => group === 'coat' && sight.closesMs !== null);
  const window = closes?.sight.closesMs
    ? ` Coat ${closes.rack.batch} before ${time(closes.sight.closesMs)}.`
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
export function deedOf({ sight }: Pick<Line, 'sight'>, skills: readonly string[] = []): Deed | null {
  const here = { operation: sight.operation, pieces: sight.positions };
  if (sight.standing === 'onHold') {
    const frees = sight.ready && (sight.next === 'sand' || sight.next === 'buff' || sight.next === 'recoat');
    return frees ? { label: `End hold, on to ${sight.next}`, entry: { type: 'end', ...here } } : null;
  }
  if (sight.coat && sight.standing === 'inHand') {
    const { needs } = sight.coat;
    if (sight.ready && needs !== null && !skills.includes(needs)) return null;
    if (sight.ready)
      return {
        label: `Log coat ${sight.coat.number}`,
        entry: { type: 'coat', ...here, number: sight.coat.number },
      };
    if (sight.title.startsWith('Scuff'))
      return { label: 'Note the scuff', entry: { type: 'sand', ...here, scuff: true } };
  }
  return null;
}
