import {
  hasLeft,
  judgedValues,
  latestValues,
  movementMm,
  pieceCode,
  refuse,
  type BatchState,
  type Check,
  type GapWindow,
  type JoinOperation,
  type Route,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { SetupService } from '../setup/setup.service.ts';
import { RoomsService } from '../wood/rooms.service.ts';

export interface PairingSide {
  batch: string;
  check: Check;
  pieces: {
    position: number;
    /** Newest value; null: not measured. */
    valueMm: number | null;
    /** The piece it is paired with. */
    partner: string | null;
    gapMm: number | null;
    /** Line of the order it is built for; null: for stock. */
    line: string | null;
  }[];
  /** Mean moisture of its last readings, %; null: never read. */
  moisturePct: number | null;
  /** What its width will do until it is at the moisture of the room it is joined in, mm; null: not known. */
  movesMm: number | null;
}

export interface PairingView {
  model: string;
  joinName: string;
  windowMm: GapWindow;
  /** EMC of the room they are joined in, %; null: no air is logged. */
  roomEmcPct: number | null;
  host: PairingSide;
  guest: PairingSide;
}

interface Side {
  state: BatchState;
  route: Route;
  join: JoinOperation;
}

/** Necks and bodies paired by what was measured of them. */
@Injectable()
export class PairingService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly rooms: RoomsService,
    private readonly log: LogService,
  ) {}

  async pairing(hostCode: string, guestCode: string): Promise<PairingView> {
    const { host, guest, fit } = await this.sides(hostCode, guestCode);
    const station = (await this.setup.stations()).find(({ code }) => code === host.join.stations[0]);
    const rooms = await this.rooms.seen();
    const roomEmcPct = rooms.find(({ room }) => room === station?.room)?.emcPct ?? null;
    return {
      model: host.state.model,
      joinName: host.join.name,
      windowMm: fit.windowMm,
      roomEmcPct,
      host: await this.seen(host, fit.hostCheck, roomEmcPct),
      guest: await this.seen(guest, fit.guestCheck, roomEmcPct),
    };
  }

  private async sides(
    hostCode: string,
    guestCode: string,
  ): Promise<{ host: Side; guest: Side; fit: NonNullable<JoinOperation['fit']> }> {
    const [host, guest] = [await this.side(hostCode, 'host'), await this.side(guestCode, 'guest')];
    if (host.state.model !== guest.state.model)
      throw new NotFoundException(
        `${hostCode} is ${host.state.model}, ${guestCode} ${guest.state.model}: they do not join`,
      );
    const { fit } = host.join;
    if (!fit)
      throw new NotFoundException(`${host.join.name} of ${host.state.model} is not paired by measurement`);
    return { host, guest, fit };
  }

  private async side(code: string, role: 'host' | 'guest'): Promise<Side> {
    const { state, route } = await this.floor.rack(code);
    const join = route.operations.find(
      (operation): operation is JoinOperation => operation.mode === 'join' && operation.role === role,
    );
    if (!join) throw new NotFoundException(`${code} joins nothing as ${role}`);
    return { state, route, join };
  }

  private async seen({ state, route }: Side, key: string, roomEmcPct: number | null): Promise<PairingSide> {
    const check = route.operations.flatMap(({ checks = [] }) => checks).find((one) => one.key === key);
    if (!check) throw new NotFoundException(`${state.code} has no check '${key}' on its route`);
    const values = latestValues(state, key);
    const moisturePct = lastMoisturePct(state);
    return {
      batch: state.code,
      check,
      pieces: state.pieces
        .filter((piece) => !hasLeft(piece))
        .map(({ position, partner, line = null }) => ({
          position,
          valueMm: values.get(position) ?? null,
          partner: partner?.piece ?? null,
          gapMm: partner?.gapMm ?? null,
          line,
        })),
      moisturePct,
      movesMm: await this.moves(state, check, moisturePct, roomEmcPct),
    };
  }

  /** Across the grain, by the species of the model's part. */
  private async moves(
    state: BatchState,
    check: Check,
    moisturePct: number | null,
    roomEmcPct: number | null,
  ): Promise<number | null> {
    if (moisturePct === null || roomEmcPct === null) return null;
    const part = (await this.setup.model(state.model))?.wood?.parts[state.kind];
    const species = (await this.setup.species()).find(({ name }) => name === part?.species);
    if (!species) return null;
    return movementMm({
      widthMm: check.nominal,
      shrinkagePct: species.tangentialShrinkagePct,
      fromPct: moisturePct,
      toPct: roomEmcPct,
    });
  }

  /** Files a pairing on both batches. Gaps are taken from the newest measurements, not from whoever asks. */
  async pair(told: {
    key: string;
    by: string;
    host: string;
    guest: string;
    pairs: { host: number; guest: number }[];
    /** Allow for what the wood will do until they are joined. */
    allow: boolean;
  }): Promise<FilingOutcome> {
    const { key, by, host: hostCode, guest: guestCode, pairs, allow } = told;
    const seen = await this.pairing(hostCode, guestCode);
    const moves = (seen.host.movesMm ?? 0) - (seen.guest.movesMm ?? 0);
    const allowedMm = allow ? Math.round(1000 * moves) / 1000 : 0;
    const { host, guest, fit } = await this.sides(hostCode, guestCode);
    return this.log.fileTogether(
      { key, by, asked: { host: hostCode, guest: guestCode, pairs, allow }, batches: [hostCode, guestCode] },
      () => {
        const [pockets, tenons] = [
          latestValues(host.state, fit.hostCheck),
          latestValues(guest.state, fit.guestCheck),
        ];
        const measured = pairs.map((pair) => {
          const [pocket, tenon] = [pockets.get(pair.host), tenons.get(pair.guest)];
          if (pocket === undefined || tenon === undefined) {
            const piece =
              pocket === undefined ? pieceCode(hostCode, pair.host) : pieceCode(guestCode, pair.guest);
            throw new Refused(refuse('not-paired', `${piece} is not measured: measure it, or leave it out`));
          }
          return { ...pair, gapMm: Math.round((pocket - tenon + allowedMm) * 1000) / 1000 };
        });
        return Promise.resolve([
          {
            batch: hostCode,
            body: {
              type: 'pair' as const,
              partner: guestCode,
              allowedMm,
              pairs: measured.map((pair) => ({ piece: pair.host, with: pair.guest, gapMm: pair.gapMm })),
            },
          },
          {
            batch: guestCode,
            body: {
              type: 'pair' as const,
              partner: hostCode,
              allowedMm,
              pairs: measured.map((pair) => ({ piece: pair.guest, with: pair.host, gapMm: pair.gapMm })),
            },
          },
        ]);
      },
    );
  }
}

/** Mean of the last look at the rack, corrected where that is known. */
function lastMoisturePct(state: BatchState): number | null {
  const last = state.readings.at(-1);
  const values = last ? judgedValues(last) : [];
  return values.length > 0 ? values.reduce((sum, value) => sum + value, 0) / values.length : null;
}
