import {
  isRefusal,
  RECIPE_FORMAT,
  RECIPE_SCHEMA,
  refuse,
  usualAir,
  validateRecipe,
  DAY_MS,
  type AirNow,
  type Recipe,
  type Refusal,
} from '@ample-crane/core';
import { BadRequestException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RecipeRow } from './rows.ts';
import { RacksService } from '../floor/racks.service.ts';
import { schemaReader } from '../http/schema-reader.ts';
import { tellAll } from '../live/tell.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { RecipeBookService } from './recipe-book.service.ts';

/** The climate of the season is that of the last so many days. */
const SEASON_DAYS = 14;

export type RecipeFile = Omit<Recipe, 'id' | 'revision'> & { format: typeof RECIPE_FORMAT };

export interface RecipeView {
  id: string;
  name: string;
  revision: number;
  newest: boolean;
  recipe: Recipe;
  note: string;
  person: string | null;
  madeMs: number;
  /** Open racks that work by this revision. */
  batches: string[];
  /** Model and kind it is the usual finish of. */
  usualOf: string[];
}

const readFile = schemaReader<RecipeFile>(RECIPE_SCHEMA, 'recipe');

/** Recipes with their revisions. */
@Injectable()
export class RecipesService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly climate: ClimateService,
    private readonly book: RecipeBookService,
  ) {}

  /** Every revision, titles in order and the newest first; with the air of the season, for their length. */
  async all(): Promise<{
    nowMs: number;
    zone: string;
    season: AirNow;
    room: string | null;
    recipes: RecipeView[];
  }> {
    const [nowMs, { calendar }, rows, open, models] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.source.getRepository(RecipeRow).find({ order: { name: 'ASC', revision: 'DESC' } }),
      this.floor.open(),
      this.setup.models(),
    ]);
    const room = (await this.book.cureRoom()) ?? null;
    const series = await this.climate.hourly(
      room === null ? [] : [room],
      nowMs - SEASON_DAYS * DAY_MS,
      nowMs,
    );
    const season = usualAir(series.get(room ?? '') ?? []) ?? { temperatureC: 21, relativeHumidityPct: 50 };
    const usual = models.flatMap(({ name, finish }) =>
      Object.entries(finish).map(([kind, { recipes }]) => ({ recipe: recipes[0], words: `${name} ${kind}` })),
    );
    return {
      nowMs,
      zone: calendar.zone,
      season,
      room,
      recipes: rows
        .map((row) => ({
          id: row.id,
          name: row.name,
          revision: row.revision,
          newest: !rows.some((other) => other.name === row.name && other.revision > row.revision),
          recipe: row.recipe,
          note: row.note,
          person: row.person,
          madeMs: row.madeAt.getTime(),
          batches: open.filter(({ state }) => state.finish?.recipe === row.id).map(({ state }) => state.code),
          usualOf: usual.filter(({ recipe }) => recipe === row.name).map(({ words }) => words),
        }))
        .sort((a, b) => a.recipe.title.localeCompare(b.recipe.title) || b.revision - a.revision),
    };
  }

  /** A recipe as a file of its own. */
  async file(id: string): Promise<RecipeFile> {
    const row = await this.source.getRepository(RecipeRow).findOneBy({ id });
    if (!row) throw new NotFoundException(`there is no recipe ${id}`);
    const { id: _id, revision: _revision, ...rest } = row.recipe;
    return { format: RECIPE_FORMAT, ...rest };
  }

  /** What a file holds. @throws BadRequestException with what is wrong and where. */
  read(file: unknown): RecipeFile {
    return readFile(file);
  }

  /** A new revision, for the racks opened from now on; racks under way keep theirs. */
  async revise(asked: {
    by: string;
    recipe: unknown;
    note: string;
    /** The newest revision as whoever asks saw it; 0 for a new recipe. */
    from: number;
  }): Promise<RecipeView | Refusal> {
    const { by, note, from } = asked;
    const { format: _format, ...rest } = this.read(asked.recipe);
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    if (note.trim() === '') return refuse('bad-value', 'say what changed: a revision needs a note');
    const revision = from + 1;
    const recipe: Recipe = { ...rest, id: `${rest.name}-${revision}`, revision };
    const [problem, ...more] = validateRecipe(recipe);
    if (problem)
      return refuse('bad-value', `${problem.problem}${more.length > 0 ? `, and ${more.length} more` : ''}`);
    const madeAt = new Date(await this.clock.now());
    const made = await this.source.transaction(async (manager): Promise<string | Refusal> => {
      await manager.query("SELECT pg_advisory_xact_lock(hashtext('recipe ' || $1))", [recipe.name]);
      const [last] = await manager
        .getRepository(RecipeRow)
        .find({ where: { name: recipe.name }, order: { revision: 'DESC' }, take: 1 });
      if ((last?.revision ?? 0) !== from)
        return refuse('taken', `revision ${last?.revision ?? 0} was made meanwhile: compare with it first`);
      await manager.insert(RecipeRow, {
        ...{ id: recipe.id, name: recipe.name, revision, recipe, note, person: by, madeAt },
      });
      await tellAll(manager, []);
      return recipe.id;
    });
    if (isRefusal(made)) return made;
    const seen = (await this.all()).recipes.find(({ id }) => id === made);
    if (!seen) throw new BadRequestException(`${made} was made and is not there`);
    return seen;
  }
}
