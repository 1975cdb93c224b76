import {
  coatLitres,
  coatsAsked,
  cureView,
  DAY_MS,
  finishPlan,
  HOUR_MS,
  judgeBooth,
  MINUTE_MS,
  recoatAgainst,
  SHIPPED_RECIPES,
  type BoothSample,
  type Coat,
  type FinishPlan,
  type HoldOperation,
  type Operation,
  type RandomStream,
  type Rest,
} from '@ample-crane/core';
import { BOOTHS, FINISHES } from './tarrow-finish.ts';

/** Looked again this often whether the next coat may go on. */
const LOOK_MINUTES = 10;
/** A cure in the story is over after so much more than the clock says: hourly means leave a little doubt. */
const SURE_HOURS = 1;
const LONGEST_CURE_HOURS = 60 * 24;
const LONGEST_COATING_MS = 30 * DAY_MS;

const THIN_LATELY = { model: 'Bowline', operation: 'clear', days: 5 };
const THIN_SHARE = 0.76;

/** What a coat takes of what it is sprayed with. */
export interface Drawn {
  material: string;
  litres: number;
  /** It comes out of a mix. */
  mixed: boolean;
}

export interface CoatOfStory {
  atMs: number;
  wetUm: number;
  drawn: Drawn;
  /** The coat below was scuffed first: its recoat window had closed. */
  scuffed: boolean;
}

/** The plan of a recipe that ships. */
export function planOf(name: string): FinishPlan {
  const recipe = SHIPPED_RECIPES.find((one) => one.name === name);
  if (!recipe) throw new Error(`planOf: there is no recipe '${name}'`);
  return finishPlan(recipe);
}

/** What happens in finish in the story of Tarrow Works: when coats may be laid, and when they have cured. */
export class FinishStory {
  private readonly coats = new Map<string, Coat[]>();
  private readonly rests = new Map<string, Rest[]>();
  private readonly plans = new Map<string, FinishPlan>();
  /** The rack that was sprayed too thin lately; null: none yet. */
  private thin: string | null = null;

  constructor(
    private readonly climateOf: (room: string) => readonly BoothSample[],
    private readonly random: RandomStream,
    private readonly nowMs: number,
  ) {}

  /** Says which recipe a rack gets, where it is not its model's usual one. */
  give(batch: string, recipe: string): void {
    this.plans.set(batch, planOf(recipe));
  }

  plan(batch: string, model: string, kind: string): FinishPlan | undefined {
    const usual = FINISHES[model]?.[kind]?.recipes[0];
    return this.plans.get(batch) ?? (usual === undefined ? undefined : planOf(usual));
  }

  /**
   * The coats an operation takes, each no sooner than the one below may be recoated and while the booth may be sprayed in;
   * `working` gives the next moment at which somebody is there.
   */
  coatTimes(
    rack: { batch: string; model: string; kind: string; pieces: number[] },
    operation: Operation,
    startMs: number,
    everyMinutes: number,
    working: (atMs: number, minutes: number) => number,
  ): CoatOfStory[] {
    const finish = this.plan(rack.batch, rack.model, rack.kind);
    if (!finish) return [];
    const booth = BOOTHS.find(({ station }) => station === operation.stations[0]);
    const laid: CoatOfStory[] = [];
    let atMs = startMs;
    for (const { spec, step, mixed, transferPct } of coatsAsked({ finish }, operation)) {
      atMs = working(atMs, everyMinutes);
      while (!this.mayCoat(rack, atMs, booth?.room)) {
        atMs = working(atMs, LOOK_MINUTES);
        if (atMs > startMs + LONGEST_COATING_MS) throw new Error(`coatTimes: ${rack.batch} is never coated`);
      }
      const scuffed = this.needsScuff(rack, atMs);
      const wanted = spec.wetUm * (this.isThin(rack, operation, atMs) ? THIN_SHARE : 1);
      const wetUm = Math.round(this.random.normal(wanted, wanted * 0.04));
      const positions = [...rack.pieces];
      const coat: Coat = { atMs, operation: operation.key, positions, wetUm, step, spec };
      this.coatsOf(rack.batch).push(booth ? { ...coat, room: booth.room } : coat);
      const areaM2 = (FINISHES[rack.model]?.[rack.kind]?.areaM2 ?? 0) * positions.length;
      const drawn = { material: spec.material, litres: coatLitres({ areaM2, wetUm, transferPct }), mixed };
      laid.push({ atMs, wetUm, drawn, scuffed });
    }
    return laid;
  }

