import type { Page } from '@playwright/test';
import { callOf, clearTables, expect, log, openRack, test } from '../floor.ts';

/** A dry rack that waits for its mill. */
async function waiting(page: Page, rack: { model: string; kind: string; quantity: number }): Promise<string> {
  const code = await openRack(page, rack);
  await log(page, `${code} end because dry by the other meter`);
  return code;
}

test('a load: the machine tells its cycle, the operator confirms, the next one starts with one touch', async ({
  page,
}) => {
  const rack = await waiting(page, { model: 'Halyard', kind: 'B', quantity: 8 });
  await clearTables(page, 'body-mill');
  expect(await log(page, `${rack} body mill start because the table was proved`)).toMatch(/8 started as L-/);
  await page.goto('/stage/machining');
  await expect(page.getByRole('heading', { name: 'Body mill', level: 1 })).toBeVisible();
  const table = page.getByRole('region', { name: 'Body table 1' });
  await expect(table.getByText(/^L-\d+ on halyard-b\/mill r1/)).toBeVisible();
  // The simulated mill cuts what lies on its tables and tells it over MTConnect.
  const machine = page.getByRole('region', { name: 'Machine' });
  await expect(machine.getByText(/table-b1: complete/).first()).toBeVisible({ timeout: 30_000 });
  // Cycles of loads before it may still want a word; its own alone ends its load.
  const confirm = machine.getByRole('button', { name: /^End L-\d+: all 8 good$/ });
  await confirm.click();
  await expect(machine.getByRole('alert')).toHaveText(/L-\d+ is not measured yet: pocket width of 0 of 3/);
  for (const line of ['pocket-width 57.25 57.24 57.26', 'pocket-depth 16', 'body-thickness 44.5 44.5 44.6'])
    await log(page, `${rack} check ${line}`);
  await confirm.click();
  await expect(page.locator('#log-answer')).toHaveText(/^Confirmed\. B-\d+: 8 done/);
  await expect(table.getByText('Free now.')).toBeVisible();
  await table.getByRole('button', { name: 'Start this load' }).first().click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\. .*started/);
  await expect(table.getByText(/^L-\d+ on /)).toBeVisible();
});

test('the plan is changed by dragging and by buttons, says what it does, and goes back', async ({ page }) => {
  for (const model of ['Halyard', 'Bowline']) await waiting(page, { model, kind: 'B', quantity: 8 });
  await page.goto('/mill/body-mill');
  const two = page.getByRole('region', { name: 'Body table 2' });
  const cards = page.locator('.planned');
  await expect(cards.first()).toBeVisible();
  const before = await two.locator('.planned').count();
  const toTwo = page.getByRole('button', { name: /^To Body table 2:/ }).first();
  await toTwo.click();
  await expect(two.locator('.planned')).toHaveCount(before + 1);
  await expect(page.getByText('Moved by hand.')).toBeVisible();
  await expect(page.getByText(/^By hand:/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the proposed plan' }).click();
  await expect(two.locator('.planned')).toHaveCount(before);

  const grip = page.getByRole('region', { name: 'Body table 1' }).locator('.planned .grip').first();
  const target = two.locator('.slot').first();
  const [from, to] = [await grip.boundingBox(), await target.boundingBox()];
  if (!from || !to) throw new Error('nothing to drag');
  await page.mouse.move(from.x + 40, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 80, from.y + 30, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 8, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByText('Moved by hand.')).toBeVisible();
  await expect(two.locator('.planned')).toHaveCount(before + 1);

  // The same by keyboard, said as it goes.
  await page.getByRole('button', { name: 'Back to the proposed plan' }).click();
  await expect(two.locator('.planned')).toHaveCount(before);
  await grip.focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/^The load of .* is over place 1 of Body table 1\.$/)).toBeAttached();
  // What is out of sight is scrolled to first.
  await expect(async () => {
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText(/^The load of .* is over place 1 of Body table 2\.$/)).toBeAttached({
      timeout: 2000,
    });
  }).toPass();
  await page.keyboard.press('Space');
  await expect(two.locator('.planned')).toHaveCount(before + 1);
  await expect(page.getByText('Moved by hand.')).toBeVisible();
});

