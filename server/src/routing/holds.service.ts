import {
  cureSeen,
  forecastEnd,
  holdContext,
  holdGroups,
  isOver,
  judgeRack,
  operationAfter,
  operationOf,
  roomsInQuestion,
  windowOf,
  DAY_MS,
  type BatchState,
  type ClimateSample,
  type HoldGroup,
  type HoldSight,
  type PanelEnd,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { HoldDto } from '../flow/board.dto.ts';
import { PanelFitsService } from '../finishing/panel-fits.service.ts';
import { ClimateService } from '../wood/climate.service.ts';

/** Air of the last two weeks: what forecasts take the days to come from, even for holds that began today. */
const OUTLOOK_DAYS = 14;
const LONGEST_CURE_DAYS = 60;

export interface RackInQuestion {
  state: BatchState;
  route: Route;
}

/** What holds are judged by besides their own racks: the air by room, the test panels by batch. */
export interface HoldEvidence {
  climate: ReadonlyMap<string, ClimateSample[]>;
  panels: ReadonlyMap<string, PanelEnd[]>;
}

/** A hold as screens show it, with what calls need besides. */
export interface SeenHold {
  dto: HoldDto;
  sight: HoldSight;
}

/** Judges the holds that batches are in, by the climate of their rooms. */
@Injectable()
export class HoldsService {
  constructor(
    private readonly climate: ClimateService,
    private readonly panels: PanelFitsService,
  ) {}

  /** The hourly climate and the test panels that the holds of these racks need, each in one query. */
  async evidenceFor(racks: readonly RackInQuestion[], nowMs: number): Promise<HoldEvidence> {
    const curing = racks.filter(({ state, route }) =>
      holdGroups(state).some(({ operation: key }) => {
        const operation = operationOf(route, key);
        return operation.mode === 'hold' && operation.rule.rule === 'cure';
      }),
    );
    const [climate, panels] = await Promise.all([
      this.climateFor(racks, nowMs),
      this.panels.ends(curing.map(({ state }) => state.code)),
    ]);
    return { climate, panels };
  }

  private climateFor(racks: readonly RackInQuestion[], nowMs: number): Promise<Map<string, ClimateSample[]>> {
    const since = new Map<string, number>();
    const want = (room: string, fromMs: number): void => {
      const known = since.get(room) ?? nowMs - OUTLOOK_DAYS * DAY_MS;
      since.set(room, Math.min(known, Math.max(fromMs, nowMs - LONGEST_CURE_DAYS * DAY_MS)));
    };
    for (const { state, route } of racks) {
      for (const group of holdGroups(state)) {
        const operation = operationOf(route, group.operation);
        if (operation.mode !== 'hold' || group.called !== null) continue;
        if (operation.rule.rule !== 'cure' && operation.rule.rule !== 'moisture') continue;
        // Drying is fitted from a day before its hold; the clock of a coat runs from when it was laid, in its booth.
        want(operation.room, group.sinceMs - DAY_MS);
        if (operation.rule.rule !== 'cure') continue;
        const firstMs = Math.min(group.sinceMs, ...state.coats.map(({ atMs }) => atMs));
        for (const room of roomsInQuestion(state, route)) want(room, firstMs - DAY_MS);
      }
    }
    return this.climate.hourlySince(since, nowMs);
  }

  see({ state, route }: RackInQuestion, nowMs: number, evidence: HoldEvidence): SeenHold[] {
    return holdGroups(state).map((group) => this.seeOne(state, route, group, nowMs, evidence));
  }

  private seeOne(
    state: BatchState,
    route: Route,
    group: HoldGroup,
    nowMs: number,
    { climate, panels }: HoldEvidence,
  ): SeenHold {
    const operation = operationOf(route, group.operation);
    const common = {
      operation: group.operation,
      operationName: operation.name,
      sinceMs: group.sinceMs,
      positions: group.positions,
    };
    const sightOf = (dto: HoldDto, extra: { failed: boolean; passing: number[] }): HoldSight => ({
      batch: state.code,
      operation: dto.operation,
      operationName: dto.operationName,
      rule: dto.rule,
      pieces: dto.positions.length,
      over: dto.over,
      overSinceMs: dto.over && dto.rule !== 'moisture' ? dto.endMs : null,
      sentence: dto.sentence,
      endMs: dto.endMs,
      next: operationAfter(route, dto.operation)?.name ?? null,
      ...extra,
    });
    if (operation.mode !== 'hold' || group.called !== null) {
      const sentence = `On hold: ${group.called ?? 'no reason given'}.`;
      const open = { endMs: null, lowMs: null, highMs: null, curedHours: null, neededHours: null };
      const dto: HoldDto = {
        ...common,
        ...open,
        rule: 'called',
        word: 'held',
        over: false,
        sentence,
        progress: 0,
      };
      return { dto, sight: sightOf(dto, { failed: false, passing: [] }) };
    }
    const { rule } = operation;
    const context = {
      ...holdContext(state, group, nowMs),
      climate: climate.get(operation.room) ?? [],
      climateOf: (room: string) => climate.get(room),
      panels: panels.get(state.code) ?? [],
    };
    const cured = rule.rule === 'cure' ? cureSeen(rule, operation.room, context) : undefined;
    const dto: HoldDto = {
      ...common,
      ...isOver(operation, context),
      ...forecastEnd(operation, context),
      rule: rule.rule,
      word: rule.word,
      curedHours: cured?.gathered ?? null,
      neededHours: cured?.needed ?? null,
    };
    if (rule.rule !== 'moisture') return { dto, sight: sightOf(dto, { failed: false, passing: [] }) };
    const { judgement, passing } = judgeRack(windowOf(rule), state.readings, context);
    // Wood that dries as it should only waits. A call is worth making when somebody has to decide.
    const stuck = judgement.verdict === 'wait' && dto.endMs === null;
    const failed = !dto.over && (judgement.verdict === 'sort' || judgement.verdict === 'reject' || stuck);
    return { dto, sight: sightOf(dto, { failed, passing: failed ? passing : [] }) };
  }
}
