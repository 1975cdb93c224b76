/**
 * node scripts/many-years.mjs DATABASE_URL [COPIES]: makes a large works of a database that holds the demo: its open racks and orders
 * eighteen times, and the logs of what has left COPIES times (940: 3 million entries, 186,000 instruments), each copy so much further
 * back as such a works would take to make as much. Only for measuring; docs/benchmarks.md tells what came of it.
 */
import pg from 'pg';

const [, , url, asked = '940'] = process.argv;
const copies = Number(asked);
if (!url || !Number.isInteger(copies) || copies < 1) {
  console.error('usage: node scripts/many-years.mjs DATABASE_URL [COPIES]');
  process.exit(2);
}
/** Open racks are there so many times in all, and the demo's twelve weeks hold as many copies. */
const OPEN_TIMES = 18;
const DAYS_BETWEEN = 84 / OPEN_TIMES;
const AT_ONCE = 20;

const client = new pg.Client({ connectionString: url });
await client.connect();
const beganMs = Date.now();

const open = (i) => `kind || '-' || (1000 * ${i} + split_part(code, '-', 2)::int)`;
for (let i = 1; i < OPEN_TIMES; i += 1) {
  const others = `"O-2', '"O-${i}2'`;
  await client.query(
    `INSERT INTO batch (code, kind, model, route_id, seq, closed, state)
     SELECT ${open(i)}, kind, model, route_id, seq, false,
            replace(jsonb_set(state, '{code}', to_jsonb(${open(i)}))::text, '${others})::jsonb
       FROM batch WHERE NOT closed AND split_part(code, '-', 2)::int < 1000`,
  );
  await client.query(
    `INSERT INTO piece (batch, position, standing, operation, since_at, serial, line)
     SELECT ${open(i)}, position, standing, operation, since_at, NULL, replace(p.line, 'O-2', 'O-${i}2')
       FROM piece p JOIN batch b ON b.code = p.batch WHERE NOT b.closed AND split_part(code, '-', 2)::int < 1000`,
  );
  await client.query(
    `INSERT INTO customer_order (code, seq, closed, pieces, state)
     SELECT replace(code, 'O-2', 'O-${i}2'), seq, closed, pieces, replace(state::text, '${others})::jsonb
       FROM customer_order WHERE length(code) = 6`,
  );
}
await client.query(`
  CREATE TEMP TABLE old_batch AS SELECT * FROM batch WHERE closed AND state IS NOT NULL;
  CREATE TEMP TABLE old_stay AS SELECT * FROM stay WHERE batch IN (SELECT code FROM old_batch);
  CREATE TEMP TABLE old_piece AS SELECT * FROM piece WHERE batch IN (SELECT code FROM old_batch);
  CREATE TEMP TABLE old_entry AS SELECT * FROM log_entry
   WHERE batch IN (SELECT code FROM old_batch) AND filed_at < now() - interval '1 hour'`);
const copy = `|| 'Y' || i`;
const back = `i * ${DAYS_BETWEEN} * interval '1 day'`;
for (let from = 1; from <= copies; from += AT_ONCE) {
  const each = `generate_series(${from}, ${Math.min(copies, from + AT_ONCE - 1)}) i`;
  await client.query(
    `INSERT INTO batch (code, kind, model, route_id, seq, closed, state)
     SELECT code ${copy}, kind, model, route_id, seq, true, jsonb_set(state, '{code}', to_jsonb(code ${copy})) FROM old_batch, ${each}`,
  );
  await client.query(
    `INSERT INTO stay (batch, seq, positions, operation, station, status, rule, meets, person, from_at, to_at, ended, to_operation, reason, cause)
     SELECT batch ${copy}, seq, positions, operation, station, status, rule, meets, person, from_at - ${back}, to_at - ${back}, ended,
            to_operation, reason, cause FROM old_stay, ${each}`,
  );
  await client.query(
    `INSERT INTO piece (batch, position, standing, operation, since_at, serial)
     SELECT batch ${copy}, position, standing, operation, since_at - ${back}, serial ${copy} FROM old_piece, ${each}`,
  );
  // Years ago the lacquer came out of other drums.
  await client.query(
    `INSERT INTO log_entry (filing_key, batch, seq, type, operation, station, pieces, person, happened_at, filed_at, body, positions)
     SELECT filing_key, batch ${copy}, seq, type, operation, station, pieces, person, happened_at - ${back}, filed_at - ${back},
            CASE WHEN body ? 'lot' THEN jsonb_set(body, '{lot}', to_jsonb((body ->> 'lot') ${copy})) ELSE body END, positions
       FROM old_entry, ${each}`,
  );
  console.log(`${Math.min(copies, from + AT_ONCE - 1)} of ${copies}`);
}
for (const table of ['batch', 'stay', 'piece', 'log_entry']) await client.query(`VACUUM ANALYZE ${table}`);
const { rows } = await client.query(
  `SELECT (SELECT count(*) FROM log_entry) AS entries, (SELECT count(*) FROM stay) AS stays,
          (SELECT count(*) FROM batch WHERE NOT closed) AS "open racks",
          (SELECT count(*) FROM piece p JOIN batch b ON b.code = p.batch WHERE b.kind = 'I') AS instruments,
          pg_size_pretty(pg_database_size(current_database())) AS size`,
);
console.log(rows[0], `${Math.round((Date.now() - beganMs) / 1000)} s`);
await client.end();
