import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { onlyPart, expect, log, openRack, OTHER_NAME, test as onFloor } from '../floor.ts';
import { CutLine } from '../../server/src/testing/cut-line.ts';

/** The browser asks the works through a line that a test can cut. */
const test = onFloor.extend<{ over: { line: CutLine; url: string } }>({
  over: async ({ works }, use) => {
    const over = await CutLine.to(works.address);
    await use(over);
    await over.line.close();
  },
  baseURL: async ({ over }, use) => use(over.url),
});
/** The same address, as another machine calls it. */
const fromElsewhere = (address: string): string => address.replace('127.0.0.1', OTHER_NAME);

const kept = (page: Page, count: number) => page.getByText(`${count} kept until the server is back`);
const type = async (page: Page, line: string): Promise<void> => {
  const input = page.getByLabel('Log', { exact: true });
  await input.fill(line);
  await input.press('Enter');
};
/** A rack of four on an open board. */
async function freshRack(page: Page): Promise<string> {
  const batch = await openRack(page, { model: 'Bowline', kind: 'B', quantity: 4 });
  await page.goto('/');
  await expect(page.locator('a[data-rack]').first()).toBeVisible();
  return batch;
}

interface Told {
  entries: { seq: number; type: string; atMs: number; filedMs: number }[];
  state: { quantity: number };
}
const told = async (page: Page, batch: string): Promise<Told> =>
  (await (await page.request.get(`/api/batches/${batch}`)).json()) as Told;

test.describe('from another machine, over plain HTTP', () => {
  test('lines and forms are filed', async ({ page, over }) => {
    const elsewhere = fromElsewhere(over.url);
    await page.goto(elsewhere);
    expect(
      await page.evaluate(() => [isSecureContext, 'randomUUID' in crypto, 'locks' in navigator]),
    ).toEqual([false, false, false]);
    await page.goto(`${elsewhere}open`);
    const open = await onlyPart(page, 'B');
    await page.getByLabel('Pieces').fill('3');
    await open.click();
    const verdict = page.getByText(/^[A-Z]-\d+ is on the board\.$/).first();
    await expect(verdict).toBeVisible();
    const batch = ((await verdict.textContent()) ?? '').split(' ')[0] ?? '';
    expect(await log(page, `${batch} hold dust`)).toContain(batch);
    await page.getByRole('button', { name: `Take back ${batch}` }).click();
    await expect(page.locator('#log-answer')).toHaveText(new RegExp(`Corrected: ${batch}`));
  });

  test('what is filed without a line is kept, also there', async ({ page, over: { line, url } }) => {
    await page.goto(fromElsewhere(url));
    const batch = await page.evaluate(async () => {
      const floor = (await (await fetch('/api/floor')).json()) as { racks: { code: string }[] };
      return floor.racks[0]?.code ?? '';
    });
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    line.cut();
    await type(page, `${batch} hold dust`);
    await expect(kept(page, 1)).toBeVisible();
    line.mend();
    await expect(page.locator('#log-answer')).toHaveText(/^Filed, late/);
  });
});

test('a day without a line: kept through reload and closed tabs, in order, each of the moment it was touched', async ({
  page,
  context,
  over: { line },
}) => {
  const batch = await freshRack(page);
  const other = await context.newPage();
  await other.goto('/');
  await expect(other.locator('a[data-rack]').first()).toBeVisible();
  line.cut();
  await type(page, `${batch} read 9.1 9.2 9.0 9.1`);
  await expect(kept(page, 1)).toBeVisible();
  await expect(page.getByLabel('Log', { exact: true })).toHaveValue('');
  await type(other, `${batch} read 7.1 7.2 7.0 7.1`);
  await expect(kept(other, 2)).toBeVisible();
  await page.close();
  // Long enough that it counts: what goes at once is of now.
  await other.waitForTimeout(12_000);
  line.mend();
  await other.reload();
  const readings = async () =>
    (await told(other, batch)).entries
      .filter(({ type: kind }) => kind === 'read')
      .toSorted((a, b) => a.seq - b.seq);
  await expect.poll(async () => (await readings()).length).toBe(2);
  await expect(kept(other, 2)).toBeHidden();
  const reads = await readings();
  for (const read of reads) expect(read.filedMs - read.atMs).toBeGreaterThan(10_000);
  expect(reads[0]?.atMs).toBeLessThan(reads[1]?.atMs ?? 0);
});