  /** One rack of the last days got a gun set too low: its sanding wants care. */
  private isThin(
    rack: { batch: string; model: string; pieces: number[] },
    operation: Operation,
    atMs: number,
  ): boolean {
    const { model, days, operation: at } = THIN_LATELY;
    if (rack.model !== model || operation.key !== at || rack.pieces.length < 6) return false;
    if (this.thin === null && atMs > this.nowMs - days * DAY_MS) this.thin = rack.batch;
    return this.thin === rack.batch;
  }

  /** Pieces come onto a hold: their coats stand in its room from then on. */
  rest(rack: { batch: string; pieces: number[] }, { key, room }: HoldOperation, fromMs: number): void {
    this.restsOf(rack.batch).push({ fromMs, operation: key, room, positions: [...rack.pieces] });
  }

  private restsOf(batch: string): Rest[] {
    const known = this.rests.get(batch) ?? [];
    this.rests.set(batch, known);
    return known;
  }

  private coatsOf(batch: string): Coat[] {
    const known = this.coats.get(batch) ?? [];
    this.coats.set(batch, known);
    return known;
  }

  private mayCoat(
    rack: { batch: string; pieces: number[] },
    atMs: number,
    room: string | undefined,
  ): boolean {
    const against = this.against(rack, atMs);
    if (against !== undefined && !against.includes('scuff')) return false;
    const air = room === undefined ? undefined : this.airAt(room, atMs);
    return !air || judgeBooth(air).verdict === 'spray';
  }

  /** The sample that stands for a moment; samples are an hour apart. */
  private airAt(room: string, atMs: number): BoothSample | undefined {
    const samples = this.climateOf(room);
    const first = samples[0]?.atMs ?? atMs;
    return samples[Math.min(samples.length - 1, Math.max(0, Math.floor((atMs - first) / HOUR_MS)))];
  }

  private against(rack: { batch: string; pieces: number[] }, atMs: number): string | undefined {
    const state = { code: rack.batch, coats: this.coatsOf(rack.batch), rests: this.restsOf(rack.batch) };
    return recoatAgainst({ state, positions: rack.pieces, atMs, climateOf: this.climateOf });
  }

  private needsScuff(rack: { batch: string; pieces: number[] }, atMs: number): boolean {
    return this.against(rack, atMs)?.includes('scuff') ?? false;
  }

  /** Pieces that go back lose the coats laid at these operations. */
  strip(batch: string, pieces: readonly number[], operations: readonly string[]): void {
    for (const coat of this.coatsOf(batch))
      if (operations.includes(coat.operation))
        coat.positions = coat.positions.filter((position) => !pieces.includes(position));
  }

  /** When a cure that began at a moment is over. */
  curedAt(rack: { batch: string; pieces: number[] }, { rule, room }: HoldOperation, sinceMs: number): number {
    if (rule.rule !== 'cure') throw new Error('curedAt: it does not cure');
    const { climateOf } = this;
    const seen = (atMs: number) =>
      cureView(rule, room, {
        sinceMs,
        atMs,
        positions: rack.pieces,
        readings: [],
        coats: this.coatsOf(rack.batch),
        rests: this.restsOf(rack.batch),
        measures: [],
        climate: climateOf(room),
        climateOf,
      });
    const start = seen(sinceMs);
    if (!start) throw new Error('curedAt: no air is known');
    const step = Math.max(1, Math.floor((start.needed - start.gathered) / 24)) * HOUR_MS;
    for (
      let atMs = sinceMs;
      atMs < sinceMs + LONGEST_CURE_HOURS * HOUR_MS;
      atMs += Math.max(step, MINUTE_MS)
    ) {
      const then = seen(atMs);
      if (then && then.gathered >= then.needed + SURE_HOURS) return atMs;
    }
    throw new Error(`curedAt: ${rack.batch} never cures`);
  }
}
