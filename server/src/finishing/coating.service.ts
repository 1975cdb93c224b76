import {
  type BatchState,
  type BodyOf,
  coatedRooms,
  coatLitres,
  coatsAsked,
  coatsOn,
  DAY_MS,
  factsForEnd,
  finishPlan,
  HOUR_MS,
  type Operation,
  operationOf,
  type PanelEnd,
  recipeMisfits,
  recoatAgainst,
  refuse,
  roomsInQuestion,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { BoothRow, MaterialLotRow, MixRow } from './rows.ts';
import { FactsService, type Asked, type Rack } from '../log/facts.service.ts';
import { Refused } from '../log/refused.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { BoothAirService } from './booth-air.service.ts';
import { lotAgainst, mixLeftAgainst, noLotOpen, openLot } from './lot-use.ts';
import { PanelFitsService } from './panel-fits.service.ts';
import { inFreezer } from './freezer.ts';
import { finishOperations, RecipeBookService } from './recipe-book.service.ts';

/** The air of coats is looked up so far back. */
const LONGEST_CURE_DAYS = 60;

/**
 * What finishing adds to what is filed: the finish of a new batch; of a coat its booth and air, the lot it came out of, how much of it,
 * who may do it and what speaks against it; of the end of a hold, what is cured.
 */
@Injectable()
export class CoatingService {
  constructor(
    facts: FactsService,
    private readonly setup: SetupService,
    private readonly climate: ClimateService,
    private readonly boothAir: BoothAirService,
    private readonly book: RecipeBookService,
    private readonly panels: PanelFitsService,
  ) {
    facts.register({
      open: (manager, rack, body, asked) => this.open(manager, rack, body, asked),
      start: (manager, rack, body, { by }) => this.start(manager, rack, body, by),
      coat: (manager, rack, body, asked) => this.coat(manager, rack, body, asked),
      rework: (manager, rack, body) => this.rework(manager, rack, body),
      age: (manager, rack, body) => inFreezer(manager, this.setup, rack, body),
      end: (manager, rack, body, asked) => this.end(manager, rack, body, asked),
    });
  }

  /** The finish a new batch gets: the one asked for, which must fit its route, or the model's usual one. @throws Refused */
  private async open(
    manager: EntityManager,
    { route }: { route: Route },
    body: BodyOf<'open'>,
    { recipe: name }: Asked,
  ): Promise<BodyOf<'open'>> {
    const { model, kind } = body;
    if (name === undefined) {
      const usual = await this.book.usual(model, kind, route, manager);
      return usual ? { ...body, finish: usual } : body;
    }
    const recipe = await this.book.newestOf(name, manager);
    if (!recipe) throw new Refused(refuse('bad-value', `there is no recipe '${name}'`));
    const [misfit] = recipeMisfits(recipe, finishOperations(route));
    if (misfit)
      throw new Refused(
        refuse('route-problem', `${recipe.title} does not fit ${model} ${kind}: ${misfit.problem}`),
      );
    return { ...body, finish: finishPlan(recipe) };
  }

  /** The end of a hold as it is filed: with what its cure says, by the air it stood in and by its panels. @throws Refused */
  private async end(
    manager: EntityManager,
    rack: Rack,
    body: BodyOf<'end'>,
    { atMs }: Asked,
  ): Promise<BodyOf<'end'>> {
    const rooms = roomsInQuestion(rack.state, rack.route);
    const firstMs = Math.min(atMs, ...rack.state.coats.map((coat) => coat.atMs));
    const fromMs = Math.max(firstMs - DAY_MS, atMs - LONGEST_CURE_DAYS * DAY_MS);
    const series = await this.climate.hourly(rooms, fromMs, atMs, manager);
    const facts = factsForEnd({
      ...rack,
      atMs,
      climateOf: (room) => series.get(room) ?? [],
      panel: await this.panelWords(manager, rack, body, atMs),
      panels: await this.panelEnds(manager, rack),
    });
    return facts.cured ? { ...body, facts } : body;
  }

  /** A coat as it is filed: with its booth, room and lot, and with what speaks against it. @throws Refused */
  private async coat(
    manager: EntityManager,
    rack: Rack,
    body: BodyOf<'coat'>,
    when: { atMs: number; by: string },
  ): Promise<BodyOf<'coat'>> {
    const { facts: _claimed, room: _told, ...asked } = body;
    const at = coatedAt(rack, asked);
    if (!at) return asked;
    const { operation, positions } = at;
    await this.mustBeAble(manager, operation, asked.who, when.by);
    const booth = await this.boothOf(manager, operation, asked.booth);
    const on = Math.max(
      ...rack.state.pieces
        .filter((one) => positions.includes(one.position))
        .map((one) => coatsOn(rack.state, one)),
    );
    const steps = coatsAsked(rack.state, operation);
    const step = steps[on] ?? steps.at(-1);
    const area = step
      ? (await this.book.finishOf(rack.state.model, rack.state.kind, manager))?.areaM2
      : undefined;
    const meanUm = asked.wetUms && asked.wetUms.reduce((sum, um) => sum + um, 0) / asked.wetUms.length;
    const wetUm = asked.wetUm ?? meanUm ?? step?.spec.wetUm;
    const litres =
      step && area !== undefined && wetUm !== undefined && wetUm > 0
        ? coatLitres({ areaM2: area * positions.length, wetUm, transferPct: step.transferPct })
        : undefined;
    const source = step
      ? await this.sourceOf(manager, step, { asked: asked.lot, litres, atMs: when.atMs })
      : undefined;
    const against = [
      ...(step ? await this.recoat(manager, rack, positions, when.atMs, booth) : []),
      ...(booth && step ? await this.air(manager, booth, when.atMs) : []),
      ...(source?.against ?? []),
    ];
    const facts = {
      ...(litres === undefined ? {} : { litres }),
      ...(against.length === 0 ? {} : { against: against.join('; ') }),
    };
    return {
      ...asked,
      ...(booth ? { booth: booth.code, room: booth.room } : {}),
      ...(source?.code === undefined ? {} : { lot: source.code }),
      ...(Object.keys(facts).length > 0 ? { facts } : {}),
    };
  }

  /** A start as it is filed: only people able to do the operation are put on it, where that matters. @throws Refused */
  private async start(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'start'>,
    by: string,
  ): Promise<BodyOf<'start'>> {
    const waiting = state.pieces.filter((piece) => piece.standing === 'waiting' && fits(route, piece, body));
    const keys = new Set(waiting.map((piece) => piece.operation));
    const [key] = keys;
    if (keys.size === 1 && key !== undefined)
      await this.mustBeAble(manager, operationOf(route, key), body.who, by);
    return body;
  }

  /** What a panel says for the end of a cure that rests on it, in words. @throws Refused when it says nothing of the kind. */
  private async panelWords(
    manager: EntityManager,
    { state }: Rack,
    { panel }: BodyOf<'end'>,
    atMs: number,
  ): Promise<string | undefined> {
    if (panel === undefined) return undefined;
    const [found] = await this.panels.fitted({ code: panel }, manager);
    if (!found) throw new Refused(refuse('bad-value', `there is no test panel ${panel}`));
    if (found.panel.batch !== state.code)
      throw new Refused(
        refuse(
          'bad-value',
          `test panel ${panel} was sprayed with ${found.panel.batch}, not with ${state.code}`,
        ),
      );
    const { verdict, curedMs } = found;
    if ('notEnough' in verdict)
      throw new Refused(refuse('hold-not-over', `test panel ${panel} cannot tell yet: ${verdict.notEnough}`));
    if (curedMs === null || curedMs > atMs)
      throw new Refused(
        refuse(
          'hold-not-over',
          `test panel ${panel} is not cured yet: by its weighings in ${(((curedMs ?? atMs) - atMs) / HOUR_MS).toFixed(0)} h`,
        ),
      );
    const left = 100 * Math.exp(-(atMs - found.panel.sprayedAt.getTime()) / HOUR_MS / verdict.tauHours);
    return `test panel ${panel} has lost ${(100 - left).toFixed(1)} % of its solvent`;
  }

  /** A defect goes to where its recipe sends such things, where nobody says otherwise. */
  private async rework(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'rework'>,
  ): Promise<BodyOf<'rework'>> {
    if (body.to !== undefined || !state.finish) return body;
    const said = body.reason.toLowerCase();
    const recipe = await this.book.byId(state.finish.recipe, manager);
    const defects =
      recipe?.steps.flatMap((step) => step.defects.map((one) => ({ ...one, at: step.at }))) ?? [];
    const here = new Set(
      state.pieces.filter((piece) => fits(route, piece, body)).map((piece) => piece.operation),
    );
    const known = defects.filter(({ defect }) => said.startsWith(defect.toLowerCase()));
    const meant = known.find(({ at }) => here.has(at)) ?? known[0];
    return meant && route.operations.some(({ key }) => key === meant.backTo)
      ? { ...body, to: meant.backTo }
      : body;
  }

  /** Test panels sprayed with a rack that can tell when they are cured. */
  private async panelEnds(manager: EntityManager, { state: { code } }: Rack): Promise<PanelEnd[]> {
    return (await this.panels.ends([code], manager)).get(code) ?? [];
  }

  private async mustBeAble(
    manager: EntityManager,
    operation: Operation,
    who: string | undefined,
    by: string,
  ): Promise<void> {
    const people = await this.setup.people(manager);
    const worker = people.find(({ code }) => code === (who ?? by));
    if (!worker) throw new Refused(refuse('bad-value', `nobody here is called '${who ?? by}'`));
    if (operation.mode !== 'attended') return;
    const { skill, ableOnly, name } = operation;
    if (skill === null || worker.skills.includes(skill) || (who === undefined && !ableOnly)) return;
    const able = people.filter(({ skills }) => skills.includes(skill));
    const names = able.map((one) => `${one.name} (${one.code})`).join(', ') || 'nobody here';
    throw new Refused(
      refuse(
        'bad-value',
        who === undefined
          ? `say who does it: ${name} takes somebody able to ${skill}: ${names}`
          : `${worker.name} is not able to ${skill}: ${names} can do ${name}`,
      ),
    );
  }

  private async boothOf(
    manager: EntityManager,
    operation: Operation,
    asked: string | undefined,
  ): Promise<BoothRow | null> {
    const booths = manager.getRepository(BoothRow);
    if (asked !== undefined) {
      const booth = await booths.findOneBy({ code: asked });
      if (!booth) throw new Refused(refuse('bad-value', `there is no booth '${asked}'`));
      return booth;
    }
    return booths.findOne({ where: { station: operation.stations[0] ?? '' }, order: { position: 'ASC' } });
  }

  /** The mix or lot a coat comes out of: the one named, or the one in use. */
  private async sourceOf(
    manager: EntityManager,
    step: { name: string; mixed: boolean; spec: { material: string } },
    { asked, litres, atMs }: { asked: string | undefined; litres: number | undefined; atMs: number },
  ): Promise<{ code?: string; against: string[] }> {
    const { material } = step.spec;
    const wanted = { litres, atMs, what: 'this coat' };
    const [lots, mixes] = [manager.getRepository(MaterialLotRow), manager.getRepository(MixRow)];
    const at = new Date(atMs);
    if (asked !== undefined) {
      const mix = await mixes.findOneBy({ code: asked });
      const lot = await lots.findOneBy({ code: asked });
      const found = mix ?? lot;
      if (!found) throw new Refused(refuse('bad-value', `there is no lot or mix '${asked}'`));
      if (found.material !== material)
        throw new Refused(
          refuse('bad-value', `${asked} is ${found.material}: ${step.name} takes ${material}`),
        );
      return {
        code: asked,
        against: [
          ...(mix ? [...mixAgainst(mix, atMs), ...(await mixLeftAgainst(manager, mix, litres))] : []),
          ...(lot ? await lotAgainst(manager, lot, wanted) : []),
        ],
      };
    }
    const inUse = await mixes
      .createQueryBuilder('m')
      .where('m.material = :material AND m.mixed_at <= :at AND (m.ended_at IS NULL OR m.ended_at > :at)', {
        material,
        at,
      })
      .orderBy('m.mixed_at', 'DESC')
      .getOne();
    if (inUse)
      return {
        code: inUse.code,
        against: [...mixAgainst(inUse, atMs), ...(await mixLeftAgainst(manager, inUse, litres))],
      };
    if (step.mixed) return { against: [`no mix of ${material} is open: note what was mixed first`] };
    const open = await openLot(manager, material, atMs);
    return open
      ? { code: open.code, against: await lotAgainst(manager, open, wanted) }
      : { against: await noLotOpen(manager, material, atMs) };
  }

  private async recoat(
    manager: EntityManager,
    { state }: Rack,
    positions: number[],
    atMs: number,
    booth: BoothRow | null,
  ): Promise<string[]> {
    const [first] = state.coats.filter(({ positions: on }) => positions.some((place) => on.includes(place)));
    if (!first) return [];
    const rooms = [...new Set([...coatedRooms(state), ...(booth ? [booth.room] : [])])];
    const fromMs = Math.max(first.atMs - DAY_MS, atMs - LONGEST_CURE_DAYS * DAY_MS);
    const series = await this.climate.hourly(rooms, fromMs, atMs, manager);
    const against = recoatAgainst({ state, positions, atMs, climateOf: (room) => series.get(room) });
    return against === undefined ? [] : [against];
  }

  private async air(manager: EntityManager, booth: BoothRow, atMs: number): Promise<string[]> {
    const air = await this.boothAir.at(manager, booth, atMs);
    if (!air) return [];
    const { verdict, against } = air.judged;
    return verdict === 'spray'
      ? []
      : [
          `${booth.name} ${verdict === 'blush' ? 'would blush it' : 'is out of its limits'}: ${against.join('; ')}`,
        ];
  }
}

function mixAgainst(mix: MixRow, atMs: number): string[] {
  const endsMs = mix.mixedAt.getTime() + mix.potLifeHours * HOUR_MS;
  return atMs > endsMs
    ? [
        `mix ${mix.code} is ${((atMs - endsMs) / HOUR_MS).toFixed(1)} h past its pot life of ${mix.potLifeHours} h`,
      ]
    : [];
}

const fits = (
  route: Route,
  piece: BatchState['pieces'][number],
  { operation, station, pieces }: Pick<BodyOf<'coat'>, 'operation' | 'station' | 'pieces'>,
): boolean =>
  (operation === undefined || piece.operation === operation) &&
  (station === undefined || operationOf(route, piece.operation).stations.includes(station)) &&
  (pieces === undefined || pieces.includes(piece.position));

/** The pieces in hand a coat would go on, and where; undefined where the reducer will refuse it anyway. */
function coatedAt(
  { state, route }: Rack,
  body: Pick<BodyOf<'coat'>, 'operation' | 'station' | 'pieces' | 'count'>,
): { operation: Operation; positions: number[] } | undefined {
  const sprayed = (operation: Operation): boolean =>
    coatsAsked(state, operation).length > 0 || (operation.mode === 'attended' && operation.coats !== null);
  const inHand = state.pieces.filter(
    (piece) =>
      piece.standing === 'inHand' && fits(route, piece, body) && sprayed(operationOf(route, piece.operation)),
  );
  const keys = new Set(inHand.map((piece) => piece.operation));
  const [key] = keys;
  if (keys.size !== 1 || key === undefined) return undefined;
  return {
    operation: operationOf(route, key),
    positions: inHand.slice(0, body.count ?? inHand.length).map((piece) => piece.position),
  };
}
