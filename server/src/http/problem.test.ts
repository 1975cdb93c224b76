import { databaseIsAway } from './problem.filter.ts';

const failure = (message: string, code?: string): Error =>
  Object.assign(new Error(message), code ? { code } : {});

describe('a database that is away', () => {
  it.each([
    failure('connect ECONNREFUSED 127.0.0.1:54320', 'ECONNREFUSED'),
    failure('terminating connection due to administrator command', '57P01'),
    failure('terminating connection because of crash of another server process', '57P02'),
    failure('the database system is starting up', '57P03'),
    failure('sorry, too many clients already', '53300'),
    failure('connection failure', '08006'),
    failure('Connection terminated unexpectedly'),
    failure('timeout exceeded when trying to connect'),
    failure('Database connection provided by a query runner was already released, cannot continue'),
    failure('Transaction is not started yet, start transaction before committing or rolling it back.'),
    new AggregateError([failure('connect', 'ECONNREFUSED')], ''),
  ])('is known by %s', (error) => {
    expect(databaseIsAway(error)).toBe(true);
  });

  it.each([
    failure('duplicate key value violates unique constraint', '23505'),
    failure('division by zero', '22012'),
    'ECONNREFUSED',
    null,
  ])('is not guessed from %s', (error) => {
    expect(databaseIsAway(error)).toBe(false);
  });
});
