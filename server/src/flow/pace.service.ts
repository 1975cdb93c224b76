import { DAY_MS, MINUTE_MS, type NamedConstraint } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { ConstraintService, type ConstraintView } from './constraint.service.ts';

/** Working days of the log that the mark on the rope rests on. */
const WINDOW_DAYS = 20;
/** What weeks of the log say does not change in less: until it is reckoned anew, in the background, what was known is told. */
const FRESH_MS = 10 * MINUTE_MS;

/** Which station paces the house, for whatever is marked by it: the rope, the first call, what opened racks would bring. */
@Injectable()
export class PaceService {
  private known: { named: NamedConstraint | null; atMs: number } | null = null;
  private looking: Promise<NamedConstraint | null> | null = null;

  constructor(private readonly constraint: ConstraintService) {}

  /** The station that three signs of the log name; null: they name none. */
  async named(nowMs: number): Promise<NamedConstraint | null> {
    const { known } = this;
    const ageMs = known ? Math.abs(nowMs - known.atMs) : Infinity;
    if (known && ageMs < FRESH_MS) return known.named;
    const looking = (this.looking ??= this.look(nowMs).finally(() => (this.looking = null)));
    if (!known || ageMs > DAY_MS) return looking;
    // Nobody waits for it; what goes wrong with it goes wrong with the next question, too, and is told there.
    looking.catch(() => undefined);
    return known.named;
  }

  private async look(atMs: number): Promise<NamedConstraint | null> {
    const named = namedBy(await this.constraint.view(WINDOW_DAYS));
    this.known = { named, atMs };
    return named;
  }
}

/** Where it is shown: a skill at the station at which most of its work comes. */
function namedBy({ verdict: { code, by, agree }, rows }: ConstraintView): NamedConstraint | null {
  if (code === null) return null;
  const said = { agree: agree.length, days: WINDOW_DAYS };
  if (by === 'station') return { ...said, station: code, skill: null };
  const places = rows.find((row) => row.by === 'skill' && row.code === code)?.goesWith ?? [];
  const [station] = rows
    .filter((row) => row.by === 'station' && places.includes(row.code))
    .toSorted((a, b) => b.hoursOfferedADay - a.hoursOfferedADay);
  return station ? { ...said, station: station.code, skill: code } : null;
}
