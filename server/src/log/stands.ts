/** SQL: the entry `e` of the log still stands, no correction has taken it back. */
export const STANDS = `NOT EXISTS (SELECT 1 FROM log_entry u
  WHERE u.batch = e.batch AND u.type = 'undo' AND u.body->'voids' @> to_jsonb(e.seq))`;
