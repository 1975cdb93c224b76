import { factoryDate, type Check, type RandomStream } from '@ample-crane/core';
import type { FilingRequest } from '../log/filing.ts';
import { benchOf, CARRIERS, CUSTOMERS, FINAL } from './tarrow-bench.ts';
import { FACTORY } from './tarrow-works.ts';
import { usualKit } from './usual-kit.ts';

type Action = FilingRequest['actions'][number];

/** Instruments of one rack at the bench. */
interface Racked {
  batch: string;
  model: string;
  pieces: readonly number[];
}

/** What most racks of a model are over or under its middle, mm: the shop's hand. */
const HAND_MM = 0.05;
const WITHIN = 0.9;

/**
 * What the benches of Tarrow Works read, drawn from a stream of chance of their own, so that nothing else in the story moves with
 * it: every instrument has its own hand, drifts a little on the shelf, and keeps its serial.
 */
export class BenchStory {
  /** What was read at set-up, by piece. */
  private readonly setUps = new Map<string, Record<string, number>>();
  private readonly serialled = new Set<string>();
  private readonly kitted = new Set<string>();
  private orders = 2200;

  constructor(private readonly random: RandomStream) {}

  /** Sheets of a set-up, all inside their limits; `own`: how far each instrument lies from the shop's hand, mm. */
  setUp({ batch, model, pieces }: Racked, own: readonly number[]): Action[] {
    const { checks } = benchOf(model);
    return pieces.map((piece, i) => {
      const values = Object.fromEntries(
        checks.map((check) => [
          check.key,
          this.read(check, check.key.startsWith('action-') ? (own[i] ?? 0) + HAND_MM : 0),
        ]),
      );
      this.setUps.set(`${batch}/${piece}`, values);
      return { type: 'sheet', operation: 'setup', pieces: [piece], values };
    });
  }

  /** Sheets of the second look: strings rise a little under tension, the neck gives a little. */
  again({ batch, model, pieces }: Racked): Action[] {
    const { again, drifts } = benchOf(model);
    return pieces.map((piece) => {
      const before = this.setUps.get(`${batch}/${piece}`) ?? {};
      const values = Object.fromEntries(
        again.map((check) => {
          const limit = drifts[check.key] ?? 0;
          const drift = Math.max(-WITHIN, Math.min(WITHIN, this.random.normal(0.2, 0.25))) * limit;
          return [check.key, kept(check, (before[check.key] ?? check.nominal) + drift)];
        }),
      );
      return { type: 'sheet', operation: 'settle', pieces: [piece], values };
    });
  }

  /** Sheets of an inspection that everything passes. */
  inspected({ pieces }: Racked): Action[] {
    const values = Object.fromEntries(FINAL.map(({ key }) => [key, 1]));
    return pieces.map((piece) => ({ type: 'sheet', operation: 'final', pieces: [piece], values }));
  }

  /** Kits of those that have none yet; null: all have. */
  kits({ batch, model, pieces }: Racked): Action | null {
    const bare = pieces.filter((piece) => !this.kitted.has(`${batch}/${piece}`));
    for (const piece of bare) this.kitted.add(`${batch}/${piece}`);
    return bare.length === 0 ? null : { type: 'kit', pieces: [...bare], parts: usualKit(model) };
  }

  /** Serials of those that have none yet; null: all have. */
  serials({ batch, pieces }: Racked): Action | null {
    const bare = pieces.filter((piece) => !this.serialled.has(`${batch}/${piece}`));
    for (const piece of bare) this.serialled.add(`${batch}/${piece}`);
    return bare.length === 0 ? null : { type: 'serial', operation: 'assemble', pieces: [...bare] };
  }

  /** A rack leaves for one customer; `n` says whom. */
  shipped({ pieces }: Racked, { n, atMs }: { n: number; atMs: number }): Action {
    const day = factoryDate(FACTORY.calendar, atMs).replaceAll('-', '').slice(2);
    return {
      ...{ type: 'ship', operation: 'ship', pieces: [...pieces], to: CUSTOMERS[n % CUSTOMERS.length] ?? '' },
      ...{ order: `O-${(this.orders += this.random.between(1, 4))}` },
      carrier: `${this.random.pick(CARRIERS)} ${day}-${this.random.between(100, 999)}`,
      contents: 'hard case, keys, owner’s papers',
    };
  }

  private read(check: Check, off: number): number {
    const { lower, upper, nominal, unit } = check;
    if (lower === null || upper === null) return nominal;
    const spread = unit === 'kg' ? 0.2 : unit === 'cents' ? 0.22 : 0.12;
    return kept(check, nominal + off + this.random.normal(0, (spread * (upper - lower)) / 2));
  }
}

/** Inside its limits, as finely as it is read: cents to the half, others to the hundredth. */
function kept({ lower, upper, unit }: Check, value: number): number {
  const step = unit === 'cents' ? 2 : 100;
  const rounded = Math.round(step * value) / step;
  return Math.max(lower ?? rounded, Math.min(upper ?? rounded, rounded));
}
