import { onlyPart, expect, log, openRack, test } from '../floor.ts';

test('a route is drawn, judged while it is drawn, compared and made a revision; racks keep theirs until moved', async ({
  page,
}) => {
  const rack = await openRack(page, { model: 'Ratline', kind: 'B', quantity: 2 });
  await page.goto('/routes');
  await page.getByRole('region', { name: 'Ratline' }).getByRole('link', { name: 'B body' }).click();
  await expect(page.getByText(/^\d operations that can be worked\.$/)).toBeVisible();
  const canvas = page.locator('.canvas');
  await expect(canvas.getByText('Copy-router over template')).toBeVisible();

  // Without a mouse: the operation is chosen by name, its arrow taken out and put back.
  await page.getByLabel('Operation', { exact: true }).click();
  await page.getByRole('option', { name: 'Body rest' }).click();
  await page.getByRole('button', { name: 'Wings to neck ✕' }).click();
  await expect(
    page.getByText('Body rest is a dead end: only a join, a split or shipping can end a route'),
  ).toBeVisible();
  await page.getByLabel('Add an arrow to').click();
  await page.getByRole('option', { name: 'Body mill' }).click();
  await expect(page.getByText(/Body mill → Body rest → Body mill never ends/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^\d operations that can be worked/)).toBeVisible();

  await canvas.getByText('Body rest').click();
  await page.getByRole('button', { name: 'Add one after it' }).click();
  await page.getByLabel('Name').fill('Look at the grain');
  await expect(canvas.getByText('Look at the grain')).toBeVisible();
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await expect(page.getByText('Look at the grain added')).toBeVisible();
  // Nothing drawn is lost by leaving the page.
  await page.goto('/');
  await page.goto('/routes/Ratline/B');
  await expect(canvas.getByText('Look at the grain')).toBeVisible();
  await page.getByLabel('What changed').fill('grain is looked at before the wings go on');
  await page.getByRole('button', { name: 'Make revision 2' }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    'Revision 2 of Ratline B holds for racks opened from now on',
  );
  await expect(page.getByText('revision 2', { exact: true }).first()).toBeVisible();
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await expect(page.getByText('Look at the grain added')).toBeVisible();

  await page.goto(`/batch/${rack}`);
  await expect(page.getByText(/revision 2 is newer: grain is looked at/)).toBeVisible();
  await page.getByRole('button', { name: 'Move it' }).click();
  await page.getByLabel('Why').fill('the customer asked');
  await page.getByRole('button', { name: `Move ${rack}` }).click();
  await expect(page.getByText('moved from ratline-b-1 to ratline-b-2: the customer asked')).toBeVisible();
});

test('an arrow is drawn and taken out with the mouse and the Delete key', async ({ page }) => {
  await page.goto('/routes/Halyard/B');
  const canvas = page.locator('.canvas');
  const source = canvas.locator('[data-id="rest"] [data-handleid="out"]');
  const target = canvas.locator('[data-id="clear"] [data-handleid="in"]');
  // Each waits until the drawing stands still.
  await source.hover();
  await page.mouse.down();
  await target.hover();
  await page.mouse.up();
  await expect(canvas.locator('[data-id="rest>clear"]')).toHaveCount(1);
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await expect(page.getByText('Body rest moved')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(canvas.locator('[data-id="rest>clear"]')).toHaveCount(0);
  await canvas.getByText('Dry fit & measure').click();
  await page.keyboard.press('Delete');
  await expect(canvas.getByText('Dry fit & measure')).toHaveCount(0);
  await expect(canvas.locator('[data-id="rest>prep"]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
});

test('a file that is no route leaves the drawing as it was; a good one is drawn', async ({ page }) => {
  await page.goto('/routes/Gaff/S');
  const file = page.getByLabel('Route file');
  const give = (name: string, text: string) =>
    file.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await give('notes.json', '{"format": "shopping list"}');
  await expect(page.getByRole('alert')).toHaveText(
    /notes\.json: the file is no route.*Your drawing is as it was/,
  );
  const answer = await page.request.get('/api/routes/gaff-s-1/route.json');
  const route = (await answer.json()) as { operations: { name: string }[] };
  route.operations[0] = {
    ...route.operations[0],
    name: 'Read from a file',
  };
  await give('gaff.json', JSON.stringify(route));
  await expect(page.locator('.canvas').getByText('Read from a file')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('.canvas').getByText('Read from a file')).toHaveCount(0);
});

test('the schools stand side by side, and a rack is opened by the one chosen', async ({ page }) => {
  await page.goto('/routes/Gaff/S');
  await page.getByRole('tab', { name: 'Ways side by side' }).click();
  const binding = page.getByRole('table', { name: 'Ways after Route the binding ledge' });
  await expect(binding.getByRole('row')).toHaveCount(5);
  await expect(binding.getByRole('row', { name: /Bind with plastic/ })).toContainText('fumes');

  await page.goto('/open');
  await page.getByLabel('Model').click();
  await page.getByRole('option', { name: /Bowline/ }).click();
  const open = await onlyPart(page, 'B');
  await page.getByLabel('Pieces').fill('3');
  const ways = page.getByRole('region', { name: 'Ways of the body' });
  await expect(ways.getByRole('row', { name: /Copy-router over template/ }).first()).toContainText(
    'hands near the cutter',
  );
  await ways.getByLabel('Copy-router over template').first().check();
  await open.click();
  const verdict = page.getByText(/^B-\d+ is on the board\.$/);
  const rack = ((await verdict.textContent()) ?? '').split(' ')[0] ?? '';
  await page.goto('/');
  await log(page, `${rack} end because dry by the other meter`);
  await page.goto(`/batch/${rack}`);
  await expect(page.getByText('after Rest & read: Copy-router over template')).toBeVisible();
});

test('a station that routes go through cannot be taken out of use', async ({ page }) => {
  await page.goto('/routes');
  const stations = page.getByRole('region', { name: 'Stations' });
  await stations.getByRole('button', { name: 'Take Body mill out of use' }).click();
  await expect(stations.getByRole('alert')).toHaveText(
    /^Body mill is in use: Body mill of .* revision \d+ and \d+ more/,
  );
  await expect(stations.getByRole('button', { name: 'Take Body mill out of use' })).toBeVisible();
});
