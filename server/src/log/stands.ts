/** SQL: the entry `e` of the log still stands, no correction has taken it back. */
export const STANDS = `NOT EXISTS (SELECT 1 FROM voided v WHERE v.batch = e.batch AND v.seq = e.seq)`;
