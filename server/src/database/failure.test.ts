import { failureOf, type Failure } from './failure.ts';

const failure = (message: string, code?: string): Error =>
  Object.assign(new Error(message), code ? { code } : {});

describe('a failure (12.3, 12.6, 12.8)', () => {
  it.each<[Failure, unknown]>([
    ['not reached', failure('connect ECONNREFUSED 127.0.0.1:54320', 'ECONNREFUSED')],
    ['not reached', failure('the database system is starting up', '57P03')],
    ['not reached', failure('sorry, too many clients already', '53300')],
    ['not reached', failure('timeout exceeded when trying to connect')],
    ['not reached', new AggregateError([failure('connect', 'ECONNREFUSED')], '')],
    ['lost', failure('terminating connection due to administrator command', '57P01')],
    ['lost', failure('terminating connection because of crash of another server process', '57P02')],
    ['lost', failure('connection failure', '08006')],
    ['lost', failure('Connection terminated unexpectedly')],
    ['lost', failure('Query read timeout')],
    ['lost', failure('Database connection provided by a query runner was already released, cannot continue')],
    ['lost', failure('Query runner already released. Cannot run queries anymore.')],
    [
      'lost',
      failure('Transaction is not started yet, start transaction before committing or rolling it back.'),
    ],
    ['busy', failure('canceling statement due to lock timeout', '55P03')],
    ['busy', failure('deadlock detected', '40P01')],
    ['busy', failure('canceling statement due to statement timeout', '57014')],
    ['disk full', failure('could not extend file "base/1/2": No space left on device', '53100')],
    ['disk full', failure('ENOSPC: no space left on device, write', 'ENOSPC')],
    ['no such value', failure('"1e-320" is out of range for type real', '22003')],
    ['no such value', failure('invalid byte sequence for encoding "UTF8": 0x00', '22021')],
    ['crossed', failure('duplicate key value violates unique constraint', '23505')],
    ['fault', failure('x is not a function')],
    ['fault', 'ECONNREFUSED'],
    ['fault', null],
  ])('is known as %s', (kind, error) => {
    expect(failureOf(error)).toBe(kind);
  });
});
