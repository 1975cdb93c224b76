/**
 * npm test -- ROOM…: the tests of rooms (wood, finishing, log …) in core, server and web, with the PostgreSQL they need.
 * Anything that is part of a path of tests is a room: `npm test -- wood/climate`. Without one it says which there are.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const rooms = process.argv.slice(2);
if (rooms.length === 0) {
  const all = ['core', 'server', 'web'].flatMap((part) =>
    readdirSync(join(root, part, 'src'), { withFileTypes: true })
      .filter((entry) => entry.isDirectory())
      .map(({ name }) => name),
  );
  console.error(
    `usage: npm test -- ROOM…; everything: ./test\nrooms: ${[...new Set(all)].toSorted().join(', ')}`,
  );
  process.exit(2);
}

execFileSync(join(root, 'scripts/prepare.sh'), { stdio: 'inherit' });
const postgres = (...args) =>
  execFileSync(join(root, 'scripts/postgres.sh'), args, {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  }).trim();
postgres('install');
const work = mkdtempSync(join(tmpdir(), 'ample-crane-tests-'));
chmodSync(work, 0o755);
try {
  const TEST_DATABASE_URL = process.env.TEST_DATABASE_URL ?? postgres('start', work, 'throwaway');
  const patterns = rooms.map((room) => `src/${room}`).join('|');
  const env = { ...process.env, TEST_DATABASE_URL };
  const jest = ['jest', '--maxWorkers=2', '--testPathPatterns', patterns];
  process.exitCode = spawnSync('npx', jest, { cwd: root, env, stdio: 'inherit' }).status ?? 1;
} finally {
  if (!process.env.TEST_DATABASE_URL) postgres('stop', work, 'immediate');
  rmSync(work, { recursive: true, force: true });
}