test('a piece is measured: letters and inches are said to, the gauge fills in, a cutter is changed', async ({
  page,
}) => {
  const rack = await waiting(page, { model: 'Halyard', kind: 'B', quantity: 16 });
  await clearTables(page, 'body-mill');
  for (let load = 1; load <= 2; load += 1)
    await log(page, `${rack} body mill start because the table was proved`);
  await page.goto('/mill/body-mill');
  const table = page.getByRole('region', { name: 'Body table 2' });
  await table.getByRole('button', { name: /^Measure/ }).click();
  const width = table.getByLabel('Pocket width *');
  await width.fill('wide');
  await expect(table.getByText("'wide' is not a number")).toBeVisible();
  await expect(table.getByRole('button', { name: /^File/ })).toBeDisabled();
  await width.fill('2.254');
  await expect(table.getByText('read in in? That would be 57.2516 mm')).toBeVisible();
  await table.getByRole('button', { name: 'Take 57.2516' }).click();
  await expect(width).toHaveValue('57.2516');
  await table.getByRole('button', { name: 'Gauge: Pocket depth' }).click();
  await expect(table.getByLabel('Pocket depth *')).toHaveValue(/^1[56](\.\d+)?$/);
  await table.getByRole('button', { name: 'File 2 of 3' }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    /^Filed\. B-\d+: Pocket width: 57\.2516 mm, inside 57\.17–57\.33 mm, Pocket depth: /,
  );

  const cutters = page.getByRole('region', { name: 'Cutters' });
  await expect(cutters.getByText(/would pass its life/).first()).toBeVisible();
  await cutters.getByRole('button', { name: 'Changed it' }).first().click();
  await cutters.getByLabel('Why').fill('burnt edge');
  await cutters.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.locator('#log-answer')).toHaveText('ball 10 changed at Body mill');
  await expect(cutters.getByText('0 of 600 min')).toBeVisible();
  await page.goto('/mill/programs');
  await expect(
    page.getByRole('region', { name: 'Cutter changes, Body mill' }).getByText('burnt edge, ostrander'),
  ).toBeVisible();
});

test('a dimension outside its limits is a call, its chart proves it, and run rules are switched', async ({
  page,
}) => {
  const necks = await waiting(page, { model: 'Bowline', kind: 'N', quantity: 2 });
  expect(await log(page, `${necks} check heel-width 56.2 55.9`)).toMatch(/1 over of 55\.82–55\.98 mm/);
  await page.goto('/');
  const call = await callOf(page, 'Bowline N: heel width is outside its limits');
  await call.getByRole('link', { name: 'See the chart' }).click();
  await expect(page.getByText(/^Outside its limits: the last look has 56\.2 mm/).first()).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Capability' }).getByText(/^Cp \d\.\d\d · Cpk \d\.\d\d$/),
  ).toBeVisible();
  const rule = page.getByLabel('six in a row steadily up or down');
  await rule.click();
  await expect(page.locator('#log-answer')).toHaveText('The run rules are switched for the whole works');
  await page.reload();
  await expect(rule).toBeChecked();
  await rule.click();
  await expect(rule).not.toBeChecked();
});

test('a program gets a revision, and the next load on its table asks for a first piece', async ({ page }) => {
  await waiting(page, { model: 'Bowline', kind: 'N', quantity: 8 });
  await clearTables(page, 'neck-mill');
  await page.goto('/mill/programs');
  await page.getByRole('button', { name: /^New revision of bowline-n\/mill/ }).click();
  await page.getByLabel('Cycle, min').fill('fast');
  await page.getByRole('button', { name: 'Make revision 2' }).click();
  await expect(page.getByText("'fast' is no number")).toBeVisible();
  await page.getByLabel('Cycle, min').fill('120');
  await page.getByLabel('What changed').fill('new feeds at the heel');
  await page.getByRole('button', { name: 'Make revision 2' }).click();
  await expect(page.getByText('bowline-n/mill r2')).toBeVisible();
  await page.goto('/mill/neck-mill');
  const card = page.locator('.planned', { hasText: 'bowline-n/mill r2' }).first();
  const sooner = card.getByRole('button', { name: /^Sooner/ });
  await expect(card).toBeVisible();
  while ((await sooner.count()) > 0) await sooner.click();
  await card.getByRole('button', { name: 'Start its first piece' }).click();
  await expect(
    page.getByText(/^Not to go on yet: the first piece of L-\d+ is not measured/).first(),
  ).toBeVisible();
  const end = page.getByRole('button', { name: /^End L-\d+/ }).first();
  await end.click();
  await expect(page.getByRole('alert').getByText(/the first piece of L-\d+ is not measured/)).toBeVisible();
});
