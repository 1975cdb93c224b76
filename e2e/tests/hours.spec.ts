import { expect, press, test, tick } from '../floor.ts';

test('a closed day moves what is due out of the house, an evening at one station is worked there; both are taken back', async ({
  page,
}) => {
  const earliest = async (): Promise<Map<string, number>> => {
    const racks = (await (await page.request.get('/api/racks')).json()) as {
      batch: string;
      earliestMs: number | null;
    }[];
    return new Map(
      racks.flatMap(({ batch, earliestMs }) => (earliestMs === null ? [] : [[batch, earliestMs]])),
    );
  };
  await page.goto('/flow/hours');
  await expect(page.getByText(/^The house works 45\.0 h this week and 45\.0 h next/)).toBeVisible();
  const before = await earliest();

  await press(page.getByRole('button', { name: /^Thu 26 Nov: 9\.0 h/ }));
  await press(page.getByRole('button', { name: 'Close it' }));
  await expect(page.getByText(/^The house works 36\.0 h this week .*closed Thu 26 Nov/)).toBeVisible();
  const closed = await earliest();
  // By more than a few minutes: those whose work does not end before Thursday, and whose rests do not hide it.
  const moved = [...closed].filter(([batch, ms]) => ms - (before.get(batch) ?? Infinity) > 15 * 60_000);
  expect(moved.length).toBeGreaterThan(5);
  expect([...closed].filter(([batch, ms]) => ms < (before.get(batch) ?? 0))).toEqual([]);

  const overtime = page.getByRole('form', { name: 'Overtime on Thu 26 Nov' });
  await overtime.getByRole('textbox', { name: 'Overtime from' }).fill('7');
  await overtime.getByRole('textbox', { name: 'to' }).fill('12:00');
  await tick(overtime.getByRole('checkbox', { name: 'Body mill' }), true);
  await press(overtime.getByRole('button', { name: 'Work overtime' }));
  await expect(
    page.getByRole('button', {
      name: 'Thu 26 Nov: closed, nothing is worked, overtime 07:00 to 12:00 for Body mill',
    }),
  ).toBeVisible();

  await press(page.getByRole('button', { name: /^Not worked after all: 07:00 to 12:00/ }));
  await press(page.getByRole('button', { name: 'Work on it' }));
  await expect(page.getByText(/^The house works 45\.0 h this week/)).toBeVisible();
  // As before, but for the minutes that went by.
  const since = [...(await earliest())].map(([batch, ms]) => ms - (before.get(batch) ?? 0));
  expect(Math.max(...since.map(Math.abs))).toBeLessThan(15 * 60_000);

  await page.goto('/changes');
  await expect(page.getByText('Calendar: closed days').first()).toBeVisible();
});
