import { setImmediate } from 'node:timers/promises';
import {
  constraintSigns,
  constraintVerdict,
  countUpTo,
  momentarySpans,
  saturated,
  type ConstraintSigns,
  type ConstraintVerdict,
  type LoggedStay,
  type LogWindow,
  type Resource,
  type Stage,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { AskedTogether } from '../live/asked-together.ts';
import { LogWindowsService, namesIn, windowOf, type LoggedDays } from './log-windows.service.ts';

/** A stretch of the window, both ends as shares of it. */
export type ShareSpan = [from: number, to: number];

/** One station, or one skill, as the three signs see it. */
export interface ResourceView extends ConstraintSigns {
  name: string;
  /** Where a station stands; null: a skill. */
  stage: Stage | null;
  /** Places, or people who can. */
  capacity: number;
  /** Skills its work needs; of a skill, the stations it is needed at. Codes. */
  goesWith: string[];
  hoursOfferedADay: number;
  hoursADay: number;
  /** When it could take no more, and when it paced. */
  full: ShareSpan[];
  paced: ShareSpan[];
  /** Working days of work before it, at the end of each day of the window. */
  queue: number[];
  /** For how many working days what waits longest waits; null: nothing does. */
  oldestDays: number | null;
}

/** What a week of the log says by itself. */
export interface ConstraintWeek {
  fromMs: number;
  toMs: number;
  code: string | null;
  by: 'station' | 'skill' | null;
  name: string | null;
  sureness: number;
}

export interface ConstraintView {
  nowMs: number;
  zone: string;
  fromMs: number;
  /** Working days of the window, today in part. */
  days: number;
  verdict: ConstraintVerdict;
  /** What the signs speak for most first. */
  rows: ResourceView[];
  weeks: ConstraintWeek[];
  /** Since when it has been the same by weeks; null: it is none, or has been so for as long as was looked at. */
  sinceMs: number | null;
  /** Pieces a day that one more hour a day there would bring, and up to how many more, when another paces. Null: nobody paces. */
  hourWorth: { pieces: number; upTo: number | null; next: string | null } | null;
  /** Names of those where an hour saved brings nothing. */
  idle: string[];
}

const WEEK_DAYS = 5;
/** Less of its hours are asked for: an hour saved there is an hour more of waiting. */
const IDLE_LOAD = 0.85;

/** Which station or skill paces the factory, by three signs of the log, and what would come of helping it. */
@Injectable()
export class ConstraintService {
  private readonly together = new Map<number, AskedTogether<ConstraintView>>();

  constructor(private readonly windows: LogWindowsService) {}

  /** @param days working days before today */
  view(days: number): Promise<ConstraintView> {
    let asked = this.together.get(days);
    if (!asked) this.together.set(days, (asked = new AskedTogether(() => this.look(days))));
    return asked.get();
  }

  private async look(count: number): Promise<ConstraintView> {
    const asked = await this.windows.days(count);
    const { nowMs, fromMs, dayStarts, calendar, stations, stays } = asked;
    const whole = windowOf(asked, fromMs, nowMs);
    const signs = constraintSigns(whole);
    const verdict = constraintVerdict(signs);
    const nameOf = namesIn(asked);
    const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
    const rows = rowsOf(whole, signs, { nameOf, stages, together: togetherIn(stays) }).toSorted(
      (a, b) => worth(b) - worth(a),
    );
    const weeks = await weeksOf(asked, dayStarts, nowMs, nameOf);
    return {
      ...{ nowMs, zone: calendar.zone, fromMs, days: whole.days, verdict, rows, weeks },
      sinceMs: sinceOf(verdict, weeks),
      hourWorth: hourWorth(verdict, rows, whole),
      idle: rows
        .filter(({ by, loadShare }) => by === 'station' && loadShare < IDLE_LOAD)
        .map(({ name }) => name),
    };
  }
}

/** For the order on the page only: the verdict says who it is. */
const worth = ({ loadShare, soleShare, shiftingShare, queueDays }: ConstraintSigns): number =>
  loadShare + soleShare + shiftingShare / 2 + Math.min(queueDays, 10) / 5;

function rowsOf(
  { resources, windowMs, days }: LogWindow,
  signs: readonly ConstraintSigns[],
  known: {
    nameOf: (one: { code: string; by: string }) => string;
    stages: ReadonlyMap<string, Stage>;
    together: ReadonlyMap<string, Set<string>>;
  },
): ResourceView[] {
  const full = resources.map((resource) =>
    resource.capacity >= 1 ? saturated({ ...resource, station: `${resource.by} ${resource.code}` }) : [],
  );
  const pacing = momentarySpans(full.flat());
  const share = ({ fromMs, toMs }: { fromMs: number; toMs: number }): ShareSpan => [
    rounded(fromMs / windowMs),
    rounded(toMs / windowMs),
  ];
  const dayMs = days > 0 ? windowMs / days : 0;
  return resources.flatMap((resource, i): ResourceView[] => {
    const sign = signs[i];
    if (!sign) return [];
    const { code, by, capacity, hoursOffered, hoursThere, waiting } = resource;
    const hoursADay = days > 0 ? hoursThere / days : 0;
    const still = waiting.filter(({ toMs }) => toMs >= windowMs);
    const oldestMs = Math.min(...still.map(({ fromMs }) => fromMs));
    const ends = Array.from({ length: Math.ceil(days) }, (_, day) => Math.min(windowMs, (day + 1) * dayMs));
    return [
      {
        ...sign,
        ...{ name: known.nameOf({ code, by }), capacity, hoursADay },
        stage: by === 'station' ? (known.stages.get(code) ?? null) : null,
        goesWith: [...(known.together.get(`${by} ${code}`) ?? [])].toSorted(),
        hoursOfferedADay: days > 0 ? hoursOffered / days : 0,
        full: (full[i] ?? []).map(share),
        paced: pacing.filter(({ station }) => station === `${by} ${code}`).map(share),
        queue: hoursWaiting(waiting, ends).map((hours) => (hoursADay > 0 ? rounded(hours / hoursADay) : 0)),
        oldestDays: still.length > 0 && dayMs > 0 ? (windowMs - oldestMs) / dayMs : null,
      },
    ];
  });
}

/** Which skills work at which stations, both ways. */
function togetherIn(stays: readonly LoggedStay[]): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  const add = (key: string, other: string): void => {
    found.set(key, (found.get(key) ?? new Set<string>()).add(other));
  };
  for (const { route } of new Map(stays.map((stay) => [stay.route.id, stay])).values())
    for (const operation of route.operations) {
      const [station] = operation.stations;
      const skill = 'skill' in operation ? operation.skill : null;
      if (station === undefined || skill === null) continue;
      add(`station ${station}`, skill);
      add(`skill ${skill}`, station);
    }
  return found;
}

