import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { callOf, expect, log, openRack, test } from '../floor.ts';
import { accessible, fits } from '../looks.ts';

test('the board shows what waits, what is in hand, what is on hold, and what wants the manager', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByText('Tarrow Works')).toBeVisible();
  await expect(page.getByText(/Shift A to 15:30/)).toBeVisible();
  const colour = page.getByRole('group', { name: 'Colour' });
  await expect(colour.getByRole('link').first()).toBeVisible();
  await expect(page.getByText(/tight: colour/)).toBeVisible();
  const calls = page.getByRole('complementary', { name: 'Calls' });
  await expect(calls.getByText('Colour is the constraint')).toBeVisible();
  await expect(calls.getByText(/h of work waiting against 9 h a day/)).toBeVisible();
});

test('a call is acted on right there and is gone with its cause', async ({ page }) => {
  await page.goto('/');
  const sorted = (await callOf(page, 'does not pass its moisture gate')).first();
  const title = (await sorted.locator('h3').textContent()) ?? '';
  await sorted.getByRole('button', { name: /End hold of the \d+ that pass/ }).click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\..*hold of \d+ ended/);
  await expect(page.getByText(title)).toHaveCount(0);
});

test('a call is put off by keyboard, for everybody, and brought back', async ({ page, second }) => {
  await page.goto('/');
  await second.goto('/');
  const call = second.getByRole('article').filter({ hasText: 'Lumber room is too damp' });
  await expect(call).toBeVisible();
  await page.getByRole('button', { name: 'Not now: Lumber room is too damp' }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Lumber room is too damp' });
  await dialog.getByRole('combobox', { name: 'Put off until' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('option', { name: /^tomorrow morning/ }).focus();
  await page.keyboard.press('Enter');
  await dialog.getByLabel('Why it can wait').focus();
  await page.keyboard.type('the dryer is repaired tonight');
  await dialog.getByRole('button', { name: 'Put it off' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('#log-answer')).toHaveText('Lumber room is too damp: put off.');
  await expect(call).toHaveCount(0);
  await second.getByRole('button', { name: '1 put off' }).click();
  await expect(second.getByText(/^until Wed 25 Nov 07:00, by M\. Ostrander: the dryer/)).toBeVisible();
  await second.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('button', { name: 'Not now: Lumber room is too damp' })).toBeVisible();
});

test('a filing shows on a second open board without loading it again', async ({ page, second }) => {
  await second.goto('/');
  await second.evaluate(() => Object.assign(window, { neverReloaded: true }));
  const racks = second.getByRole('link', { name: /^Wood room/ });
  const before = await racks.textContent();
  const code = await openRack(page, { model: 'Halyard', kind: 'N', quantity: 7 });
  await expect(racks).not.toHaveText(before ?? '');
  await log(page, `${code} end because the room is full`);
  await expect(
    second.getByRole('group', { name: 'Neck mill' }).getByRole('link', { name: new RegExp(code) }),
  ).toBeVisible();
  expect(await second.evaluate(() => 'neverReloaded' in window)).toBe(true);
});

test('a rack that moves is seen to, without taking the focus or the place that is read; less motion is honoured', async ({
  page,
  second,
}) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await page.addInitScript(() => {
    const seen: string[] = [];
    Object.assign(window, { seen });
    new MutationObserver((all) => {
      for (const { addedNodes } of all)
        for (const node of addedNodes)
          if (node instanceof HTMLElement && node.matches('.moving')) seen.push(node.textContent);
    }).observe(document, { childList: true, subtree: true });
  });
  // It waits alone at its station, where nothing is on hold: put on hold it is drawn there.
  const { rows } = (await (await page.request.get('/api/board')).json()) as {
    rows: { waiting: { batch: string }[]; moreWaiting: number; holds: object[] }[];
  };
  const alone = rows.find(({ waiting, holds }) => waiting.length === 1 && holds.length === 0);
  const code = alone?.waiting[0]?.batch ?? '';
  await page.setViewportSize({ width: 1280, height: 420 });
  await page.goto('/');
  const find = page.getByRole('button', { name: 'Find' });
  const board = page.locator('.board');
  await expect(board.locator(`.waiting a[data-rack="${code}"]`)).toBeAttached();
  await find.focus();
  await board.evaluate((element) => element.scrollTo(0, 60));
  await second.goto('/kept');
  await log(second, `${code} hold wait for the buyer`);
  const seen = (): Promise<string[]> => page.evaluate(() => (window as unknown as { seen: string[] }).seen);
  await expect.poll(async () => (await seen()).join()).toContain(code);
  await expect(page.locator('.moving')).toHaveCount(0);
  await expect(find).toBeFocused();
  expect(await board.evaluate((element) => element.scrollTop)).toBe(60);
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const before = (await seen()).length;
  await log(second, `${code} undo`);
  await expect(board.locator(`.waiting a[data-rack="${code}"]`)).toBeAttached();
  expect((await seen()).length).toBe(before);
});

test('seven pages of one browser hear of a filing by one line: a browser keeps only six', async ({
  page,
  context,
}) => {
  const others: Page[] = [];
  while (others.length < 6) others.push(await context.newPage());
  for (const one of others) await one.goto('/kept');
  const code = await openRack(page, { model: 'Halyard', kind: 'N', quantity: 5 });
  for (const one of others) {
    await expect(one.getByText(`${code}: 5 opened`)).toBeVisible();
    await one.close();
  }
});

test('the log bar says at once what it understood, keeps wrong input and marks the word', async ({
  page,
}) => {
  const code = await openRack(page, { model: 'Bowline', kind: 'B' });
  await page.goto('/');
  const input = page.getByLabel('Log', { exact: true });
  const answer = page.locator('#log-answer');
  await input.fill(`${code}`);
  await expect(answer).toHaveText(/^say what was done/);
  await input.fill(`${code} drill 6 done`);
  await expect(answer).toHaveText("'drill' is not understood");
  await input.press('Enter');
  await expect(input).toHaveValue(`${code} drill 6 done`);
  expect(
    await input.evaluate((field: HTMLInputElement) =>
      field.value.slice(field.selectionStart ?? 0, field.selectionEnd ?? 0),
    ),
  ).toBe('drill');
  await input.fill(`${code} end`);
  await expect(answer).toHaveText(/^Read it: no moisture readings yet/);
  await input.press('Enter');
  await expect(answer).toHaveText(/^Read it: no moisture readings yet/);
  await expect(input).toHaveValue(`${code} end`);
  await input.fill(`${code} read 7.1 7.2 7.1`);
  await expect(answer).toHaveText(
    `${code}: 3 readings, mean 7.13 %, 12 on hold at Rest & read: Enter files it`,
  );
});

test('everything is reached by keyboard alone', async ({ page }) => {
  await page.goto('/');
  await expect(page.locator('a[data-rack]').first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  const first = await page.evaluate(() => document.activeElement?.getAttribute('data-rack'));
  expect(first).toMatch(/^[BNI]-\d+$/);
  await page.keyboard.press('ArrowDown');
  const next = await page.evaluate(() => document.activeElement?.getAttribute('data-rack'));
  expect(next).not.toBe(first);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(new RegExp(`/batch/${next}$`));
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/$/);
  for (const [key, heading] of [
    ['4', 'Ready list'],
    ['1', 'Wood room'],
    ['f', 'Flow'],
    ['o', 'Open racks'],
    ['0', 'Now board'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeVisible();
  }
  await page.keyboard.press('h');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('l');
  await expect(page.getByLabel('Log', { exact: true })).toBeFocused();
  await page.keyboard.type('f1');
  await expect(page).toHaveURL(/\/$/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  // A scanner does not wait.
  await page.keyboard.type('/i-190');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/batch\/I-190$/);
});

test('a line filed while the server is away is kept and filed when it is back', async ({ page }) => {
  const code = await openRack(page, { model: 'Bowline', kind: 'B' });
  await page.goto('/');
  const input = page.getByLabel('Log', { exact: true });
  await input.fill(`${code} read 7.1 7.2 7.1`);
  await expect(page.locator('#log-answer')).toHaveText(/Enter files it$/);
  await page.route('**/api/log/line', (route) =>
    route.fulfill({
      status: 503,
      json: { message: 'the database is not answering; nothing was filed', details: [] },
    }),
  );
  await input.press('Enter');
  await expect(page.locator('#log-answer')).toHaveText(/^kept:/);
  await expect(page.getByText('1 kept until the server is back')).toBeVisible();
  await page.reload();
  await expect(page.getByText('1 kept until the server is back')).toBeVisible();
  await page.unroute('**/api/log/line');
  await expect(page.locator('#log-answer')).toHaveText(/^Filed, late: .*3 readings/);
  await page.goto(`/batch/${code}`);
  await expect(page.getByText(/^3 readings, mean 7\.13 %/)).toHaveCount(1);
});

test("the board's first load is under 350 kB of script, gzip", async ({ page }) => {
  const scripts: Promise<Buffer>[] = [];
  page.on('response', (response) => {
    if (response.request().resourceType() === 'script') scripts.push(response.body());
  });
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Now board' })).toBeVisible();
  await page.waitForLoadState('load');
  const total = (await Promise.all(scripts)).reduce((sum, script) => sum + gzipSync(script).length, 0);
  expect(total).toBeGreaterThan(50_000);
  expect(total).toBeLessThan(350_000);
});

test('a works of more racks than can be drawn has a board to scale, which can be read and used by everybody', async ({
  page,
}) => {
  const dueAt = '2027-03-03T18:00:00Z';
  for (let i = 0; i < 40; i += 1) {
    const body = {
      key: `board-many-${i}`,
      by: 'ostrander',
      kind: 'B',
      model: 'Bowline',
      quantity: 12,
      dueAt,
    };
    const opened = (await (await page.request.post('/api/batches', { data: body })).json()) as {
      entries: { batch: string }[];
    };
    if (i === 0) await page.goto('/');
    if (i < 20)
      await page.request.post('/api/log/line', {
        data: {
          ...{ key: `board-end-${i}`, by: 'ostrander' },
          line: `${opened.entries[0]?.batch} end because the room is full`,
        },
      });
  }
  await expect(page.getByText(/^waiting; a full bar is \d+\.\d days of work$/)).toBeVisible();
  const mill = page.getByRole('group', { name: 'Body mill' });
  await expect(mill.getByRole('link', { name: /^2\d more waiting at Body mill$/ })).toBeVisible();
  await expect(mill.getByRole('img', { name: /days of work in front of Body mill$/ })).toBeVisible();
  const wood = page.getByRole('group', { name: 'Wood room' });
  await expect(wood.getByRole('img', { name: /^Racks that come off hold: / })).toBeVisible();
  // One of each kind of touch: a call that speaks for many is looked into, and its racks are named.
  const call = page.getByRole('article').filter({ hasText: 'racks are open without their wood' });
  if ((await call.count()) === 0)
    await page.getByRole('button', { name: /thing(s are| is) missing$/ }).click();
  await call.getByRole('button', { name: /^See all \d+$/ }).click();
  await expect(call.getByRole('link', { name: /has no wood for/ }).first()).toBeVisible();
  await accessible(page, 'the board to scale');
  await fits(page, 'the board to scale');
});
