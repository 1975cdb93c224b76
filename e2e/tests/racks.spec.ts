import { readFileSync } from 'node:fs';
import { expect, test } from '../floor.ts';

test('all racks stand in one list: narrowed, looked through, sorted by keyboard, remembered and taken along', async ({
  page,
}) => {
  await page.goto('/');
  const open = (await (await page.request.get('/api/racks')).json()) as { batch: string; model: string }[];
  await page.keyboard.press('a');
  await expect(page.getByRole('heading', { level: 1, name: 'All racks' })).toBeVisible();
  const grid = page.getByRole('grid', { name: 'All racks' });
  const said = page.getByRole('status').filter({ hasText: /racks/ });
  await expect(said).toContainText(`${open.length} racks`);

  // Narrowed: as many as the server knows of that model, and the address keeps it.
  const { model = '' } = open[0] ?? {};
  const ofModel = open.filter((rack) => rack.model === model);
  await page.getByRole('combobox', { name: 'Model' }).click();
  await page.getByRole('option', { name: model }).click();
  await expect(said).toContainText(`${ofModel.length} racks`);
  await expect(page).toHaveURL(new RegExp(`model=${model}`));

  // Looked through, and as a file.
  const { batch = '' } = ofModel[0] ?? {};
  await page.getByLabel('Look for in All racks').fill(batch);
  await expect(said).toContainText(`of ${ofModel.length} racks`);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV' }).click(),
  ]);
  const [head = '', first = ''] = readFileSync(await file.path(), 'utf8').split('\n');
  expect(head).toContain('rack,model,pieces');
  expect(first).toContain(`${batch},${model}`);
  await page.getByLabel('Look for in All racks').fill('');

  // By keyboard: into the heads, sorted with Enter, and remembered when the page is opened anew.
  await grid.getByRole('columnheader', { name: 'rack' }).focus();
  await page.keyboard.press('Enter');
  await expect(grid.getByRole('columnheader', { name: 'rack' })).toHaveAttribute('aria-sort', 'ascending');
  await page.reload();
  await expect(grid.getByRole('columnheader', { name: 'rack' })).toHaveAttribute('aria-sort', 'ascending');

  // A rack that may leave or is late leads to its page.
  await grid.getByRole('link', { name: batch }).click();
  await expect(page.getByRole('heading', { level: 1, name: batch })).toBeVisible();
});

test('the list says what the rope, the board and the calls say: racks of a stage, what may leave, what is late', async ({
  page,
}) => {
  const ask = async <T>(path: string): Promise<T> => (await (await page.request.get(path)).json()) as T;
  const racks =
    await ask<{ batch: string; over: string[]; earliestMs: number | null; dueMs: number }[]>('/api/racks');
  const { rows, calls, putOff } = await ask<{
    rows: { scale: { over: string[] } }[];
    calls: { kind: string; subject: string; items: { subject: string }[] }[];
    putOff: [];
  }>('/api/board');
  expect(putOff).toEqual([]);
  const batches = (of: typeof racks): string[] => of.map(({ batch }) => batch).toSorted();
  expect(batches(racks.filter(({ over }) => over.length > 0))).toEqual(
    [...new Set(rows.flatMap(({ scale }) => scale.over))].toSorted(),
  );
  const late = calls
    .filter(({ kind }) => kind === 'late')
    .flatMap(({ subject, items }) => (items.length > 0 ? items.map((item) => item.subject) : [subject]));
  expect(batches(racks.filter(({ earliestMs, dueMs }) => (earliestMs ?? 0) > dueMs))).toEqual(
    late.toSorted(),
  );
  const { stages } = await ask<{ stages: { stage: string; racks: number }[] }>('/api/floor');
  for (const { stage, racks: there } of stages) {
    await page.goto(`/racks?stage=${stage}`);
    await expect(page.getByRole('grid', { name: 'All racks' })).toHaveAttribute(
      'aria-rowcount',
      String(there + 1),
    );
  }
});

