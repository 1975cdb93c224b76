/** The database was never reached: no connection, or none free (class 53300), or it is starting (57P03). */
const NOT_REACHED = /^(ECONNREFUSED|ENOTFOUND|EHOSTUNREACH|53300|57P03)$/;
const NOT_REACHED_MESSAGE =
  /timeout exceeded when trying to connect|Driver not Connected|\(database was not reached\)/i;
/**
 * It was lost on the way (class 08, 57P01, 57P02, sockets). A connection lost between two steps of a transaction shows as a
 * query runner that is "already released", or that knows of no transaction any more when it is to commit.
 */
const LOST = /^(08...|57P0[12]|25P03|ECONNRESET|EPIPE|ETIMEDOUT)$/;
const LOST_MESSAGE =
  /Connection terminated|Query read timeout|already released|not queryable|Transaction is not started/i;
/** Somebody else holds what is wanted, or it takes too long: lock, deadlock, serialization, statement limits. */
const BUSY = /^(55P03|40P01|40001|57014)$/;
const DISK_FULL = /^(53100|ENOSPC)$/;
const DISK_FULL_MESSAGE = /No space left on device/i;
/** A value no column can hold (class 22), or that breaks a rule of a table (23502, 23514). */
const NO_SUCH_VALUE = /^(22...|23502|23514)$/;
/** Another request was there first (23505), or what it speaks of is gone (23503). */
const CROSSED = /^(23505|23503)$/;

export type Failure = 'not reached' | 'lost' | 'busy' | 'disk full' | 'no such value' | 'crossed' | 'fault';

/** What kind of failure an error thrown while answering is. */
export function failureOf(error: unknown): Failure {
  if (!(error instanceof Error)) return 'fault';
  const { code = '', errors = [], message } = error as Error & { code?: string; errors?: unknown[] };
  const inner = errors.map(failureOf).find((kind) => kind !== 'fault');
  if (inner) return inner;
  if (DISK_FULL.test(code) || DISK_FULL_MESSAGE.test(message)) return 'disk full';
  if (NOT_REACHED.test(code) || NOT_REACHED_MESSAGE.test(message)) return 'not reached';
  if (LOST.test(code) || LOST_MESSAGE.test(message)) return 'lost';
  if (BUSY.test(code)) return 'busy';
  if (NO_SUCH_VALUE.test(code)) return 'no such value';
  return CROSSED.test(code) ? 'crossed' : 'fault';
}

/** Whether the database would not have what was written, by its values or by their rules, and did not fail itself. */
export const isOfTheValues = (error: unknown): boolean => {
  const failure = failureOf(error);
  return failure === 'no such value' || failure === 'crossed';
};
