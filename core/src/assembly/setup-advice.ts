import type { Check } from '../machining/check.ts';
import { isInside, type Measured } from './setup.ts';

/** How a model is turned: what a screw does, and how long its strings are. */
export interface SetupPractice {
  /** Nut to saddle, mm. */
  scaleMm: number;
  /** Height a turn of a saddle's screw gives, mm. */
  saddleMmPerTurn: number;
}

/** A guitar's usual scale, and an M3 screw. A model says its own. */
export const USUAL_PRACTICE: SetupPractice = { scaleMm: 648, saddleMmPerTurn: 0.5 };

/** One thing to turn. */
export interface SetupTurn {
  /** Key of the check it puts right. */
  key: string;
  /** What to turn, which way and about how far. */
  words: string;
}

/** The rod of the neck: tightened, it takes relief out. */
const RELIEF = 'relief';
const NUT = 'nut';
const ACTION = 'action-';
const INTONATION = 'intonation-';

/**
 * What to turn, which way and about how far, for values outside their limits; in the order in which it is done. Relief first:
 * as long as it is out, the action is not advised on, since it moves with it. The maker's own practice goes before it.
 * - relief high: tighten the rod; low: loosen it; a quarter turn, wait, measure again;
 * - action at fret 12 by d: the saddle by 2 d, since fret 12 is half way along the string;
 * - intonation sharp by c cents: saddle back by c · L · ln 2 / 1200 for a string of length L (to first order in the shift);
 * - nut clearance: file the slot, or shim the nut.
 * What is looked at, and weight, cannot be turned: nothing is said of them.
 * @param measurements by key of the check: mm, cents
 * @param limits the checks of the sheet, in its order
 */
export function setupAdvice(
  measurements: Measured,
  limits: readonly Check[],
  { scaleMm, saddleMmPerTurn }: SetupPractice = USUAL_PRACTICE,
): SetupTurn[] {
  const out = limits.flatMap((check) => {
    const value = measurements[check.key];
    return value === undefined || isInside(check, value) ? [] : [{ check, over: value - check.nominal }];
  });
  const relief = out.find(({ check }) => check.key === RELIEF);
  if (relief)
    return [
      {
        key: RELIEF,
        words: `Relief is ${relief.over > 0 ? 'high: tighten' : 'low: loosen'} the rod a quarter turn, wait ten minutes, measure all of it again. Action and intonation move with it.`,
      },
    ];
  return out.flatMap(({ check: { key, name }, over }): SetupTurn[] => {
    if (key === NUT)
      return [
        {
          key,
          words:
            over > 0
              ? `Nut clearance is high: file its slots by ${mm(over)} at most, a stroke at a time.`
              : `Nut clearance is low: shim the nut by about ${mm(-over)}, or fit a new one.`,
        },
      ];
    if (key.startsWith(ACTION)) {
      const saddleMm = 2 * Math.abs(over);
      return [
        {
          key,
          words: `${name} is ${over > 0 ? 'high: lower' : 'low: raise'} its saddle by about ${mm(saddleMm)}, ${quarters(saddleMm / saddleMmPerTurn)} of its screws.`,
        },
      ];
    }
    if (key.startsWith(INTONATION)) {
      const shiftMm = (Math.abs(over) * scaleMm * Math.LN2) / 1200;
      return [
        {
          key,
          words: `${name} is ${over > 0 ? 'sharp: move its saddle back' : 'flat: move its saddle forward'} by about ${mm(shiftMm, 1)}.`,
        },
      ];
    }
    return [];
  });
}

const mm = (value: number, digits = 2): string => `${value.toFixed(digits)} mm`;

/** 0.8 turns are 'about 3 quarter turns'; less than a half of one is one. */
function quarters(turns: number): string {
  const n = Math.max(1, Math.round(4 * turns));
  return `${n} quarter ${n === 1 ? 'turn' : 'turns'}`;
}
