import {
  blankMoisturePct,
  chooseBlanks,
  hasLeft,
  judgeLot,
  learnKeepFraction,
  pieceAt,
  pieceCode,
  type WeightTerm,
  lightestFirst,
  uncutPieces,
  windowOf,
  type BatchState,
  type Blank,
  type BlankDemand,
  type BlanksChosen,
  type KeepFraction,
  type Route,
  type RoutedBatch,
  type StockBlank,
  type WoodView,
} from '@ample-crane/core';
import { BadRequestException, ConflictException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, IsNull } from 'typeorm';
import { type ModelWood } from '../setup/rows.ts';
import { WeighBackRow } from './rows.ts';
import { RacksService } from '../floor/racks.service.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { ChangesService } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotsService } from './lots.service.ts';
import { MetersService } from './meters.service.ts';

export interface BlankView extends Blank {
  lot: string;
  species: string;
  moisturePct: number | null;
}

/** A single blank, or the two halves of a book-matched pair: what is chosen together. */
export interface UnitView extends StockBlank {
  kind: string;
  /** Blanks it is made of. */
  blanks: string[];
  lot: string;
}

export interface ChoiceView {
  batch: string;
  model: string;
  kind: string;
  quantity: number;
  /** Blanks already taken for it. */
  taken: string[];
  /** What its model wants, for the pieces no order wishes otherwise of. */
  demand: BlankDemand;
  /** Pieces an order wishes another weight of. */
  wished: WishedDemand[];
  /** Pieces that still want a blank. */
  wanting: number;
  keep: KeepFraction;
  chosen: BlanksChosen;
  /** The rule of thumb on the same stock, to compare. */
  thumb: BlanksChosen;
  units: UnitView[];
  /** Other batches that were planned along, so that this one does not take what they need. */
  along: { batch: string; model: string; count: number }[];
}

/** What the instrument of a piece should weigh, because its order wishes so. */
export interface WeightWish {
  /** Line of the order, 'O-12/1'. */
  line: string;
  finishedKg: { low: number; high: number };
  /** What is not this blank: its own other wood and kit, as well as they are known, kg. */
  othersKg: number;
}

/** Who knows what orders wish. */
export interface KnowsWishes {
  /** By the code of the piece, of racks that want blanks. */
  wishesOf(racks: readonly BatchState[]): Promise<ReadonlyMap<string, WeightWish>>;
}

export interface WishedDemand extends BlankDemand {
  line: string;
}

const kg = (value: number): string => value.toFixed(2);

export type WeighedView = Pick<NewWeighBack, 'piece' | 'blankKg' | 'finishedKg'>;

export interface NewWeighBack {
  key: string;
  by: string;
  model: string;
  kind: string;
  piece: string;
  blankKg: number;
  finishedKg: number;
}

/** A rack whose pieces want blanks. */
interface Wanting {
  state: BatchState;
  route: Route;
  kind: string;
  model: string;
  wood: ModelWood;
}

/** Blanks of one sort are so far apart, share of what they usually weigh. Default. */
const USUAL_BLANK_SD_SHARE = 0.08;