test('who is new is shown around the board, by keyboard, and once', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Show me' }).click();
  for (const name of ['The rope', 'One row, one station', 'Right of the line: on hold', 'Calls', 'The log']) {
    await expect(page.getByRole('dialog', { name })).toBeVisible();
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Now board' })).toBeVisible();
  await expect(page.getByText(/New here/)).toHaveCount(0);
  await page.keyboard.press('h');
  await page.getByRole('textbox', { name: /Look for/ }).fill('undo');
  await expect(page.getByRole('row')).toHaveText([/B-217 undo/]);
  await page.getByRole('link', { name: 'Around the board' }).click();
  await expect(page.getByRole('dialog', { name: 'The rope' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('the board draws what is asked for, by station and by model, as many racks as the list has', async ({
  page,
}) => {
  const open = (await (await page.request.get('/api/racks')).json()) as { batch: string; model: string }[];
  const { model = '' } = open[0] ?? {};
  const those = open.filter((rack) => rack.model === model);
  await page.goto('/');
  await page.getByRole('button', { name: 'What the board shows' }).click();
  const dialog = page.getByRole('dialog', { name: 'What the board shows' });
  await dialog.getByRole('combobox', { name: 'Model' }).click();
  await page.getByRole('option', { name: model, exact: true }).click();
  await page.keyboard.press('Escape');
  const board = page.getByRole('region', { name: 'Now board, by station' });
  await expect(board.getByRole('status')).toContainText(`${those.length} of ${open.length} racks: ${model}`);
  const others = open.filter((rack) => rack.model !== model).map(({ batch }) => batch);
  const drawn = await board.locator('a[data-rack]').evaluateAll((all) => all.map((one) => one.dataset.rack));
  expect(drawn.length).toBeGreaterThan(0);
  expect(drawn.filter((code) => others.includes(code ?? ''))).toEqual([]);

  // By model: one row is left; its cell leads to the list of the same racks.
  await page.getByRole('button', { name: 'What the board shows' }).click();
  await dialog.getByRole('button', { name: 'by model' }).click();
  await page.keyboard.press('Escape');
  const row = page.getByRole('group', { name: model, exact: true });
  await expect(row).toContainText(`${those.length} rack`);
  const cell = row.getByRole('link', { name: ` in ` }).first();
  const [, racks = ''] = /: (\d+) rack/.exec((await cell.getAttribute('aria-label')) ?? '') ?? [];
  await cell.click();
  await expect(page.getByRole('status').filter({ hasText: /rack/ })).toContainText(`${racks} rack`);
});

test('the board by order has the orders of the book, and leads to the racks that are built for one', async ({
  page,
}) => {
  interface Rack {
    batch: string;
    orders: { order: string; pieces: number }[];
  }
  const open = (await (await page.request.get('/api/racks')).json()) as Rack[];
  const orders = (await (await page.request.get('/api/orders')).json()) as { code: string }[];
  const order = open.flatMap((rack) => rack.orders)[0]?.order ?? '';
  const those = open.filter((rack) => rack.orders.some((one) => one.order === order));
  await page.goto('/');
  await page.getByRole('button', { name: 'What the board shows' }).click();
  const dialog = page.getByRole('dialog', { name: 'What the board shows' });
  await dialog.getByRole('button', { name: 'by order' }).click();
  await page.keyboard.press('Escape');
  const board = page.getByRole('region', { name: 'Now board, by order' });
  await expect(board.getByRole('link', { name: /^O-\d+$/ })).toHaveCount(orders.length);
  const row = board.getByRole('group', { name: order, exact: true });
  await expect(row).toContainText(`${those.length} rack`);

  await row
    .getByRole('link', { name: `${order} in ` })
    .first()
    .click();
  await expect(page.getByRole('combobox', { name: 'Built for' })).toContainText(order);
  for (const { batch } of those.slice(0, 1))
    await expect(page.getByRole('link', { name: batch })).toBeVisible();
});
