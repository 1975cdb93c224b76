import { expect, press, reach, test } from '../floor.ts';

test('what paces the house is named alike on every page, and an instrument is followed down to its stays, by keyboard', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: /calls/i }).first()).toBeVisible();
  await page.keyboard.press('f');
  await expect(page).toHaveURL(/\/flow$/);
  const verdict = page.getByText(/^Colour has paced the house .*; all three signs agree/);
  await expect(verdict).toBeVisible();
  const said = (await verdict.textContent()) ?? '';
  await press(page.getByRole('link', { name: 'See the three signs' }));
  await expect(page.getByText(said)).toBeVisible();
  const signs = page.getByRole('table', { name: 'The three signs' });
  await expect(signs.getByRole('row', { name: /^Colour/ })).toBeVisible();
  // Colour is where the rope has its mark: nothing is said against it.
  await expect(page.getByText(/^The mark on the rope stands at/)).toBeHidden();
  await reach(page.getByRole('button', { name: '10 days' }));
  for (let i = 0; i < 2; i += 1) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('button', { name: '40 days' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/days=40/);
  await page.reload();
  await expect(page.getByRole('button', { name: '40 days' })).toHaveAttribute('aria-pressed', 'true');

  const nav = page.getByRole('navigation', { name: 'Flow' });
  await press(nav.getByRole('link', { name: 'Where the time goes' }));
  await expect(page.getByText(/^Half of \d+ instruments took \d+ days or less/)).toBeVisible();
  await expect(page.getByText(/^\d+ instruments left in that time; \d+ were in the house/)).toBeVisible();
  const cumulative = page.getByRole('region', { name: 'Cumulative flow' });
  await press(cumulative.getByRole('button', { name: 'Table' }));
  await press(cumulative.getByRole('button', { name: '24 Nov' }));
  const behind = page.getByRole('table', { name: /^In the house on/ });
  await expect(behind.getByRole('row', { name: /^Finishing I-190 13 pieces/ })).toBeVisible();
  await press(page.getByRole('region', { name: /^In the house on/ }).getByRole('button', { name: 'Close' }));
  await expect(behind).toBeHidden();
  await press(page.getByRole('link', { name: /^I-\d+\/\d+$/ }).first());
  await expect(page.getByRole('heading', { name: /^\d+\.\d days, stay by stay$/ })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Stay by stay' }).getByRole('row')).not.toHaveCount(1);
});

test('what the log says of an operation is taken into its route with one touch', async ({ page }) => {
  await page.goto('/flow/work');
  await expect(
    page.getByText(/^\d+ of \d+ operations measured 5 times or more (is|are) clearly off the route/),
  ).toBeVisible();
  const take = page.getByRole('button', { name: /^Take [\d.]+ min for / }).first();
  const [, minutes = '', operation = '', model = ''] =
    /^Take ([\d.]+) min for (.+) of (\S+) \S+$/.exec((await take.getAttribute('aria-label')) ?? '') ?? [];
  await press(take);
  await expect(
    page.getByText(`has ${minutes} min for ${operation}. Racks under way keep theirs.`),
  ).toBeVisible();
  // It is asked no more, and the routes tell what changed.
  await expect(
    page.getByRole('button', { name: `Take ${minutes} min for ${operation} of ${model}` }),
  ).toBeHidden();
  await page.goto('/routes');
  await expect(
    page.getByText(new RegExp(`${operation}: ${minutes} min a (piece|load) as the log of`)),
  ).toBeVisible();
});

test('who can what and who is away is changed where it is seen; the calendar is made, read and revoked', async ({
  page,
}) => {
  await page.goto('/flow/people');
  await press(page.getByRole('button', { name: 'Change who can what' }));
  await page.getByRole('combobox', { name: 'F. Keld, prep' }).selectOption('can');
  await expect(page.getByText('F. Keld can prep from now on.')).toBeVisible();
  await expect(page.getByText(/^2 skills hang on one person: inspect, pack/)).toBeVisible();
  const away = page.getByRole('region', { name: 'Who is away' });
  await press(away.getByRole('button', { name: /^K\. Saltry is here on/ }));
  await expect(away.getByText('K. Saltry')).toBeHidden();
  await press(page.getByRole('link', { name: '23 of 24 in' }));
  await expect(
    page.getByText(/^23 of 24 are in, [\d.]+ h are left of today; Colour, which paces/),
  ).toBeVisible();
  await press(page.getByRole('button', { name: 'E. Lundy is away' }));
  await expect(page.getByText(/^22 of 24 are in, /)).toBeVisible();
  await press(page.getByRole('button', { name: 'E. Lundy is here' }));
  await expect(page.getByRole('link', { name: '23 of 24 in' })).toBeVisible();

  await page.goto('/flow/reports');
  await press(page.getByRole('button', { name: 'Make an address' }));
  const address = await page.getByRole('textbox', { name: 'Address to subscribe to' }).inputValue();
  const feed = await page.request.get(address);
  expect(feed.headers()['content-type']).toContain('text/calendar');
  const told = await feed.text();
  expect(told).toMatch(/^SUMMARY:[BI]-\d+ off cure/m);
  expect(told).toContain('SUMMARY:O-2644 due');
  await press(page.getByRole('button', { name: 'Revoke it' }));
  await expect(page.getByRole('button', { name: 'Make an address' })).toBeVisible();
  expect((await page.request.get(address)).status()).toBe(404);

  const sheet = await page.request.get('/api/reports/morning.html');
  expect(await sheet.text()).toContain('Colour paces the house');
});
