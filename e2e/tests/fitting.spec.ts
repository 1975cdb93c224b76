import { expect, log, release, test } from '../floor.ts';

test('a press holds what was glued; taking out early needs a reason', async ({ page }) => {
  await page.goto('/stage/fitting');
  const press = page.getByRole('article', { name: 'Board press 2' });
  await expect(press.getByRole('img', { name: /^Board press 2: \d of N-\d+/ })).toBeVisible();
  await press.getByRole('button', { name: 'Take out early' }).click();
  await expect(press.getByRole('button', { name: 'Take out', exact: true })).toBeDisabled();
  await press.getByLabel('Why so early').fill('clamp slipped');
  await press.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    /^Filed\. N-\d+: \d released against the rule \(clamp slipped\)/,
  );
  await expect(press.getByRole('img', { name: 'Board press 2: empty, 8 of 8 places free' })).toBeVisible();
});

test('boards that are glued go into a press with one touch, which runs its clock', async ({ page }) => {
  const rack = await release(page, { model: 'Ratline', kind: 'N', quantity: 3 });
  await page.goto('/');
  for (const line of [
    ...[
      'release because dry',
      'neck mill start',
      'neck mill done',
      'release because rested',
      'done because dry',
    ],
    ...['fret start', 'fret done', 'board start'],
  ])
    await log(page, `${rack} ${line}`);
  await page.goto('/stage/fitting');
  const wants = page.getByRole('region', { name: 'Wants a place' });
  await expect(wants.getByText(`${rack}, 3 in hand at Board glue-up`)).toBeVisible();
  await wants.getByRole('button', { name: 'Clamp 3' }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    new RegExp(`^Filed\\. ${rack}: 3 done, 3 in press-\\d`),
  );
  await expect(page.getByRole('img', { name: new RegExp(`^Board press \\d: .*3 of ${rack}`) })).toBeVisible();
});

test('who waits for whom is on one axis, and a change of partners is taken and taken back', async ({
  page,
}) => {
  await page.goto('/fitting/meeting');
  await expect(
    page.getByText(/pairs miss each other by more than a day; 1 change of partners would save/),
  ).toBeVisible();
  const swap = page.getByRole('region', { name: 'Change partners' });
  const words = (await swap.locator('strong').first().textContent()) ?? '';
  const [host = '', guest = ''] = words.split(' with ');
  await swap.getByRole('button', { name: 'Change partners' }).click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\. .*meets/);
  await expect(page.getByRole('row', { name: new RegExp(`^${host} ${guest} .*told so`) })).toBeVisible();
  await expect(swap.getByText(/No change of partners/)).toBeVisible();
  await log(page, `${host} undo`);
  await expect(swap.getByRole('button', { name: 'Change partners' })).toBeVisible();
});

test('two racks are measured, paired, printed, filed, and joined as they were paired', async ({ page }) => {
  await page.goto('/fitting/pairing');
  await page.getByRole('link', { name: /^B-195 with/ }).click();
  await expect(
    page.getByText(/^Paired by measurement \d+ of 12 fit a gap of 0\.05–0\.15 mm; taken at random about/),
  ).toBeVisible();
  const list = page.getByRole('region', { name: 'Pair list' });
  await expect(list.getByText('Left over, and what would make it fit')).toBeVisible();
  await expect(list.getByText(/plane 0\.\d\d mm off the tenon|shim the tenon by/).first()).toBeVisible();
  const sheet = page.getByRole('form', { name: 'Measure B-195' });
  const field = sheet.getByLabel('pocket of B-195/01');
  await field.fill('2,205');
  await expect(sheet.getByRole('alert')).toHaveText(/01: read in in\? That would be 56\.007 mm/);
  await field.fill('56,01');
  await field.press('Enter');
  await expect(sheet.getByLabel('pocket of B-195/02')).toBeFocused();
  await sheet.getByRole('button', { name: 'File 1 measured' }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    /^Filed\. B-195: pocket-width of 1 measured, mean 56\.01/,
  );
  await list.getByRole('button', { name: /^File \d+ pairs$/ }).click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\. .*paired with N-\d+/);
  await expect(list.getByText(/^\d+ filed with these racks$/)).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(list.getByRole('cell', { name: 'B-195/01' })).toBeVisible();
  await page.emulateMedia({ media: 'screen' });
  await list.getByRole('button', { name: 'Undo the pairing' }).click();
  await expect(list.getByText('not filed yet')).toBeVisible();
});

test('two hundred by two hundred are paired in the worker within a second', async ({ page }) => {
  const [bodies, necks] = [
    await release(page, { model: 'Bowline', kind: 'B', quantity: 200 }),
    await release(page, { model: 'Bowline', kind: 'N', quantity: 200 }),
  ];
  for (const [batch, check, about] of [
    [bodies, 'pocket-width', 56],
    [necks, 'heel-width', 55.9],
  ] as const) {
    const values = Array.from({ length: 200 }, (_, i) =>
      Number((about + 0.08 * Math.sin(i * 12.9898)).toFixed(3)),
    );
    const answer = await page.request.post('/api/log', {
      data: {
        key: `pair-${batch}-${Date.now()}`,
        by: 'oakes',
        batch,
        entries: [{ type: 'check', check, values }],
      },
    });
    expect(answer.status()).toBe(200);
  }
  await page.goto(`/fitting/pairing/${bodies}/${necks}`);
  await expect(
    page.getByText(/^Paired by measurement 1\d\d of 200 fit|^Paired by measurement 200 of 200/),
  ).toBeVisible();
});
