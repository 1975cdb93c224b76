import { momentaryConstraint, type StationInterval } from './active-periods.ts';
import type { ConstraintSigns } from './constraint-verdict.ts';
import { saturated } from './saturation.ts';

/** Something that can pace a factory: a station's places, those who can do something, the places of a room. */
export interface Resource {
  code: string;
  by: 'station' | 'skill';
  /** Places, or people. */
  capacity: number;
  /** Hours it has in the window. */
  hoursThere: number;
  /** What it worked on, a span for each place or person that was taken, ms of one axis without closed hours. */
  busy: readonly { fromMs: number; toMs: number }[];
  /** Hours in hand in evenings of a station's own, which that axis does not have; left out: there were none. */
  eveningHours?: number;
  /** What waited for it, with the hours of work it is there. */
  waiting: readonly { fromMs: number; toMs: number; hours: number }[];
  /** Hours of work that came to it in the window, what goes round again counted again. */
  hoursOffered: number;
  /** Pieces that came with it; left out: nobody counted. */
  piecesOffered?: number;
}

/**
 * The three signs of each resource over a window. Times are on an axis on which nights and closed days have no length, so that neither
 * breaks what was busy nor lets it look busy.
 * @param options.windowMs length of the window on that axis
 * @param options.days working days in it
 */
export function constraintSigns(options: {
  resources: readonly Resource[];
  windowMs: number;
  days: number;
}): ConstraintSigns[] {
  const { resources, windowMs, days } = options;
  const full = resources.flatMap(({ code, by, capacity, busy, waiting }): StationInterval[] =>
    capacity >= 1 ? saturated({ station: nameOf({ code, by }), capacity, busy, waiting }) : [],
  );
  const shares = new Map(momentaryConstraint(full).map((share) => [share.station, share]));
  const [first] = full;
  const fromMs = full.reduce((least, one) => Math.min(least, one.fromMs), first?.fromMs ?? 0);
  const toMs = full.reduce((most, one) => Math.max(most, one.toMs), first?.toMs ?? 0);
  // Shares are of the time from the first to the last activity: of the window they are so much less.
  const ofWindow = windowMs > 0 ? Math.min(1, (toMs - fromMs) / windowMs) : 0;
  return resources.map(({ code, by, hoursThere, hoursOffered, waiting }) => {
    const share = shares.get(nameOf({ code, by }));
    const waitedHours = waiting.reduce((sum, one) => sum + (one.toMs - one.fromMs) * one.hours, 0);
    const hoursADay = days > 0 ? hoursThere / days : 0;
    return {
      ...{ code, by },
      loadShare: hoursThere > 0 ? hoursOffered / hoursThere : 0,
      soleShare: (share?.soleShare ?? 0) * ofWindow,
      shiftingShare: (share?.shiftingShare ?? 0) * ofWindow,
      queueDays: windowMs > 0 && hoursADay > 0 ? waitedHours / windowMs / hoursADay : 0,
    };
  });
}

const nameOf = ({ code, by }: Pick<Resource, 'code' | 'by'>): string => `${by} ${code}`;
