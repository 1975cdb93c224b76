import { CutLine } from '../testing/cut-line.ts';
import { testDatabaseAddress } from '../testing/works.ts';
import { DatabaseWatch } from './watch.service.ts';

async function eventually(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 100 && !holds(); i += 1) await new Promise((resolve) => setTimeout(resolve, 100));
  expect(holds()).toBe(true);
}

it('ends a connection it was still making when it was told to stop: no program stays behind for it', async () => {
  const { line, url } = await CutLine.to(testDatabaseAddress());
  const before = process.env.DATABASE_URL;
  process.env.DATABASE_URL = url;
  try {
    const watch = new DatabaseWatch();
    line.hold();
    watch.onApplicationBootstrap();
    await eventually(() => line.open === 1);
    watch.beforeApplicationShutdown();
    line.letThrough();
    await eventually(() => line.open === 0);
  } finally {
    process.env.DATABASE_URL = before;
    await line.close();
  }
});
