import { expect, log, press, test, tick } from '../floor.ts';

test('a bin is picked part by part before its instrument is taken in hand; what is missing is ordered', async ({
  page,
}) => {
  // By key, from the board.
  await page.goto('/');
  await expect(page.getByRole('heading', { name: /calls/i }).first()).toBeVisible();
  await page.keyboard.press('k');
  await expect(page).toHaveURL(/\/kits$/);
  await expect(page.getByText(/^I-188 will stand for bridge\. 21 kits to pick or to fill/)).toBeVisible();
  const bins = page.getByRole('group', { name: 'Bins of I-193' });
  await expect(bins.getByRole('link', { name: 'I-193/02: to pick' })).toBeVisible();
  // Its tag is scanned.
  const tag = page.getByRole('textbox', { name: /^Scan a tag/ });
  await tag.fill('193');
  await tag.press('Enter');
  await expect(page.getByText('no tag: I-188/03 is one')).toBeVisible();
  await tag.fill('i-193/02');
  await tag.press('Enter');
  await expect(page).toHaveURL(/\/kits\/I-193\/2$/);

  // A scan of a part that is not there, one that does not go in, one that may stand in, and touches for the rest but one.
  const scan = page.getByRole('textbox', { name: /^Scan a part/ });
  await scan.fill('C-116');
  await scan.press('Enter');
  await expect(page.getByText('by the store C-116 is not there: count it first')).toBeVisible();
  await scan.fill('c-999');
  await scan.press('Enter');
  await expect(page.getByText('C-999 does not go into this bin')).toBeVisible();
  await scan.fill('c-126');
  await scan.press('Enter');
  const laidIn = page.getByRole('checkbox', { name: / laid in$/ });
  await expect(laidIn).toHaveCount(10);
  for (const slot of [
    'tuners',
    'pickups',
    'wiring loom',
    'jack',
    'strap buttons',
    'screws',
    'strings',
    'knobs',
  ])
    await tick(page.getByRole('checkbox', { name: `${slot} laid in` }), true);
  await page.getByRole('textbox', { name: 'Written on the bin' }).fill('31');
  await expect(page.getByText(/^Without bridge: it cannot be taken in hand/)).toBeVisible();
  await press(page.getByRole('button', { name: 'File the bin: 9 of 10' }));
  await expect(page.locator('#log-answer')).toHaveText(/1 kit picked into bin 31, without bridge/);
  await expect(page.getByRole('region', { name: 'In the bin' })).toContainText('Nut blank, composite C-126');

  // The store knows: one nut fewer, and what the buyer forgot.
  await page.goto('/kits/parts/C-112');
  await expect(page.getByText(/^1 piece there, nothing on order\. O-2660\/1 lacks 3 /)).toBeVisible();
  await expect(page.getByLabel('How many')).toHaveValue('3');
  await press(page.getByRole('button', { name: 'It is ordered' }));
  await expect(page.locator('#log-answer')).toHaveText(/^Filed\. C-112: 3 ordered/);

  // Bridges come in before they were promised: the rack is filled by one line.
  await page.goto('/kits/parts/C-116');
  await page.getByRole('textbox', { name: 'Came in' }).fill('60');
  await press(page.getByRole('button', { name: 'Take in' }));
  await expect(page.getByText(/^60 pieces there, 110 on order/)).toBeVisible();
  await log(page, 'I-193/2 kit');
  await expect(page.locator('#log-answer')).toHaveText(/1 kit picked/);
  await log(page, 'I-188 kit');
  await page.goto('/kits');
  await expect(
    page.getByRole('group', { name: 'Bins of I-188' }).getByRole('link', { name: /whole/ }),
  ).toHaveCount(12);
  await expect(
    page.getByRole('group', { name: 'Bins of I-193' }).getByRole('link', { name: /whole/ }),
  ).toHaveCount(1);
  await expect(page.getByText('None: all that is wanted is here or comes in time.')).toBeVisible();

  // Found by its name.
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: /^Code, model/ }).fill('wide single');
  await press(page.getByRole('option', { name: 'C-112 · Wide single pickup' }));
  await expect(page).toHaveURL(/\/kits\/parts\/C-112$/);
});

test('a bill is changed by revision, a new part is kept, and a kit put back is on its shelf again', async ({
  page,
}) => {
  await page.goto('/kits/parts');
  await page.getByLabel('What it is').fill('Truss rod cover');
  await page.getByLabel('From whom').fill('Oakum & Daughters');
  await page.getByLabel('Lead time, days').fill('14');
  await press(page.getByRole('button', { name: 'Keep this part' }));
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Truss rod cover');
  const code = (await page.getByRole('heading', { level: 1 }).textContent())?.split(' ')[0] ?? '';
  await page.getByRole('textbox', { name: 'Counted' }).fill('40');
  await press(page.getByRole('button', { name: 'So many are there' }));
  await expect(page.getByText(/^40 pieces there/)).toBeVisible();

  await page.goto('/kits/bills/Ratline');
  await page.getByLabel('What it is for').fill('rod cover');
  await page.getByRole('combobox', { name: 'Part', exact: true }).click();
  await page.getByRole('option', { name: `Truss rod cover, ${code}` }).click();
  await press(page.getByRole('button', { name: 'Add the line' }));
  await press(page.getByRole('button', { name: 'Pick it so from now on' }));
  await expect(page.getByText('revision 2')).toBeVisible();

  // A bin that was picked stays as it is; put back and picked anew it has the cover.
  await page.goto('/kits/I-188/1');
  const bin = page
    .getByRole('region', { name: 'In the bin 11' })
    .or(page.getByRole('region', { name: 'In the bin' }));
  await expect(bin).not.toContainText('Truss rod cover');
  await page.getByLabel('Why all of it goes back').fill('new cover');
  await press(page.getByRole('button', { name: 'Put 10 parts back on the shelf' }));
  await expect(page.getByText('11 parts to lay in, all of them on the shelf.')).toBeVisible();
  await page.goto('/changes');
  await expect(page.getByText('Parts of a Ratline')).toBeVisible();
});