test('what is refused late stays until its person decides: anew with a reason, or dropped and noted', async ({
  page,
  over: { line },
}) => {
  const batch = await freshRack(page);
  line.cut();
  for (const typed of [`${batch} end`, `${batch} body mill done`, `${batch} read 7.1 7.2 7.0 7.1`])
    await type(page, typed);
  await expect(kept(page, 3)).toBeVisible();
  line.mend();
  await expect(page.getByText('2 refused: decide')).toBeVisible({ timeout: 40_000 });
  await page.getByText('2 refused: decide').click();
  await expect(page.getByRole('heading', { name: 'Kept in this browser' })).toBeVisible();
  const first = page.getByRole('article', { name: `${batch} end` });
  await first.getByLabel('Reason, if it is to go on anyway').fill('dry by the other meter');
  await first.getByRole('button', { name: 'File with this reason' }).click();
  await expect(first).toBeHidden();
  const second = page.getByRole('article', { name: `${batch} body mill done` });
  await second.getByRole('button', { name: 'Drop, and note it' }).click();
  await expect(page.getByText('Nothing is kept: the server has all that was filed here.')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Given up' }).getByText(`${batch} body mill done`),
  ).toBeVisible();
  const { entries } = await told(page, batch);
  expect(entries.map(({ type: kind }) => kind).toSorted()).toEqual(['end', 'open', 'read']);
});

interface Row {
  waiting: { quantity: number }[];
  holds: { quantity: number }[];
}

test('an answer that is lost and a button pressed again make one batch', async ({ page, context }) => {
  await page.goto('/open');
  const open = await onlyPart(page, 'B');
  await page.getByLabel('Pieces').fill('7');
  let lost = 0;
  await context.route('**/api/batches', async (route) => {
    // It arrives and is filed; its answer does not come back.
    await route.fetch();
    lost += 1;
    await (lost < 3 ? route.abort() : route.fulfill({ response: await route.fetch() }));
  });
  await open.click();
  await expect(open).toBeDisabled();
  await expect(page.getByText(/^[A-Z]-\d+ is on the board\.$/)).toHaveCount(1);
  const stages = ['wood', 'machining', 'fitting', 'finishing', 'assembly'];
  const rows = await Promise.all(
    stages.map(async (stage) => (await page.request.get(`/api/stages/${stage}`)).json() as Promise<Row[]>),
  );
  const drawn = rows.flat().flatMap(({ waiting, holds }) => [...waiting, ...holds]);
  expect(drawn.filter(({ quantity }) => quantity === 7)).toHaveLength(1);
});

test.describe('without server and browser', () => {
  test('the page opens, shows the last floor with its age, and keeps what is filed; a closed browser loses nothing', async ({
    over: { line, url },
  }) => {
    const folder = mkdtempSync(join(tmpdir(), 'ample-crane-browser-'));
    const launch = (): Promise<BrowserContext> =>
      chromium.launchPersistentContext(folder, {
        executablePath: '/usr/bin/chromium',
        args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
        baseURL: url,
        serviceWorkers: 'allow',
        viewport: { width: 1280, height: 800 },
      });
    const before = await launch();
    const page = await before.newPage();
    await page.goto('/');
    await expect(page.getByRole('link', { name: /^Machining/ })).toBeVisible();
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
    const batch = await page.evaluate(async () => {
      const floor = (await (await fetch('/api/floor')).json()) as { racks: { code: string }[] };
      return floor.racks[0]?.code ?? '';
    });
    // The floor is kept every few seconds.
    await page.waitForTimeout(6000);
    line.cut();
    await page.reload();
    await expect(page.getByRole('alert').first()).toHaveText(
      /The server does not answer\. What you see is of/,
    );
    await expect(page.getByRole('link', { name: /^Machining/ })).toBeVisible();
    await type(page, `${batch} hold dust`);
    await expect(kept(page, 1)).toBeVisible();
    await before.close();
    line.mend();

    const after = await launch();
    const again = await after.newPage();
    await again.goto('/');
    await expect
      .poll(
        async () => {
          const answer = await again.request.get(`/api/batches/${batch}`);
          const { entries } = (await answer.json()) as Told;
          return entries.filter(({ type: kind }) => kind === 'hold').length;
        },
        { timeout: 30_000 },
      )
      .toBe(1);
    await after.close();
  });
});