/** Boards and blanks in stock, and which of them go to which batch. */
@Injectable()
export class StockService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly lots: LotsService,
    private readonly meters: MetersService,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
  ) {}

  private readonly wishes: KnowsWishes[] = [];

  /** Whoever knows what orders wish says so when the server starts. */
  register(one: KnowsWishes): void {
    this.wishes.push(one);
  }

  /** Blanks in stock with the moisture they are known to have. */
  async blanks(): Promise<BlankView[]> {
    const [lots, window, lines] = await Promise.all([
      this.lots.open(),
      this.lots.window(),
      this.meters.lines(),
    ]);
    return lots.flatMap((lot) => {
      const inStock = lot.blanks.filter((blank) => blank.status === 'stock');
      if (inStock.length === 0) return [];
      const { readings } = judgeLot(lot, { window, lineOf: lines(lot.species) });
      return inStock.map((blank) => ({
        ...blank,
        lot: lot.code,
        species: lot.species,
        moisturePct: blankMoisturePct(readings, blank.board),
      }));
    });
  }

  /** Which blanks a batch should take, planned together with all other batches that still want blanks. */
  async choice(code: string): Promise<ChoiceView> {
    const wanting = await this.wanting();
    const asked = wanting.find(({ state }) => state.code === code);
    if (!asked)
      throw new NotFoundException(
        `${code} wants no blanks: it is not open, or its model says nothing of its wood`,
      );
    // Blanks of one kind only compete with each other: necks do not take from bodies.
    const competing = wanting.filter(({ kind }) => kind === asked.kind);
    const [keeps, taken, wishes] = await Promise.all([
      this.keeps(wanting),
      this.taken(),
      this.wished(competing),
    ]);
    const demands = competing.map((rack) => demandsOf(rack, keeps, taken.get(rack.state.code), wishes));
    const own = demands[competing.indexOf(asked)];
    const keep = keeps.get(`${asked.model} ${asked.kind}`);
    if (!own || !keep) throw new Error('choice: the batch asked about is planned');
    const planned = demands.flatMap(({ usual, wished }) => [usual, ...wished]);
    const species = new Set(planned.map((demand) => demand.species));
    const units = (await this.units()).filter(
      (unit) => unit.kind === asked.kind && species.has(unit.species),
    );
    const ofRack = (result: BlanksChosen): BlanksChosen => {
      const chosen = result.chosen.filter(({ batch }) => batch === code);
      return {
        chosen,
        missing: result.missing.filter(({ batch }) => batch === code),
        totalDeviationKg: chosen.reduce((sum, { deviationKg }) => sum + deviationKg, 0),
      };
    };
    return {
      ...{ batch: code, model: asked.model, kind: asked.kind, quantity: asked.state.quantity },
      ...{ demand: own.usual, wished: own.wished, wanting: wantingOf(own), keep, units },
      taken: (taken.get(code) ?? []).map(({ id }) => id),
      chosen: ofRack(chooseBlanks({ demands: planned, blanks: units })),
      thumb: ofRack(lightestFirst({ demands: planned, blanks: units })),
      along: competing.flatMap(({ state, model }, i) => {
        const count = demands[i] ? wantingOf(demands[i]) : 0;
        return state.code === code || count === 0 ? [] : [{ batch: state.code, model, count }];
      }),
    };
  }

  /** What orders wish of the pieces of some racks, by their codes. */
  private async wished(racks: readonly Wanting[]): Promise<Map<string, WeightWish>> {
    const states = racks.map(({ state }) => state);
    const known = await Promise.all(this.wishes.map((one) => one.wishesOf(states)));
    return new Map(known.flatMap((wishes) => [...wishes]));
  }

  /** Takes blanks for a batch, whichever lots they come from, in one filing. */
  async take(request: {
    key: string;
    by: string;
    batch: string;
    blanks: string[];
    pieces?: number[];
    because?: string;
  }): Promise<FilingOutcome> {
    const { key, by, batch, blanks, pieces: asked, because } = request;
    const row = await this.floor.find(batch);
    if (!row?.state || row.closed) throw new NotFoundException(`${batch} is not an open batch`);
    const inStock = await this.blanks();
    const kinds = new Map(inStock.map((blank) => [blank.id, blank.kind]));
    const strange = blanks.find((id) => kinds.has(id) && kinds.get(id) !== row.kind);
    if (strange !== undefined)
      throw new BadRequestException(
        `blank ${strange} is for kind ${kinds.get(strange)}, ${batch} is of kind ${row.kind}`,
      );
    const becomes = await this.piecesFor(row.state, blanks, asked, inStock);
    const byLot = new Map<string, string[]>();
    for (const id of blanks) {
      const lot = id.split('/')[0] ?? '';
      byLot.set(lot, [...(byLot.get(lot) ?? []), id]);
    }
    const entries = [...byLot].map(([lot, ids]) => {
      const pieces = ids.map((id) => becomes.get(id) ?? 0);
      return {
        lot,
        draft: { type: 'take' as const, blanks: ids, batch, pieces, ...(because ? { because } : {}) },
      };
    });
    return this.lots.fileLot({ key, by, entries });
  }

  /**
   * Which piece of a batch each blank becomes: as asked, or its pieces that have no wood yet, in their order; the halves of a
   * pair become one.
   */
  private async piecesFor(
    state: BatchState,
    blanks: readonly string[],
    asked: readonly number[] | undefined,
    inStock: readonly BlankView[],
  ): Promise<Map<string, number>> {
    if (asked && asked.length !== blanks.length)
      throw new BadRequestException(`${blanks.length} blanks for ${asked.length} pieces: one for each`);
    const taken = (await this.lots.takenFor(state.code))
      .flatMap((lot) => lot.blanks)
      .filter((blank) => blank.batch === state.code);
    const wooded = new Set(taken.map(({ piece }) => piece));
    const open = state.pieces
      .filter((piece) => !hasLeft(piece) && !wooded.has(piece.position))
      .map(({ position }) => position);
    const mate = new Map(inStock.map(({ id, matchedWith }) => [id, matchedWith]));
    const becomes = new Map<string, number>();
    for (const [i, id] of blanks.entries()) {
      const other = mate.get(id);
      const known = other === null || other === undefined ? undefined : becomes.get(other);
      const wanted = asked?.[i];
      if (wanted !== undefined && wanted !== known && !open.includes(wanted))
        throw new ConflictException(
          `${pieceCode(state.code, wanted)} wants no wood: it has some, or is not there`,
        );
      const piece = known ?? wanted ?? open[0];
      if (piece !== undefined && open.includes(piece)) open.splice(open.indexOf(piece), 1);
      if (piece === undefined)
        throw new ConflictException(
          `${state.code} wants wood for ${state.pieces.length - wooded.size} more of its ${state.pieces.length} pieces: these are too many`,
        );
      becomes.set(id, piece);
    }
    return becomes;
  }

  /** Of a piece that is in the books of that model and kind, once each. */
  async weighBack(weighed: NewWeighBack): Promise<KeepFraction> {
    const { key, model, kind, piece, blankKg, finishedKg, by } = weighed;
    const part = await this.woodPart(model, kind);
    if (finishedKg > blankKg)
      throw new BadRequestException(
        `finished it cannot weigh more than its blank: ${finishedKg} of ${blankKg} kg`,
      );
    const stranger = await this.setup.stranger(by);
    if (stranger) throw new BadRequestException(stranger.refused);
    const rows = this.source.getRepository(WeighBackRow);
    if (!(await rows.existsBy({ key }))) {
      await this.pieceOf(piece, model, kind);
      const before = await rows.findOneBy({ model, kind, piece, takenBackAt: IsNull() });
      if (before)
        throw new ConflictException(
          `${piece} is weighed back already: ${kg(before.blankKg)} kg as a blank, ${kg(before.finishedKg)} kg finished. Take that back first if it was wrong.`,
        );
      await rows
        .createQueryBuilder()
        .insert()
        .values({
          ...{ key, model, kind, piece, blankKg, finishedKg, person: by },
          at: new Date(await this.clock.happened()),
        })
        .orIgnore()
        .execute();
    }
    return learnKeepFraction(part.keep, await this.weighed(model, kind));
  }

  /** What the kit of a model is reckoned at, kg; null: nobody said. */
  async kitKg(model: string): Promise<number | null> {
    return (await this.setup.model(model))?.wood?.kitKg ?? null;
  }

  /**
   * What each wooden part of an instrument weighs: as it was weighed back, by the blank it was taken of, or as its blanks usually are.
   * @param parts the piece of each kind, by its code; a kind that is not there is not begun
   * @param but a kind that is left out
   */
  async weightTerms(model: string, parts: ReadonlyMap<string, string>, but?: string): Promise<WeightTerm[]> {
    const wood = (await this.setup.model(model))?.wood;
    const terms: WeightTerm[] = [];
    for (const [kind, part] of Object.entries(wood?.parts ?? {})) {
      if (kind === but) continue;
      const piece = parts.get(kind);
      const what = `${await this.kindName(kind)}${piece === undefined ? '' : ` ${piece}`}`;
      const weighed = await this.weighed(model, kind);
      const own = weighed.find((one) => piece !== undefined && isSamePiece(one.piece, piece));
      if (own) {
        terms.push({ what, weighedKg: own.finishedKg });
        continue;
      }
      const blankKg = piece === undefined ? null : await this.blankKgOf(piece);
      terms.push({
        ...{ what, keep: learnKeepFraction(part.keep, weighed), chamberKg: part.chamberKg },
        ...{
          blankKg: blankKg ?? part.usualBlankKg,
          blankSdKg: blankKg === null ? USUAL_BLANK_SD_SHARE * part.usualBlankKg : 0,
        },
      });
    }
    return terms;
  }

  private async kindName(letter: string): Promise<string> {
    return (await this.setup.kinds()).find((kind) => kind.letter === letter)?.name ?? letter;
  }

  /** What the wood of a piece weighed as a blank, both halves of a pair; null: nothing was taken for it. */
  private async blankKgOf(piece: string): Promise<number | null> {
    const { batch, position } = pieceAt(piece);
    const blanks = (await this.lots.takenFor(batch))
      .flatMap((lot) => lot.blanks)
      .filter((blank) => blank.batch === batch && blank.piece === position);
    return blanks.length === 0 ? null : blanks.reduce((sum, { weightKg }) => sum + weightKg, 0);
  }

  /** What was weighed back of a model's kind and counts, newest first. */
  async weighBacks(model: string, kind: string): Promise<WeighedView[]> {
    const rows = await this.weighed(model, kind);
    return rows.reverse().map(({ piece, blankKg, finishedKg }) => ({ piece, blankKg, finishedKg }));
  }

  /** The newest weigh-back of a piece no longer counts; it stays in the record. */
  async takeBackWeighBack(by: string, model: string, kind: string, piece: string): Promise<KeepFraction> {
    const part = await this.woodPart(model, kind);
    const takenBackAt = new Date(await this.clock.now());
    await this.changes.change({ by, setting: 'weigh-back', name: piece }, async (manager) => {
      const rows = manager.getRepository(WeighBackRow);
      const where = { model, kind, piece, takenBackAt: IsNull() };
      const row = await rows.findOne({ where, lock: { mode: 'pessimistic_write' } });
      if (!row) throw new NotFoundException(`${piece} is not weighed back`);
      await rows.update(where, { takenBackAt });
      return { before: { blankKg: row.blankKg, finishedKg: row.finishedKg }, after: null };
    });
    return learnKeepFraction(part.keep, await this.weighed(model, kind));
  }

  private async woodPart(model: string, kind: string): Promise<ModelWood['parts'][string]> {
    const part = (await this.setup.model(model))?.wood?.parts[kind];
    if (!part) throw new NotFoundException(`${model} says nothing of the wood of kind ${kind}`);
    return part;
  }

  /** @throws BadRequestException when no batch of that model and kind has the piece. */
  private async pieceOf(piece: string, model: string, kind: string): Promise<void> {
    const [code = '', number = ''] = piece.split('/');
    const batch = await this.floor.find(code);
    if (!batch)
      throw new BadRequestException(`there is no piece ${piece}: a piece is named like ${kind}-201/3`);
    if (batch.model !== model || batch.kind !== kind)
      throw new BadRequestException(
        `${piece} is a ${batch.model} of kind ${batch.kind}, not a ${model} of kind ${kind}`,
      );
    const last = batch.state?.pieces.length ?? 0;
    if (!/^[1-9]\d*$/.test(number) || Number(number) > last)
      throw new BadRequestException(`there is no piece ${piece}: ${code} has pieces 1 to ${last}`);
  }

  private weighed(model: string, kind: string): Promise<WeighBackRow[]> {
    return this.source
      .getRepository(WeighBackRow)
      .find({ where: { model, kind, takenBackAt: IsNull() }, order: { id: 'ASC' } });
  }

  /** Racks of models that say what their wood must be, by how many of their uncut pieces have it; most urgent first. */
  async woodOf(racks: readonly RoutedBatch[]): Promise<WoodView[]> {
    const uncut = racks
      .map((rack) => ({ ...rack, pieces: uncutPieces(rack) }))
      .filter(({ pieces }) => pieces > 0)
      .toSorted((a, b) => a.state.dueMs - b.state.dueMs || a.state.code.localeCompare(b.state.code));
    if (uncut.length === 0) return [];
    const taken = await this.taken();
    const views: WoodView[] = [];
    for (const { state, pieces } of uncut) {
      const wood = (await this.setup.model(state.model))?.wood;
      if (!wood?.parts[state.kind]) continue;
      const wooded = Math.min(pieces, taken.get(state.code)?.length ?? 0);
      views.push({ batch: state.code, pieces, wooded });
    }
    return views;
  }

  /** Open batches whose pieces are still wood in rest, oldest due first, of models that say what their wood must be. */
  private async wanting(): Promise<Wanting[]> {
    const found: Wanting[] = [];
    for (const { state, route } of await this.floor.open()) {
      const { kind, model } = state;
      const wood = (await this.setup.model(model))?.wood;
      const first = route.operations[0]?.key;
      if (!wood?.parts[kind] || !state.pieces.some((piece) => piece.operation === first)) continue;
      found.push({ state, route, kind, model, wood });
    }
    return found.sort((a, b) => a.state.dueMs - b.state.dueMs || a.state.code.localeCompare(b.state.code));
  }

  private async keeps(wanting: readonly Wanting[]): Promise<Map<string, KeepFraction>> {
    const keeps = new Map<string, KeepFraction>();
    for (const { model, wood } of wanting) {
      for (const [kind, part] of Object.entries(wood.parts)) {
        const key = `${model} ${kind}`;
        if (!keeps.has(key)) keeps.set(key, learnKeepFraction(part.keep, await this.weighed(model, kind)));
      }
    }
    return keeps;
  }

  /** Blanks taken so far, a pair once, by batch, with the piece each becomes; null: nobody said. */
  private async taken(): Promise<Map<string, TakenBlank[]>> {
    const rows = await this.source.query<{ batch: string; blanks: TakenBlank[] }[]>(
      `SELECT b->>'batch' AS batch,
              json_agg(json_build_object('id', b->>'id', 'piece', (b->'piece')::int) ORDER BY b->>'id') AS blanks
         FROM lot, jsonb_array_elements(state->'blanks') AS b
        WHERE b->>'status' = 'taken' AND (b->>'matchedWith' IS NULL OR b->>'id' < b->>'matchedWith') GROUP BY 1`,
    );
    return new Map(rows.map((row) => [row.batch, row.blanks]));
  }

  /** Single blanks, and matched pairs as one. */
  private async units(): Promise<UnitView[]> {
    const blanks = await this.blanks();
    const byId = new Map(blanks.map((blank) => [blank.id, blank]));
    return blanks.flatMap((blank) => {
      const other = blank.matchedWith === null ? undefined : byId.get(blank.matchedWith);
      if (other && other.id < blank.id) return [];
      return [
        {
          id: other ? `${blank.id}+${other.id.split('.')[1] ?? ''}` : blank.id,
          blanks: other ? [blank.id, other.id] : [blank.id],
          lot: blank.lot,
          kind: blank.kind,
          species: blank.species,
          weightKg: blank.weightKg + (other?.weightKg ?? 0),
          grade: blank.grade,
          ...(blank.colour ? { colour: blank.colour } : {}),
          moisturePct: blank.moisturePct,
        },
      ];
    });
  }
}

