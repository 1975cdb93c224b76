import type { BodyOf, EntryType } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { STANDS } from './stands.ts';

/** Whoever asks from within a transaction gives its manager; others the source. */
export type Asks = Pick<EntityManager, 'query'>;

/** An entry of a batch that no correction has taken back. */
export interface EntryInForce<T extends EntryType> {
  batch: string;
  /** Of its batch. */
  model: string;
  kind: string;
  station: string | null;
  /** How many it moved, and their 1-based places on the rack. */
  pieces: number;
  positions: number[];
  /** Code of the person who filed it. */
  by: string;
  atMs: number;
  seq: number;
  /** Key of the filing it came with. */
  filing: string;
  operation: string | null;
  body: BodyOf<T>;
}

/** By what the newest entries are told apart: what their batch is, or what they say. */
const EACH = { model: 'b.model', kind: 'b.kind', check: `e.body ->> 'check'` } as const;

/** Which entries are wanted; what is left out is not asked for. */
export interface EntriesWanted<T extends EntryType> {
  type: T;
  batch?: string;
  model?: string;
  kind?: string;
  operation?: string;
  /** Filed on its batch after this one. */
  afterSeq?: number;
  /** Happened later than this. */
  afterMs?: number;
  /** Happened before this. */
  beforeMs?: number;
  /** Came with this filing. */
  filing?: string;
  /** What the body says under a key: one of these, or anything at all. */
  says?: Readonly<Record<string, readonly string[] | 'something'>>;
  /** Only the newest so many, of all or of each. */
  newest?: { count: number; ofEach?: readonly (keyof typeof EACH)[] };
}

/** Entries in force, in the order in which they happened. */
export async function entriesInForce<T extends EntryType>(
  db: Asks,
  wanted: EntriesWanted<T>,
): Promise<EntryInForce<T>[]> {
  const values: unknown[] = [];
  const value = (one: unknown): string => `$${values.push(one)}`;
  const conditions = [
    `e.type = ${value(wanted.type)}`,
    ...(['model', 'kind'] as const).flatMap((key) =>
      wanted[key] === undefined ? [] : `b.${key} = ${value(wanted[key])}`,
    ),
    ...(['batch', 'operation'] as const).flatMap((key) =>
      wanted[key] === undefined ? [] : `e.${key} = ${value(wanted[key])}`,
    ),
    ...(wanted.afterSeq === undefined ? [] : [`e.seq > ${value(wanted.afterSeq)}`]),
    ...(wanted.afterMs === undefined ? [] : [`e.happened_at > ${value(new Date(wanted.afterMs))}`]),
    ...(wanted.beforeMs === undefined ? [] : [`e.happened_at < ${value(new Date(wanted.beforeMs))}`]),
    ...(wanted.filing === undefined ? [] : [`e.filing_key = ${value(wanted.filing)}`]),
    ...Object.entries(wanted.says ?? {}).map(([key, said]) =>
      said === 'something' ? `e.body ? ${value(key)}` : `e.body ->> ${value(key)} = ANY(${value(said)})`,
    ),
    STANDS,
  ];
  const columns =
    'e.id, e.batch, b.model, b.kind, e.station, e.pieces, e.positions, e.person, e.happened_at, e.seq, e.filing_key AS filing, e.operation, e.body';
  const from = `FROM log_entry e JOIN batch b ON b.code = e.batch WHERE ${conditions.join(' AND ')}`;
  const newestFirst = 'ORDER BY e.happened_at DESC, e.id DESC';
  const { count, ofEach } = wanted.newest ?? {};
  const rows = await db.query<EntryColumns<T>[]>(
    ofEach
      ? `SELECT * FROM (
           SELECT ${columns}, row_number() OVER (PARTITION BY ${ofEach.map((key) => EACH[key]).join(', ')} ${newestFirst}) AS back ${from}) asked
          WHERE back <= ${value(count)} ORDER BY happened_at, id`
      : // A limit lets the newest be found without looking at all.
        `SELECT * FROM (SELECT ${columns} ${from} ${count === undefined ? '' : `${newestFirst} LIMIT ${value(count)}`}) asked
          ORDER BY happened_at, id`,
    values,
  );
  return rows.map(({ id: _id, back: _back, person, happened_at, ...entry }) => ({
    ...entry,
    ...{ by: person, atMs: happened_at.getTime() },
  }));
}

interface EntryColumns<T extends EntryType> extends Omit<EntryInForce<T>, 'by' | 'atMs'> {
  id: string;
  /** How many newer ones of its like there are, and itself. */
  back?: string;
  person: string;
  happened_at: Date;
}

/** How much each person filed in each quarter of an hour of the day since a moment, by the clock on the wall. */
export const filingsByQuarter = (
  db: Asks,
  { fromMs, zone }: { fromMs: number; zone: string },
): Promise<{ person: string; at: string; count: number }[]> =>
  db.query(
    `SELECT person, to_char(date_bin('15 minutes', filed_at AT TIME ZONE $2, TIMESTAMP '2000-01-01'), 'HH24:MI') AS at,
            count(DISTINCT filing_key)::int AS count
       FROM log_entry WHERE filed_at >= $1 GROUP BY 1, 2 ORDER BY 1, 2`,
    [new Date(fromMs), zone],
  );

/** What was started together on a table. */
export interface StartedLoad {
  code: string;
  program: string;
  model: string;
  kind: string;
  /** When its first pieces were started. */
  atMs: number;
  firstPiece: boolean;
  pieces: number;
}

