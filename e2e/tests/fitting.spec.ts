import { clearTables, expect, log, openRack, test } from '../floor.ts';

test('boards that are glued go into a press with one touch, which runs its clock; out early only for a reason', async ({
  page,
}) => {
  const rack = await openRack(page, { model: 'Ratline', kind: 'N', quantity: 2 });
  await page.goto('/');
  await clearTables(page, 'neck-mill');
  for (const line of [
    ...[
      'end because dry',
      'neck mill start because set up with a sample',
      'neck mill done because the gauge is away',
      'end because rested',
      'done because dry',
    ],
    ...['fret start', 'fret done because the gauge is away', 'board start'],
  ])
    await log(page, `${rack} ${line}`);
  await page.goto('/stage/fitting');
  const wants = page.getByRole('region', { name: 'Wants a place' });
  await expect(wants.getByText(`${rack}, 2 in hand at Board glue-up`)).toBeVisible();
  await wants.getByRole('button', { name: 'Clamp 2' }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    new RegExp(`^Filed\\. ${rack}: 2 done, 2 in press-\\d`),
  );
  await expect(page.getByRole('img', { name: new RegExp(`^Board press \\d: .*2 of ${rack}`) })).toBeVisible();

  const line = page.getByRole('article').filter({ hasText: rack });
  await line.getByRole('button', { name: 'Take out early' }).last().click();
  await line.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(line.getByText('it stays with the pieces')).toBeVisible();
  await line.getByLabel('Why so early').fill('clamp slipped');
  await line.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(page.locator('#log-answer')).toHaveText(
    new RegExp(`^Filed\\. ${rack}: hold of 2 ended, rule passed by \\(clamp slipped\\)`),
  );
  await expect(page.getByRole('img', { name: new RegExp(`2 of ${rack}`) })).toHaveCount(0);
});

test('who waits for whom is on one axis, and a change of partners is taken and taken back', async ({
  page,
}) => {
  // Somebody told the earliest and the latest pair of basses to meet crosswise.
  const { forecast } = (await (await page.request.get('/api/meetings')).json()) as {
    forecast: { meetings: { host: string; guest: string; model: string; told: boolean }[] };
  };
  const basses = forecast.meetings.filter(({ model, told }) => model === 'Halyard' && !told);
  const [early, late] = [basses[0], basses.at(-1)];
  if (!early || !late || early === late) throw new Error('two pairs of basses are to meet');
  const told = await page.request.post('/api/meetings', {
    data: {
      ...{ key: 'crosswise-meetings', by: 'ostrander' },
      meets: [
        { host: early.host, guest: late.guest },
        { host: late.host, guest: early.guest },
      ],
    },
  });
  expect(told.status()).toBe(200);
  await page.goto('/fitting/meeting');
  await expect(
    page.getByText(/pairs miss each other by more than a day; \d+ changes? of partners would save/),
  ).toBeVisible();
  const swap = page.getByRole('region', { name: 'Change partners' });
  const words = (await swap.locator('strong').first().textContent()) ?? '';
  const [host = '', guest = ''] = words.split(' with ');
  await swap.getByRole('button', { name: 'Change partners' }).first().click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\. .*meets/);
  await expect(page.getByRole('row', { name: new RegExp(`^${host} ${guest} .*told so`) })).toBeVisible();
  await expect(swap.locator('strong').filter({ hasText: words })).toHaveCount(0);
  await log(page, `${host} undo`);
  await expect(swap.locator('strong').filter({ hasText: words }).first()).toBeVisible();
});

test('two racks are measured, paired, printed, filed, and joined as they were paired', async ({ page }) => {
  await page.goto('/fitting/pairing');
  await page.getByRole('link', { name: /^B-195 with/ }).click();
  await expect(
    page.getByText(/^Paired by measurement \d+ of \d+ fit a gap of 0\.05–0\.15 mm; taken at random about/),
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
    /^Filed\. B-195: Pocket width: 56\.01 mm, inside 55\.92–56\.08 mm/,
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
    await openRack(page, { model: 'Bowline', kind: 'B', quantity: 200 }),
    await openRack(page, { model: 'Bowline', kind: 'N', quantity: 200 }),
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
