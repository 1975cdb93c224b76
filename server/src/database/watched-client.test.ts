import pg from 'pg';
import { testDatabaseAddress } from '../testing/databases.ts';
import { HeldClient, WatchedClient } from './watched-client.ts';

it.each([HeldClient, WatchedClient])(
  '%p that is lost while nobody holds it ends itself, and not the server',
  async (Client) => {
    const connectionString = testDatabaseAddress();
    const client = new Client({ connectionString });
    await client.connect();
    const { rows } = await client.query<{ pid: number }>('SELECT pg_backend_pid() AS pid');
    const ended = new Promise((resolve) => client.once('end', resolve));
    const other = new pg.Client({ connectionString });
    await other.connect();
    await other.query('SELECT pg_terminate_backend($1)', [rows[0]?.pid]);
    await ended;
    await expect(client.query('SELECT 1')).rejects.toThrow();
    await other.end();
  },
);
