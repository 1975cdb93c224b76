import { expect, log, openRack, test } from '../floor.ts';

test('a lot goes from the lorry to the rack: received, read by keyboard, sent to cut, cut, chosen and taken', async ({
  page,
}) => {
  await page.goto('/wood/receive');
  await page.getByRole('combobox', { name: 'Species' }).click();
  await page.getByRole('option', { name: 'red alder' }).click();
  await page.getByLabel('Thickness, mm').fill('50');
  await page.getByLabel('Stacked in').click();
  await page.getByRole('option', { name: 'Wood room' }).click();
  await page.getByLabel('Or one line for each board').fill('2400 200 9.6\n2300 wide\n');
  await page.getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByText("line 2: '2300 wide' is no length and width, in mm")).toBeVisible();
  await page.getByLabel('Or one line for each board').fill('2400 200 9.6\n2350 210\n2400 205\n2400 205');
  await expect(page.getByText(/^4 boards, \d+\.\d board feet$/)).toBeVisible();
  await page.getByRole('button', { name: 'Receive', exact: true }).click();
  const received = page.getByText(/^W-\d+ is received/);
  await expect(received).toBeVisible();
  const lot = ((await received.textContent()) ?? '').split(' ')[0] ?? '';

  // At the stack: a number and Enter, a number and Enter.
  await page.getByRole('link', { name: 'Read it now' }).click();
  const field = page.locator('#reading');
  await expect(field).toBeFocused();
  for (const value of ['7,1', '7.2', '31', '7.1']) {
    await field.fill(value);
    if (value === '31') await expect(page.getByText(/Outside what a pin meter resolves/)).toBeVisible();
    await field.press('Enter');
  }
  await expect(
    page.getByText(
      /^Not yet: 3 read, mean 7\.0 %.*Read again: 31\.0 % on 3 is outside what the meter resolves/,
    ),
  ).toBeVisible();
  // Board 3 was a slip: read again.
  await page.getByRole('button', { name: /^board 3,/ }).click();
  await field.fill('140');
  await expect(page.getByText("'140' is no moisture: a number from 0 to 100.")).toBeVisible();
  await expect(page.getByRole('button', { name: 'Next' })).toBeDisabled();
  await field.fill('7.2');
  await field.press('Enter');
  await expect(page.getByText(/^Pass: 4 read/)).toBeVisible();
  await page.getByRole('button', { name: 'File 4 readings' }).click();
  await expect(page.locator('#log-answer')).toHaveText(new RegExp(`^Filed. ${lot}: 4 readings`));

  await page.getByRole('link', { name: `Back to ${lot}` }).click();
  await page.getByRole('button', { name: 'Send all 4 to cut' }).click();
  await expect(page.getByText('Cut it: 4 boards to cut, 0 blanks in stock.')).toBeVisible();
  await page.getByLabel('Weight of each blank, kg').fill('1.62 1,64');
  await page.getByRole('button', { name: 'Cut board 1 into 2' }).click();
  await expect(page.getByRole('gridcell', { name: `${lot}/1.2` }).first()).toBeVisible();

  // A rack that rests takes its blanks from the whole stock.
  const rack = await openRack(page, { model: 'Halyard', kind: 'B', quantity: 2 });
  await page.goto('/wood/stock');
  await page.getByRole('link', { name: new RegExp(`^${rack}, Halyard`) }).click();
  await expect(page.getByText(/^Take these 2:/)).toBeVisible();
  await expect(page.getByText(/taking the lightest first/)).toBeVisible();
  await page.getByRole('button', { name: `Take these 2 for ${rack}` }).click();
  await expect(page.getByText(`${rack} has all its blanks.`)).toBeVisible();
});

