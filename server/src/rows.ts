import type { Rows } from './database/data-source.ts';
import * as assembly from './assembly/rows.ts';
import * as kits from './kits/rows.ts';
import * as finishing from './finishing/rows.ts';
import * as flow from './flow/rows.ts';
import * as log from './log/rows.ts';
import * as machining from './machining/rows.ts';
import * as orders from './orders/rows.ts';
import * as setup from './setup/rows.ts';
import * as wood from './wood/rows.ts';

/** The rows of every room, for the connection to the database. */
export const ROWS: Rows = [setup, log, wood, machining, finishing, assembly, flow, orders, kits].flatMap(
  (room) => Object.values<Rows[number]>(room),
);