/** Loads that were started after a moment, each once, without what was taken back; of all stations when none is named. */
export async function loadsStarted(
  db: Asks,
  { afterMs, station }: { afterMs: number; station?: string },
): Promise<StartedLoad[]> {
  const rows = await db.query<(Omit<StartedLoad, 'atMs'> & { at: Date })[]>(
    `SELECT body -> 'load' ->> 'code' AS code, body -> 'load' ->> 'program' AS program, b.model, b.kind,
            min(happened_at) AS at, bool_or((body -> 'load' ->> 'firstPiece')::boolean) AS "firstPiece", sum(pieces)::int AS pieces
       FROM log_entry e JOIN batch b ON b.code = e.batch
      WHERE type = 'start' AND body ? 'load' AND happened_at > $1 AND ($2::text IS NULL OR station = $2) AND ${STANDS}
      GROUP BY 1, 2, 3, 4`,
    [new Date(afterMs), station ?? null],
  );
  return rows.map(({ at, ...load }) => ({ ...load, atMs: at.getTime() }));
}

/** The batches of which something was ever started as a load, taken back or not; none: there never was one. */
export async function batchesOfLoad(db: Asks, load: string): Promise<string[]> {
  const rows = await db.query<{ batch: string }[]>(
    `SELECT DISTINCT batch FROM log_entry WHERE type = 'start' AND body ? 'load' AND body -> 'load' ->> 'code' = $1`,
    [load],
  );
  return rows.map(({ batch }) => batch);
}

/** Whether another load than this lay on a table or press at a moment: started before it, off after it. */
export async function otherLoadLay(
  db: Asks,
  { bed, load, atMs }: { bed: string; load: string; atMs: number },
): Promise<boolean> {
  const rows = await db.query<unknown[]>(
    `SELECT 1 FROM log_entry s
       JOIN log_entry off ON off.batch = s.batch AND off.station = s.station AND off.type IN ('done', 'scrap', 'rework')
      WHERE s.type = 'start' AND s.body ? 'load' AND s.body ->> 'bed' = $1 AND s.happened_at <= $3
        AND s.body -> 'load' ->> 'code' <> $2 AND off.happened_at > $3 LIMIT 1`,
    [bed, load, new Date(atMs)],
  );
  return rows.length > 0;
}

/** What was drawn for coats that stand from some lots or mixes, litres by their codes. */
export async function litresCoated(db: Asks, lots: readonly string[]): Promise<Map<string, number>> {
  const rows = await db.query<{ lot: string; litres: number | null }[]>(
    // Lot by lot, so that a log of many years is asked by lots and not read from its first coat on.
    `SELECT lot, litres
       FROM unnest($1::text[]) AS of(lot),
            LATERAL (SELECT sum((body -> 'facts' ->> 'litres')::float) AS litres
                       FROM log_entry e
                      WHERE type = 'coat' AND body ->> 'lot' = of.lot AND ${STANDS}) AS drawn`,
    [lots],
  );
  return new Map(rows.map(({ lot, litres }) => [lot, litres ?? 0]));
}

/** How many entries of some filings were taken back. */
export async function takenBackOf(db: Asks, filingKeys: readonly string[]): Promise<number> {
  const [row] = await db.query<{ taken: number }[]>(
    `SELECT count(*)::int AS taken FROM log_entry e WHERE filing_key = ANY($1) AND NOT ${STANDS}`,
    [filingKeys],
  );
  return row?.taken ?? 0;
}

/** The filing that was filed last, as its answer told it. */
export interface LastFiling {
  key: string;
  batch: string;
  sentence: string;
  by: string;
  filedMs: number;
  /** It took others back. */
  correction: boolean;
}

export async function lastFiling(db: Asks): Promise<LastFiling | null> {
  const [row] = await db.query<(Omit<LastFiling, 'filedMs'> & { filed_at: Date })[]>(
    `SELECT f.key, e.batch, f.result ->> 'sentence' AS sentence, f.person AS by, f.filed_at, e.type = 'undo' AS correction
       FROM filing f JOIN log_entry e ON e.filing_key = f.key ORDER BY e.id DESC LIMIT 1`,
  );
  if (!row) return null;
  const { filed_at, ...filing } = row;
  return { ...filing, filedMs: filed_at.getTime() };
}

/** What left with one filing: to whom, for which order, how many. */
export interface ShippedTogether {
  filing: string;
  atMs: number;
  to: string;
  order: string | null;
  pieces: number;
}

/** Racks of which pieces leave together, at most: the newest entries that may be one shipment are looked at, not all that ever were. */
const MOST_RACKS_SHIPPED = 100;

/** Shipments whose order begins with these words, or that went to somebody whose name holds them; newest first, so many at most. */
export async function shipmentsLike(db: Asks, words: string, most: number): Promise<ShippedTogether[]> {
  const like = words.replaceAll(/[\\%_]/g, String.raw`\$&`);
  const rows = await db.query<(Omit<ShippedTogether, 'atMs'> & { at: Date })[]>(
    `SELECT filing, max(at) AS at, min("to") AS "to", min("order") AS "order", sum(pieces)::int AS pieces
       FROM (SELECT e.filing_key AS filing, e.happened_at AS at, e.body ->> 'to' AS "to", e.body ->> 'order' AS "order", e.pieces
               FROM log_entry e
              WHERE e.type = 'ship' AND (e.body ->> 'order' ILIKE $1 OR e.body ->> 'to' ILIKE $2) AND ${STANDS}
              ORDER BY e.happened_at DESC, e.filing_key LIMIT $4) newest
      GROUP BY filing ORDER BY at DESC LIMIT $3`,
    [`${like}%`, `%${like}%`, most, most * MOST_RACKS_SHIPPED],
  );
  return rows.map(({ at, to, ...rest }) => ({ ...rest, to: to ?? '', atMs: at.getTime() }));
}
