import {
  FactoryRow,
  KindRow,
  ModelRow,
  StationRow,
  PersonRow,
  AbsenceRow,
  RouteRow,
  BedRow,
  SpeciesRow,
  RoomRow,
} from './setup/rows.ts';
import { BatchRow, FilingRow, LogEntryRow } from './log/rows.ts';
import { MeterRow, OvenDrySampleRow, MeterLineRow, LotRow, WeighBackRow } from './wood/rows.ts';
import { ProgramRow, CutterRow, CutterChangeRow, MachineRow, MachineCycleRow } from './machining/rows.ts';
import {
  RecipeRow,
  BoothRow,
  FilterChangeRow,
  MaterialRow,
  MaterialLotRow,
  MixRow,
  PanelRow,
  PanelWeighingRow,
} from './finishing/rows.ts';
import { StationDayRow } from './flow/rows.ts';

/** The rows of every room, for the connection to the database. */
export const ROWS = [
  FactoryRow,
  KindRow,
  ModelRow,
  StationRow,
  PersonRow,
  AbsenceRow,
  RouteRow,
  BedRow,
  SpeciesRow,
  RoomRow,
  BatchRow,
  FilingRow,
  LogEntryRow,
  MeterRow,
  OvenDrySampleRow,
  MeterLineRow,
  LotRow,
  WeighBackRow,
  ProgramRow,
  CutterRow,
  CutterChangeRow,
  MachineRow,
  MachineCycleRow,
  RecipeRow,
  BoothRow,
  FilterChangeRow,
  MaterialRow,
  MaterialLotRow,
  MixRow,
  PanelRow,
  PanelWeighingRow,
  StationDayRow,
];
