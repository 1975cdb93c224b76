import {
  asTaken,
  type BatchState,
  type BodyOf,
  type ClimateSample,
  correctedReadings,
  correctMeterReadingPct,
  type DryingWood,
  type LotBody,
  type LotState,
  METER_TEMPERATURE_C,
  operationOf,
  readingFloors,
  refuse,
  takenReadings,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { FactsService, type Rack } from '../log/facts.service.ts';
import { Refused } from '../log/refused.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from './climate.service.ts';
import { MetersService } from './meters.service.ts';

/** Where wood was, from a moment on. */
export interface RoomMove {
  atMs: number;
  room: string;
}

/** Wood of which nobody says species or thickness. */
export const UNKNOWN_WOOD = { thicknessMm: 45, basicSpecificGravity: 0.5 };

type LotRead = Extract<LotBody, { type: 'lot-read' }>;

/** What the log must know of moisture readings while it files them: their meter's line, and how dry they can honestly be. */
@Injectable()
export class ReadingsService {
  constructor(
    facts: FactsService,
    private readonly setup: SetupService,
    private readonly meters: MetersService,
    private readonly climate: ClimateService,
  ) {
    facts.register({
      read: (manager, rack, body, { atMs }) => this.ofRack(manager, rack, body, atMs),
    });
  }

  /** Readings of a rack as they are filed: the raw ones stay beside what they mean. @throws Refused */
  private async ofRack(
    manager: EntityManager,
    { state, route }: Rack,
    { facts: _claimed, ...read }: BodyOf<'read'>,
    atMs: number,
  ): Promise<BodyOf<'read'>> {
    const part = (await this.setup.model(state.model, manager))?.wood?.parts[state.kind];
    const correctedPct = await this.corrected(manager, read, part?.species ?? null);
    const resting = state.pieces.find((piece) => {
      const operation = operationOf(route, piece.operation);
      return operation.mode === 'hold' && operation.rule.rule === 'moisture' && piece.standing === 'onHold';
    });
    const operation = resting && operationOf(route, resting.operation);
    if (operation?.mode !== 'hold' || operation.rule.rule !== 'moisture' || !resting)
      return correctedPct ? { ...read, facts: { correctedPct } } : read;
    const { sinceMs } = resting;
    const wood = { ...(await this.woodOf(manager, part)), tauDays: operation.rule.tauDays };
    const floorsPct = await this.floors(manager, [{ atMs: sinceMs, room: operation.room }], {
      before: takenReadings(state.readings, { sinceMs, atMs }),
      pieces: placesOf(state, read),
      depth: read.depth ?? null,
      atMs,
      wood,
    });
    const facts = {
      ...(correctedPct ? { correctedPct } : {}),
      ...(floorsPct.some((floor) => floor !== null) ? { floorsPct } : {}),
    };
    return Object.keys(facts).length > 0 ? { ...read, facts } : read;
  }

  /** The same of a lot, whose readings are corrected when they are looked at. @throws Refused for a meter nobody knows. */
  async ofLot(
    manager: EntityManager,
    state: LotState,
    { facts: _claimed, ...read }: LotRead,
    atMs: number,
  ): Promise<LotRead> {
    if (read.meter !== null && !(await this.meters.lineOf(read.meter, null, manager)))
      throw new Refused(refuse('bad-value', `there is no meter '${read.meter}'`));
    const lineOf = (await this.meters.lines(manager))(state.species);
    const floorsPct = await this.floors(manager, state.moves, {
      before: asTaken(correctedReadings(state.looks, lineOf)),
      pieces: read.readings.map(({ board }) => board),
      depth: read.depth,
      atMs,
      wood: await this.woodOf(manager, state),
    });
    return floorsPct.some((floor) => floor !== null) ? { ...read, facts: { floorsPct } } : read;
  }

  /** Readings taken with a known meter, by its line as it stands now; undefined: no meter was named. */
  private async corrected(
    manager: EntityManager,
    { meter, valuesPct, woodTemperatureC = METER_TEMPERATURE_C }: BodyOf<'read'>,
    species: string | null,
  ): Promise<number[] | undefined> {
    if (meter === undefined) return undefined;
    const line = await this.meters.lineOf(meter, species, manager);
    if (!line) throw new Refused(refuse('bad-value', `there is no meter '${meter}'`));
    return valuesPct.map((readingPct) => correctMeterReadingPct({ readingPct, woodTemperatureC, line }));
  }

  private async woodOf(
    manager: EntityManager,
    part: { species: string; thicknessMm?: number; blankMm?: { thicknessMm: number } } | undefined,
  ): Promise<DryingWood> {
    const { basicSpecificGravity } =
      (await this.setup.species(manager)).find(({ name }) => name === part?.species) ?? UNKNOWN_WOOD;
    const thicknessMm = part?.thicknessMm ?? part?.blankMm?.thicknessMm ?? UNKNOWN_WOOD.thicknessMm;
    return { thicknessMm, species: { basicSpecificGravity } };
  }

  private async floors(
    manager: EntityManager,
    moves: readonly RoomMove[],
    question: Omit<Parameters<typeof readingFloors>[0], 'climate'>,
  ): Promise<(number | null)[]> {
    const [first] = question.before;
    if (!first) return question.pieces.map(() => null);
    const rooms = [...new Set(moves.map(({ room }) => room))];
    const series = await this.climate.hourly(rooms, first.atMs, question.atMs, manager);
    return readingFloors({ ...question, climate: airAlong(moves, series) });
  }
}

/** Air where the wood was, room after room, in order of time. */
export function airAlong(
  moves: readonly RoomMove[],
  series: ReadonlyMap<string, readonly ClimateSample[]>,
): ClimateSample[] {
  const roomAt = (ms: number): string | undefined =>
    (moves.findLast((move) => move.atMs <= ms) ?? moves[0])?.room;
  return [...new Set(moves.map(({ room }) => room))]
    .flatMap((room) => (series.get(room) ?? []).filter(({ atMs }) => roomAt(atMs) === room))
    .map(({ atMs, temperatureC, relativeHumidityPct }) => ({ atMs, temperatureC, relativeHumidityPct }))
    .sort((a, b) => a.atMs - b.atMs);
}

/** Places the values are of, as the reducer takes them: as named, or one for each piece that is here. */
function placesOf(state: BatchState, { pieces, valuesPct }: BodyOf<'read'>): (number | null)[] {
  if (pieces) return pieces;
  const here = state.pieces.filter(
    ({ standing }) => !['scrapped', 'joined', 'parted', 'shipped'].includes(standing),
  );
  return valuesPct.length === here.length ? here.map(({ position }) => position) : valuesPct.map(() => null);
}
