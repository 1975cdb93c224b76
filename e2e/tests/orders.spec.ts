import { choose, expect, log, press, test, tick } from '../floor.ts';

test('an order is placed by what is sold, its racks are opened, and a wrong option is caught where it is built in', async ({
  page,
}) => {
  await page.goto('/orders/new');
  await press(page.getByRole('button', { name: 'Halyard', exact: true }));
  const take = (option: string, value: string): Promise<void> =>
    choose(page.getByRole('combobox', { name: option, exact: true }), value, true);
  // What does not go together is said as it is chosen, by the two options that disagree.
  await take('Hand', 'left-handed');
  await take('Bridge', 'sway tail');
  await expect(page.getByRole('alert')).toHaveText(
    'Hand left-handed does not go with Bridge sway tail: Bridge is sway tail.',
  );
  await expect(page.getByRole('button', { name: 'Add to the order' })).toBeDisabled();
  // By mouse, too: the list is opened on what is taken now.
  await page.getByRole('combobox', { name: 'Bridge', exact: true }).click();
  await page.getByRole('option', { name: 'stop tail' }).click();
  await take('Frets', 'jumbo');
  await page.getByLabel('How many').fill('2');
  await press(page.getByRole('button', { name: 'Add to the order' }));
  // What is chosen survives a reload.
  await page.reload();
  await expect(page.getByText(/Frets jumbo · Inlay dots/)).toBeVisible();
  await page.getByLabel('For whom').fill('دينا 🎸 Lévy & Søn');
  await press(page.getByRole('button', { name: 'Place the order: 2 instruments' }));
  await expect(page.getByRole('heading', { name: /^O-\d+ / })).toContainText('دينا 🎸 Lévy & Søn');
  const code = (await page.getByRole('heading', { level: 1 }).textContent())?.split(' ')[0] ?? '';

  await press(page.getByRole('link', { name: 'see the rack it would make' }).first());
  // Four more left-handed ones of that colour are wanted by then: they run together.
  await expect(page.getByText(`4 for O-2658/1, 2 for ${code}/1`)).toBeVisible();
  await tick(page.getByRole('checkbox', { name: /6 × Halyard B \+ N, night blue, left-handed/ }), true);
  await press(page.getByRole('button', { name: 'Open 1 rack' }));
  await expect(page.locator('#log-answer')).toHaveText(
    /^Filed\. Opened B-\d+ and N-\d+: 6 instruments of 2 orders/,
  );
  const [, body = '', neck = ''] =
    /(B-\d+) and (N-\d+)/.exec((await page.locator('#log-answer').textContent()) ?? '') ?? [];
  await page.goto(`/orders/${code}`);
  await expect(page.getByRole('table', { name: `Where ${code}/1 is` }).getByRole('row')).toHaveText([
    new RegExp(`^${body}2 pieceson hold at Rest & read`),
    new RegExp(`^${neck}2 pieceson hold at Rest & read`),
  ]);

  // They want something else meanwhile: nothing is built in yet, and the racks get the new tag.
  await take(`Option of ${code}/1`, 'Frets');
  await take('What it is to be', 'narrow, tall');
  await expect(page.getByText(`${neck} at Frets & shape: not built in yet on 2 pieces`)).toBeVisible();
  await page.getByLabel('Why').fill('they rang');
  await press(page.getByRole('button', { name: `Change ${code}/1` }));
  await expect(page.getByText('Line 1: Frets narrow, tall (was jumbo), because they rang')).toBeVisible();

  // The book, the order found by its customer, and the paper say the same.
  await page.goto('/orders');
  await expect(page.getByText(/^41 orders, .* still to leave/)).toBeVisible();
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: /^Code, model/ }).fill('lévy');
  await press(page.getByRole('option', { name: new RegExp(`^${code} · `) }));
  await expect(page).toHaveURL(new RegExp(`/orders/${code}$`));
  const paper = await page.request.get(`/api/orders/${code}/status.pdf`);
  expect(paper.headers()['content-type']).toContain('application/pdf');
});

test('the tag of each piece is held against what is in the hand: by touch, and by line', async ({ page }) => {
  await page.goto('/batch/I-191');
  const tags = page.getByRole('region', { name: 'On the tags' });
  await expect(tags.getByRole('table', { name: 'Tags at Assembly' })).toContainText('two single coils');
  const pickups = tags.getByRole('group', { name: 'Pickups in your hand' });
  await press(pickups.getByRole('button', { name: 'twin coils' }));
  await press(pickups.getByRole('button', { name: 'Hold it against 7 tags' }));
  await expect(page.locator('#log-answer')).toHaveText(/stop: twin is not the pickups on the tag of places/);
  await expect(tags.getByText(/^another on .*: stop$/)).toBeVisible();
  await page.getByLabel('Log', { exact: true }).fill('I-191 assembly done');
  await page.keyboard.press('Enter');
  await expect(page.locator('#log-answer')).toHaveText(
    /is to have Pickups two single coils: something else was held against its tag/,
  );
  await log(page, 'I-191 confirm pickups single');
  await expect(tags.getByText('7 of 7 confirmed')).toHaveCount(1);
  await expect(pickups).toBeHidden();
});

test('what is sold is changed by whoever knows what stands, and what could never be chosen is refused', async ({
  page,
}) => {
  await page.goto('/orders/options/Ratline');
  const rules = page.getByRole('region', { name: 'What goes together' });
  await expect(rules.getByText('Hand left-handed does not go with Bridge sway tail')).toBeVisible();
  const rule = async (when: string, is: string, other: string, values: string[]): Promise<void> => {
    const form = page.getByRole('form', { name: 'Another rule' });
    await choose(form.getByRole('combobox', { name: 'When', exact: true }), when, true);
    await choose(form.getByRole('combobox', { name: 'is', exact: true }), is, true);
    await choose(form.getByRole('combobox', { name: 'Other option', exact: true }), other, true);
    for (const value of values) await tick(form.getByRole('checkbox', { name: value, exact: true }), true);
    await press(form.getByRole('button', { name: 'Add the rule' }));
  };
  await rule('Colour', 'gloss', 'Figure', ['plain', 'some', 'figured']);
  await press(page.getByRole('button', { name: 'Sell it so from now on' }));
  await expect(page.getByRole('alert')).toHaveText(/^Colour gloss can never be chosen/);
  await press(page.getByRole('button', { name: /^Drop the rule: Colour gloss/ }));
  await rule('Colour', 'gloss', 'Figure', ['plain']);
  await press(page.getByRole('button', { name: 'Sell it so from now on' }));
  await expect(page.getByText('revision 2')).toBeVisible();
  await page.goto('/changes');
  await expect(page.getByText('Options of Ratline')).toBeVisible();
});
