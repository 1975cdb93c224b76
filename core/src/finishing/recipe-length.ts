import { addWorkingMinutes, type FactoryCalendar } from '../time/calendar.ts';
import { weekOfStarts } from '../time/week-of-starts.ts';
import type { AirNow } from '../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import { gatheringWith, type LaidCoat } from './coat-cure.ts';
import { cureRate } from './cure.ts';
import { dryFilmUm } from './film.ts';
import { plannedFilm, type CoatStep, type Recipe, type RecipeStep } from './recipe.ts';

/** A cure that would take longer than this is not one, days. */
const LONGEST_CURE_DAYS = 400;
/** Racks this recipe's times are told for, pieces. Default. */
const USUAL_RACK = 12;

/** Starts through a week: a recipe takes days, so that hours of their spacing hardly show. */
const STARTS = 40;

export interface StepSpan {
  key: string;
  name: string;
  startMs: number;
  endMs: number;
}

/** A recipe from the first touch to the last, for one rack that never waits for anybody. */
export interface RecipeLength {
  /** On the wall: the mean over starts through a working week, or from the start asked for. */
  days: number;
  /** Of people, for one piece. */
  touchMinutes: number;
  boothMinutes: number;
  /** Nobody works: drying, recoat, cure. */
  waitHours: number;
  /** Film it leaves, µm. */
  buildUm: number;
  steps: StepSpan[];
}

interface LengthQuestion {
  recipe: Pick<Recipe, 'steps'>;
  climate: AirNow;
  calendar: FactoryCalendar;
  pieces?: number;
}

/**
 * How long a recipe takes in some air: work in the shifts of the calendar, coats no sooner than the ones below may be
 * recoated, holds on the wall. A lower bound: nothing queues.
 * @param options.climate air of the season, taken as constant.
 * @param options.startMs first touch; the mean over a week of starts when left out, with the steps as they fall from a Monday.
 * @param options.pieces on the rack, 12 when left out.
 * @throws RangeError when a cure would take more than 400 days in this air.
 */
export function recipeLength(options: LengthQuestion & { startMs?: number }): RecipeLength {
  const { startMs, ...question } = options;
  if (startMs !== undefined) return lengthFrom(question, startMs);
  const all = weekOfStarts(question.calendar, MONDAY_MS, STARTS).map((ms) => lengthFrom(question, ms));
  const mean = (of: (one: RecipeLength) => number): number =>
    all.reduce((sum, one) => sum + of(one), 0) / all.length;
  return {
    ...lengthFrom(question, MONDAY_MS),
    days: mean(({ days }) => days),
    waitHours: mean(({ waitHours }) => waitHours),
  };
}

function lengthFrom(
  { recipe, climate, calendar, pieces = USUAL_RACK }: LengthQuestion,
  startMs: number,
): RecipeLength {
  const laid: LaidCoat[] = [];
  const gathered = (fromMs: number, toMs: number, q: number): number =>
    (cureRate(climate, { q }) * Math.max(0, toMs - fromMs)) / HOUR_MS;
  /** When the coats that are on may be recoated, sanded or buffed. */
  const ready = (until: 'recoat' | 'sand' | 'buff', fromMs: number): number => {
    const gathering = gatheringWith(laid, gathered, fromMs, until);
    if (!gathering) return fromMs;
    const left = Math.max(0, gathering.needed - gathering.gathered);
    const endMs = fromMs + (left / cureRate(climate, { q: gathering.q })) * HOUR_MS;
    if (endMs - fromMs > LONGEST_CURE_DAYS * DAY_MS)
      throw new RangeError(`recipeLength: a cure takes more than ${LONGEST_CURE_DAYS} days in this air`);
    return endMs;
  };
  const work = (fromMs: number, minutes: number): number => addWorkingMinutes(calendar, fromMs, minutes);
  const firstMs = work(startMs, 0);
  let atMs = firstMs;
  let waitMs = 0;
  const wait = (untilMs: number): void => {
    waitMs += Math.max(0, untilMs - atMs);
    atMs = Math.max(atMs, untilMs);
  };
  const coat = (step: CoatStep): void => {
    for (let i = 0; i < step.coats; i += 1) {
      wait(ready('recoat', atMs));
      atMs = work(atMs, pieces * (step.touchMinutes / step.coats));
      laid.push({ atMs, filmUm: dryFilmUm(step.spec), spec: step.spec });
    }
  };
  const go = (step: RecipeStep): void => {
    switch (step.kind) {
      case 'coat':
        return coat(step);
      case 'cure':
        return wait(ready(step.until, atMs));
      case 'age':
        return wait(atMs + step.cycles * (step.coldHours + step.warmHours) * HOUR_MS);
      case 'sand':
      case 'treat':
        atMs = work(atMs, pieces * step.touchMinutes);
        if (step.kind === 'treat') wait(atMs + step.waitHours * HOUR_MS);
    }
  };
  const steps = recipe.steps.map((step) => {
    const began = atMs;
    go(step);
    return { key: step.key, name: step.name, startMs: began, endMs: atMs };
  });
  const sum = (of: (step: RecipeStep) => number): number =>
    recipe.steps.reduce((total, step) => total + of(step), 0);
  return {
    days: (atMs - firstMs) / DAY_MS,
    touchMinutes: sum(({ touchMinutes }) => touchMinutes),
    boothMinutes: sum(({ boothMinutes }) => boothMinutes),
    waitHours: waitMs / HOUR_MS,
    buildUm: plannedFilm(recipe).buildUm,
    steps,
  };
}

/** Monday 5 January 2026, 00:00 UTC. */
const MONDAY_MS = Date.UTC(2026, 0, 5);
