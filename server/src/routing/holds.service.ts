import {
  cureView,
  forecastEnd,
  holdContext,
  holdGroups,
  shelfApart,
  isOver,
  judgeRack,
  operationAfter,
  operationOf,
  roomsInQuestion,
  windowOf,
  type BatchState,
  type ClimateSample,
  type HoldGroup,
  type HoldOperation,
  type HoldView,
  type PanelEnd,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { HoldDto } from './rack.dto.ts';
import { PanelFitsService } from '../finishing/panel-fits.service.ts';
import { PerRack } from '../floor/per-rack.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RecentAirService } from '../wood/recent-air.service.ts';

/** What holds are judged by besides their own racks: the air by room, the test panels by batch. */
export interface HoldEvidence {
  climate: ReadonlyMap<string, readonly ClimateSample[]>;
  panels: ReadonlyMap<string, PanelEnd[]>;
}

/** A hold as screens show it, with what calls need besides. */
export interface SeenHold {
  dto: HoldDto;
  view: HoldView;
}

/** Judges the holds that batches are in, by the climate of their rooms. */
@Injectable()
export class HoldsService {
  private readonly seen = new PerRack<SeenHold[]>();
  private readonly needs = new WeakMap<BatchState, HoldNeeds>();

  constructor(
    private readonly air: RecentAirService,
    private readonly panels: PanelFitsService,
  ) {}

  /** The hourly climate and the test panels that the holds of these racks need, each in one query. */
  async evidenceFor(racks: readonly RackInQuestion[], nowMs: number): Promise<HoldEvidence> {
    const [climate, panels] = await Promise.all([
      this.air.of(
        racks.flatMap((rack) => this.needsOf(rack).rooms),
        nowMs,
      ),
      this.panels.ends(racks.filter((rack) => this.needsOf(rack).cures).map(({ state }) => state.code)),
    ]);
    return { climate, panels };
  }

  /** The holds of a rack; shared with whoever asked within the minute: nobody changes them. */
  see(rack: RackInQuestion, nowMs: number, evidence: HoldEvidence): readonly SeenHold[] {
    const { state, route } = rack;
    const panels = evidence.panels.get(state.code) ?? [];
    const by = [
      ...this.needsOf(rack).rooms.map((room) => evidence.climate.get(room)),
      panels.map(({ code, curedMs }) => `${code} ${curedMs}`).join(),
    ];
    return this.seen.get(state, nowMs, by, () =>
      partsOf(state, route, nowMs).map((group) => this.seeOne(state, route, group, nowMs, evidence)),
    );
  }

  /** What its holds ask for does not change while its state does not. */
  private needsOf(rack: RackInQuestion): HoldNeeds {
    const known = this.needs.get(rack.state) ?? holdNeeds(rack);
    this.needs.set(rack.state, known);
    return known;
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
    const viewOf = (dto: HoldDto, extra: { failed: boolean; passing: number[] }): HoldView => ({
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
        rejected: false,
        progress: 0,
      };
      return { dto, view: viewOf(dto, { failed: false, passing: [] }) };
    }
    const { rule } = operation;
    const context = {
      ...holdContext(state, group, nowMs),
      climate: climate.get(operation.room) ?? [],
      climateOf: (room: string) => climate.get(room),
      panels: panels.get(state.code) ?? [],
    };
    const cured = rule.rule === 'cure' ? cureView(rule, operation.room, context) : undefined;
    const { over, sentence, rejected = false, progress } = isOver(operation, context);
    const dto: HoldDto = {
      ...common,
      ...{ over, sentence, rejected, progress },
      ...forecastEnd(operation, context),
      rule: rule.rule,
      word: rule.word,
      curedHours: cured?.gathered ?? null,
      neededHours: cured?.needed ?? null,
    };
    if (rule.rule !== 'moisture') return { dto, view: viewOf(dto, { failed: false, passing: [] }) };
    const { judgement, passing } = judgeRack(windowOf(rule), state.readings, context);
    // Wood that dries as it should only waits. A call is worth making when somebody has to decide.
    const stuck = judgement.verdict === 'wait' && dto.endMs === null;
    const failed = !dto.over && (judgement.verdict === 'sort' || judgement.verdict === 'reject' || stuck);
    return { dto, view: viewOf(dto, { failed, passing: failed ? passing : [] }) };
  }
}

/** The holds of a rack as they are judged: on a settling shelf what moved holds up none of the others. */
const partsOf = (state: BatchState, route: Route, nowMs: number): HoldGroup[] =>
  holdGroups(state).flatMap((group) =>
    group.called === null
      ? shelfApart(state, operationOf(route, group.operation), group, nowMs).map((positions) => ({
          ...group,
          positions,
        }))
      : [group],
  );

/** What the holds of a rack are judged by besides itself. */
interface HoldNeeds {
  /** Rooms whose air they ask for. */
  rooms: readonly string[];
  /** Whether any is a cure, which test panels may speak for. */
  cures: boolean;
}

function holdNeeds({ state, route }: RackInQuestion): HoldNeeds {
  const ruled = holdGroups(state).flatMap(({ operation: key, called }): HoldOperation[] => {
    const operation = operationOf(route, key);
    return operation.mode === 'hold' && called === null ? [operation] : [];
  });
  const cures = ruled.some(({ rule }) => rule.rule === 'cure');
  const aired = ruled.filter(({ rule }) => rule.rule === 'cure' || rule.rule === 'moisture');
  return {
    cures,
    rooms: [...aired.map(({ room }) => room), ...(cures ? roomsInQuestion(state, route) : [])],
  };
}