/** 'B-150/1' is B-150/01. */
function isSamePiece(one: string, other: string): boolean {
  const [a, b] = [pieceAt(one), pieceAt(other)];
  return a.batch === b.batch && a.position === b.position;
}

interface TakenBlank {
  id: string;
  piece: number | null;
}

interface RackDemands {
  usual: BlankDemand;
  wished: WishedDemand[];
}

const wantingOf = ({ usual, wished }: RackDemands): number =>
  [usual, ...wished].reduce((sum, { pieces }) => sum + pieces.length, 0);

/** What the pieces of a rack that have no wood yet want: as their model says, or as their order wishes. */
function demandsOf(
  { state, route, kind, model, wood }: Wanting,
  keeps: ReadonlyMap<string, KeepFraction>,
  taken: readonly TakenBlank[] = [],
  wishes: ReadonlyMap<string, WeightWish>,
): RackDemands {
  const part = wood.parts[kind];
  if (!part) throw new Error(`demandsOf: ${model} has no part ${kind}`);
  const others = Object.entries(wood.parts).filter(([other]) => other !== kind);
  const othersKg = others.reduce(
    (sum, [other, { usualBlankKg, keep }]) =>
      sum + usualBlankKg * (keeps.get(`${model} ${other}`)?.mean ?? keep.mean),
    wood.kitKg,
  );
  const [first] = route.operations;
  const rule = first?.mode === 'hold' && first.rule.rule === 'moisture' ? first.rule : null;
  const wooded = new Set(taken.map(({ piece }) => piece));
  const pieces = state.pieces
    .filter(({ operation, position }) => operation === first?.key && !wooded.has(position))
    .map(({ position }) => position)
    // Of blanks that were taken before it was kept which piece they become, the first have had them.
    .slice(taken.filter(({ piece }) => piece === null).length);
  const usual: BlankDemand = {
    ...{ batch: state.code, pieces, species: part.species, finishedKg: wood.finishedKg, othersKg },
    keepFraction: keeps.get(`${model} ${kind}`)?.mean ?? part.keep.mean,
    ...{ chamberKg: part.chamberKg, grade: part.grade },
    ...(part.colour ? { colour: part.colour } : {}),
    ...(rule ? { moisture: windowOf(rule) } : {}),
  };
  const wished = pieces.flatMap((piece): WishedDemand[] => {
    const wish = wishes.get(pieceCode(state.code, piece));
    return wish ? [{ ...usual, ...wish, pieces: [piece] }] : [];
  });
  const otherwise = new Set(wished.flatMap((one) => one.pieces));
  return { usual: { ...usual, pieces: pieces.filter((piece) => !otherwise.has(piece)) }, wished };
}
