import {
  DAY_MS,
  factoryDate,
  SHIPPED_RECIPES,
  shiftDate,
  SPECIES,
  type FactoryCalendar,
} from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { BoothRow, MaterialRow, RecipeRow } from '../finishing/rows.ts';
import { CutterRow, ProgramRow } from '../machining/rows.ts';
import {
  AbsenceRow,
  BedRow,
  FactoryRow,
  KindRow,
  ModelRow,
  PersonRow,
  RoomRow,
  RouteRow,
  SkillRow,
  SpeciesRow,
  StationRow,
} from '../setup/rows.ts';
import { MeterRow } from '../wood/rows.ts';
import { BOOTHS, FINISHES, MATERIALS } from './tarrow-finish.ts';
import { CUTTERS, PROGRAMS, ROUTES } from './tarrow-routes.ts';
import { SerialSettingRow } from '../assembly/rows.ts';
import { BENCHES, SERIALS } from './tarrow-bench.ts';
import {
  BEDS,
  FACTORY,
  KINDS,
  METERS,
  MODELS,
  PEOPLE,
  ROOMS,
  STATIONS,
  TRAINING_DAYS,
} from './tarrow-works.ts';

/** Writes Tarrow Works into an empty database: people, stations, models and routes, but nothing that happened. */
export async function writeMasterData(
  manager: EntityManager,
  nowMs: number,
  calendar: FactoryCalendar = FACTORY.calendar,
): Promise<void> {
  const today = factoryDate(FACTORY.calendar, nowMs);
  await manager.insert(FactoryRow, { id: 1, ...FACTORY, calendar, clockOffsetMs: nowMs - Date.now() });
  await manager.insert(KindRow, KINDS);
  await manager.insert(
    ModelRow,
    MODELS.map((model) => ({
      ...model,
      finish: FINISHES[model.name] ?? {},
      practice: new Map(Object.entries(BENCHES)).get(model.name)?.practice ?? null,
    })),
  );
  await manager.insert(
    StationRow,
    STATIONS.map((station, position) => ({ ...station, position })),
  );
  await manager.insert(PersonRow, PEOPLE);
  await manager.insert(
    SkillRow,
    Object.entries(TRAINING_DAYS).map(([name, trainingDays]) => ({ name, trainingDays })),
  );
  await manager.insert(SpeciesRow, [...SPECIES]);
  await manager.insert(MeterRow, METERS);
  await manager.insert(
    RoomRow,
    ROOMS.map(({ room, band: [emcLowPct, emcHighPct], holdsWood = false }, position) => ({
      name: room,
      position,
      emcLowPct,
      emcHighPct,
      holdsWood,
    })),
  );
  await manager.insert(
    BedRow,
    BEDS.map((bed, position) => ({ ...bed, position })),
  );
  const made = { person: 'ostrander', madeAt: new Date(nowMs - 120 * DAY_MS) };
  await manager.insert(
    RouteRow,
    ROUTES.map((route) => ({ ...route, ...made, note: 'as drawn on the old sheets' })),
  );
  await manager.insert(
    ProgramRow,
    PROGRAMS.map((program) => ({ ...program, ...made, note: 'first cut' })),
  );
  await manager.insert(CutterRow, CUTTERS);
  await manager.insert(
    RecipeRow,
    SHIPPED_RECIPES.map((recipe) => ({
      ...{ id: recipe.id, name: recipe.name, revision: recipe.revision, recipe },
      ...made,
      note: 'as on the old cards',
    })),
  );
  await manager.insert(
    BoothRow,
    BOOTHS.map((booth, position) => ({ ...booth, position })),
  );
  await manager.insert(MaterialRow, MATERIALS);
  await manager.insert(SerialSettingRow, { id: 1, ...SERIALS });
  await manager.insert(AbsenceRow, [
    { person: 'tamsin', day: today },
    { person: 'saltry', day: today },
    { person: 'hask', day: shiftDate(today, 1) },
  ]);
}