test('a lot shows when it is ready, and what another room would change, at once', async ({ page }) => {
  await page.goto('/stage/wood');
  await page.getByRole('link', { name: 'W-74', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Lot W-74' })).toBeVisible();
  await expect(page.getByText(/^Ready .*, nine times in ten between .* and .*\.$/).first()).toBeVisible();
  await expect(page.getByRole('figure', { name: /Moisture of the wood over time/ })).toBeVisible();
  const answer = page.getByRole('status').filter({ hasText: /^EMC/ });
  const before = await answer.textContent();
  const humidity = page.getByRole('slider', { name: 'Relative humidity of the room' });
  await humidity.focus();
  for (let i = 0; i < 8; i += 1) await humidity.press('ArrowLeft');
  await expect(answer).not.toHaveText(before ?? '');
  await expect(answer).toHaveText(/Ready/);
  await humidity.press('End');
  await expect(answer).toHaveText(/Not in this room/);
  await page.getByRole('button', { name: 'Back to the room as it is' }).click();
  await expect(answer).toHaveText(before ?? '');
  await page.getByRole('button', { name: 'Table' }).click();
  await expect(page.getByRole('columnheader', { name: 'mean expected' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Movement' })).toContainText('mm');
});

test('boards that do not pass stay; sent to cut past the gate they carry the reason', async ({ page }) => {
  await page.goto('/wood/lots/W-73');
  const boards = page.getByRole('region', { name: 'Boards' });
  await page.getByLabel('Reason to pass the gate by').fill('sample for the jig');
  await boards.getByRole('button', { name: /^Send all/ }).click();
  await expect(page.getByText(/Rule passed by: sent \d+ boards to cut past the gate/)).toBeVisible();
  await page.getByRole('button', { name: 'Take the last back' }).click();
  await expect(page.locator('#log-answer')).toHaveText(/^Filed. Corrected/);
  await expect(page.getByText(/Rule passed by/)).toHaveCount(0);
});

test('protected wood waits for its papers, and a lot is read from the log bar', async ({ page }) => {
  await page.goto('/wood/lots/W-75');
  await expect(page.getByText(/needs papers and none are noted/)).toBeVisible();
  const answer = page.locator('#log-answer');
  await page.getByLabel('Log', { exact: true }).fill('W-75 read 7.1 7.2 7.1');
  await expect(answer).toHaveText('W-75: 3 readings, mean 7.13 % as shown: Enter files it');
  await log(page, 'W-75 read 7.1 7.2 7.1');
  // All pass by what was read: there is nothing to pass the gate by any more.
  await expect(page.getByLabel('Reason to pass the gate by')).toHaveCount(0);
  await page
    .getByRole('button', { name: /^Send all/ })
    .first()
    .click();
  await expect(page.getByRole('alert')).toHaveText(/needs papers/);
  await page.getByLabel('Reference of the papers').fill('licence 41');
  await page.getByRole('button', { name: 'Note them' }).click();
  await expect(page.getByText('Papers with this lot: licence 41.')).toBeVisible();
});

test('a meter is tested by weighing, and its line is drawn from three samples, not two', async ({ page }) => {
  await page.goto('/wood/meters');
  await page.getByRole('button', { name: /African mahogany/ }).click();
  await expect(page.getByText(/A line needs at least three samples/)).toBeVisible();
  const form = page.getByRole('form', { name: 'Oven-dry sample' });
  await form.getByLabel('Reading, %').fill('9,5');
  await form.getByLabel('Wet, g').fill('54.7');
  await form.getByLabel('Dry, g').fill('50');
  await expect(form.getByText('Oven-dry moisture 9.40 %')).toBeVisible();
  await form.getByRole('button', { name: 'Note the sample' }).click();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByText(/^African mahogany on pin-1: moisture = /)).toBeVisible();
});

test('a room that drifts is called, its air can be typed, and a year of it is drawn', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Lumber room is too damp' }).click();
  await expect(page.getByText(/^Lumber room is too damp: EMC/)).toBeVisible();
  await page.getByLabel('Look back').click();
  await page.getByRole('option', { name: 'a year' }).click();
  await expect(page.getByText(/mean of every 25 hours/)).toBeVisible();
  const air = page.getByRole('region', { name: 'Log air' });
  await air.getByLabel('Air, °C').fill('21,3');
  await air.getByLabel('Humidity, % RH').fill('48');
  await air.getByRole('button', { name: 'Note it as now' }).click();
  await expect(page.locator('#log-answer')).toHaveText(/^Noted: Lumber room, 21.3 °C/);
  await air.getByLabel(/A logger/).fill('time;temp;rh\n2026-11-02 08:00;;40');
  await air.getByRole('button', { name: 'Keep the file' }).click();
  await expect(air.getByRole('alert')).toHaveText(/the temperature is missing/);
});

test('two ways of cutting are drawn beside each other', async ({ page }) => {
  await page.goto('/wood/yield');
  const rip = page.getByRole('region', { name: 'Rip first, then crosscut' });
  await expect(rip.getByRole('img').first()).toBeVisible();
  await expect(page.getByText('leaves less over')).toHaveCount(1);
  await page.getByLabel('Defects, %').fill('120');
  await expect(rip).toContainText('Defects must be');
});

test('who changed the gate, and how it stood before, is kept and shown', async ({ page }) => {
  await page.goto('/stage/wood');
  const gate = page.getByRole('region', { name: 'Gate' });
  await gate.getByRole('button', { name: 'Change' }).click();
  await gate.getByLabel('To, %').fill('8,4');
  await gate.getByRole('button', { name: 'Use this gate' }).click();
  await expect(
    gate.getByText(/^Changed .* by M\. Ostrander; before: a window we trust, 6\.0–8\.5 %\./),
  ).toBeVisible();
  await gate.getByRole('link', { name: 'All changes' }).click();
  await expect(page.getByRole('heading', { name: 'Changed settings' })).toBeVisible();
  await expect(
    page.getByRole('row', { name: /M\. Ostrander How dry lumber must be .*6\.0–8\.5 % .*6\.0–8\.4 %/ }),
  ).toBeVisible();
});

test('whoever reads inches and °F types and reads them everywhere; what is kept is metric', async ({
  page,
  second,
}) => {
  await page.goto('/wood/rooms');
  await expect(page.getByText(/\d\d\.\d °C and \d+ % RH now/)).toBeVisible();
  await page.getByRole('button', { name: 'Units' }).click();
  const units = page.getByRole('dialog', { name: 'Units' });
  await units.getByRole('button', { name: 'inch, mil' }).click();
  await units.getByRole('button', { name: '°F' }).click();
  await expect(units.getByRole('button', { name: '°F' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/\d\d\.\d °F and \d+ % RH now/)).toBeVisible();
  await expect(page.getByText('°C')).toHaveCount(0);

  await page.goto('/wood/receive');
  await page.getByRole('combobox', { name: 'Species' }).click();
  await page.getByRole('option', { name: 'red alder' }).click();
  await page.getByLabel('Thickness, in').fill('2 3/16');
  await page.getByLabel('Boards alike').fill('2');
  await page.getByLabel('Length, in').fill('500');
  await page.getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByText(/^0\.04 to 393\.70 in$/)).toBeVisible();
  await page.getByLabel('Length, in').fill('94,5');
  await page.getByRole('button', { name: 'Receive', exact: true }).click();
  const received = page.getByText(/^W-\d+ is received/);
  await expect(received).toBeVisible();
  const lot = ((await received.textContent()) ?? '').split(' ')[0] ?? '';
  const told = (await (await page.request.get(`/api/lots/${lot}`)).json()) as {
    state: { thicknessMm: number; boards: { lengthMm: number }[] };
  };
  expect([told.state.thicknessMm, told.state.boards[0]?.lengthMm]).toEqual([55.5625, 2400.3]);
  await page.goto(`/wood/lots/${lot}`);
  await expect(page.getByText(/red alder, 2\.\d+ in, 2 boards/)).toBeVisible();

  // The units go with the person: to another screen, and not to another person.
  await second.goto('/wood/rooms');
  await expect(second.getByText(/°F and \d+ % RH now/)).toBeVisible();
  await second.getByRole('combobox', { name: 'Who is at this screen' }).click();
  await second.getByRole('option', { name: /^V\. Tamsel/ }).click();
  await expect(second.getByText(/°C and \d+ % RH now/)).toBeVisible();
});