const rounded = (value: number): number => Math.round(value * 10_000) / 10_000;

/** Hours of work that wait at some moments, which rise: what came before each and had not been begun before it. */
function hoursWaiting(waiting: Resource['waiting'], momentsMs: readonly number[]): number[] {
  const change = Array.from({ length: momentsMs.length + 1 }, () => 0);
  for (const { fromMs, toMs, hours } of waiting) {
    const first = countUpTo(momentsMs, fromMs);
    const behind = countUpTo(momentsMs, toMs);
    change[first] = (change[first] ?? 0) + hours;
    change[behind] = (change[behind] ?? 0) - hours;
  }
  let there = 0;
  return momentsMs.map((_, i) => Math.max(0, (there += change[i] ?? 0)));
}

/** The verdict of every five working days by themselves, the newest last. Between two of them others are answered. */
async function weeksOf(
  asked: LoggedDays,
  dayStarts: readonly number[],
  nowMs: number,
  nameOf: (one: { code: string; by: string }) => string,
): Promise<ConstraintWeek[]> {
  const weeks: ConstraintWeek[] = [];
  for (let end = dayStarts.length; end > 0; end -= WEEK_DAYS) {
    const fromMs = dayStarts[Math.max(0, end - WEEK_DAYS)];
    if (fromMs === undefined || end - WEEK_DAYS < 0) break;
    const toMs = dayStarts[end] ?? nowMs;
    await setImmediate();
    const { code, by, sureness } = constraintVerdict(constraintSigns(windowOf(asked, fromMs, toMs)));
    const name = code !== null && by !== null ? nameOf({ code, by }) : null;
    weeks.unshift({ fromMs, toMs, code, by, name, sureness });
  }
  return weeks;
}

/** Beginning of the first of the weeks in a row that name the same. */
function sinceOf({ code }: ConstraintVerdict, weeks: readonly ConstraintWeek[]): number | null {
  if (code === null) return null;
  const others = weeks.findLastIndex((week) => week.code !== code);
  return others < 0 ? null : (weeks[others + 1]?.fromMs ?? null);
}

function hourWorth(
  { code, by, next }: ConstraintVerdict,
  rows: readonly ResourceView[],
  { resources, days }: LogWindow,
): ConstraintView['hourWorth'] {
  if (code === null) return null;
  const row = rows.find((one) => one.code === code && one.by === by);
  const resource = resources.find((one) => one.code === code && one.by === by);
  const { piecesOffered = 0, hoursOffered = 0 } = resource ?? {};
  if (!row || hoursOffered <= 0 || days <= 0) return null;
  const pieces = piecesOffered / hoursOffered;
  const follower = rows.find((one) => one.code === next);
  const rate = pieces * Math.min(row.hoursOfferedADay, row.hoursADay);
  return {
    pieces,
    upTo: follower && follower.loadShare > 0 ? Math.max(0, rate * (1 / follower.loadShare - 1)) : null,
    next: follower?.name ?? null,
  };
}
