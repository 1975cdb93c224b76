import { test as base, expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import { startWorks, type Works } from './works.ts';

/** A name of this machine that is not localhost: as a tablet calls the server. */
export const OTHER_NAME = 'crane.works.test';

/** So many characters of a page are told when a test on it fails. */
const MOST_TOLD = 4_000;

/** Watches a browser; what is given looks for requests that left this machine and for errors of its pages. */
function guard(context: BrowserContext): () => void {
  const outside: string[] = [];
  const errors: string[] = [];
  context.on('request', (request) => {
    const { hostname, protocol } = new URL(request.url());
    if (protocol.startsWith('http') && hostname !== '127.0.0.1' && hostname !== OTHER_NAME)
      outside.push(request.url());
  });
  context.on('weberror', (error) => errors.push(error.error().message));
  return () => {
    expect(outside, 'requests that leave the machine').toEqual([]);
    expect(errors, 'errors in the page').toEqual([]);
  };
}

/** Every test fails on a request that leaves this machine and on an error of the page. */
export const test = base.extend<{ guarded: undefined; told: undefined; second: Page }, { works: Works }>({
  works: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads from the pattern what a fixture needs: nothing
    async ({}, use, { parallelIndex }) => {
      const works = await startWorks(parallelIndex);
      await use(works);
      await works.stop();
    },
    { scope: 'worker', timeout: 600_000 },
  ],
  baseURL: async ({ works }, use) => use(works.address),
  guarded: [
    async ({ context }, use) => {
      const unharmed = guard(context);
      await use(undefined);
      unharmed();
    },
    { auto: true },
  ],
  // A browser of its own beside the first: of two pages in one window the one behind is drawn once a second.
  second: async ({ browser }, use) => {
    const context = await browser.newContext();
    const unharmed = guard(context);
    await use(await context.newPage());
    unharmed();
    await context.close();
  },
  // A failing test says what its page showed: elsewhere nobody can go and look.
  told: [
    async ({ page, works }, use, testInfo) => {
      await use(undefined);
      if (testInfo.status === testInfo.expectedStatus || page.isClosed()) return;
      const text = await page
        .locator('body')
        .innerText({ timeout: 5_000 })
        .catch((error: unknown) => String(error));
      const shown = text.replace(/\s+/g, ' ').slice(0, MOST_TOLD);
      console.log(`  '${testInfo.title}' failed at ${page.url()}, which shows: ${shown}`);
      for (const line of works.errors()) console.log(`  its server: ${line}`);
    },
    { auto: true },
  ],
});

export { expect };

/** Types a line into the log bar and files it; gives what the bar answers. */
export async function log(page: Page, line: string): Promise<string> {
  const input = page.getByLabel('Log', { exact: true });
  const answer = page.locator('#log-answer');
  await input.fill(line);
  await expect(answer).toHaveText(/Enter (files it|asks the server)$/);
  await input.press('Enter');
  await expect(answer).toHaveText(/^Filed/);
  return (await answer.textContent()) ?? '';
}

/** A call on the board, also when it stands among those that cost less. */
export async function callOf(page: Page, words: string): Promise<Locator> {
  const calls = page.getByRole('complementary', { name: 'Calls' });
  await expect(calls.getByRole('article').first()).toBeVisible();
  const call = calls.getByRole('article').filter({ hasText: words });
  const folded = calls.getByRole('group', { name: 'Less costly' }).getByRole('button', { expanded: false });
  while ((await call.count()) === 0 && (await folded.count()) > 0) await folded.first().click();
  return call;
}

/** Takes off whatever the mill cuts, for a reason: a load of the story starts at once. */
export async function clearTables(page: Page, station: 'body-mill' | 'neck-mill'): Promise<void> {
  const mill = (await (await page.request.get(`/api/mill/${station}`)).json()) as {
    tables: { load: { parts: { batch: string }[] } | null }[];
  };
  const running = new Set(mill.tables.flatMap(({ load }) => load?.parts.map(({ batch }) => batch) ?? []));
  for (const code of running)
    await log(page, `${code} ${station.replace('-', ' ')} done because the story is told in a minute`);
}

/** As many Tabs as the longest page has stops, and then some. */
const MOST_TABS = 400;
const MOST_ARROWS = 200;

/** Whether it has the focus, or is what a list with the focus points to. */
const isAt = (there: Locator): Promise<boolean> =>
  there.evaluate((element) => {
    const active = document.activeElement;
    return (
      element === active ||
      (element.id !== '' && active?.getAttribute('aria-activedescendant') === element.id)
    );
  });

async function go(there: Locator, key: string, most: number): Promise<void> {
  const page = there.page();
  for (let i = 0; i < most; i += 1) {
    if (await isAt(there)) return;
    await page.keyboard.press(key);
  }
  throw new Error(`${most} times ${key} do not lead to ${String(there)}`);
}

/** Goes to it by Tab, as who has no mouse does. */
export async function reach(there: Locator): Promise<void> {
  await expect(there).toBeEnabled();
  await go(there, 'Tab', MOST_TABS);
}

/** Goes to it by Tab, and presses it. */
export async function press(there: Locator, key = 'Enter'): Promise<void> {
  await reach(there);
  await there.page().keyboard.press(key);
}

/** Opens a list of choices by keyboard and takes one of them. */
export async function choose(field: Locator, name: string | RegExp, exact = false): Promise<void> {
  await press(field, 'ArrowDown');
  const option = field.page().getByRole('option', { name, exact });
  await expect(option).toBeVisible();
  await go(option, 'ArrowDown', MOST_ARROWS);
  await field.page().keyboard.press('Enter');
  await expect(option).toBeHidden();
}

/** Ticks or clears a box by keyboard. */
export async function tick(box: Locator, on: boolean): Promise<void> {
  if ((await box.isChecked()) !== on) await press(box, 'Space');
  await expect(box).toBeChecked({ checked: on });
}

/** Takes one of several by keyboard: Tab leads to the one that is taken, arrows to the others. */
export async function pick(choice: Locator): Promise<void> {
  const group = await choice.getAttribute('name');
  if (group === null) throw new Error('it is no choice of a group');
  const page = choice.page();
  const inGroup = (): Promise<boolean> =>
    page.evaluate((name) => document.activeElement?.getAttribute('name') === name, group);
  for (let i = 0; i < MOST_TABS && !(await inGroup()); i += 1) await page.keyboard.press('Tab');
  await go(choice, 'ArrowDown', MOST_ARROWS);
  await expect(choice).toBeChecked();
}

/** Measures on the batch page all that is due of the pieces in hand; sizes by the name of the check, looks by a yes. */
export async function measureDue(
  page: Page,
  batch: string,
  sizes: Record<string, string> = {},
): Promise<void> {
  await page.goto(`/batch/${batch}`);
  const due = page
    .getByRole('region', { name: 'To be measured' })
    .locator('form')
    .filter({ has: page.locator('strong.attention') });
  await expect(due.first()).toBeVisible();
  for (let left = await due.count(); left > 0; left -= 1) {
    const line = due.first();
    const yes = line.getByRole('button', { name: /^Yes, all/ });
    if ((await yes.count()) > 0) await press(yes);
    else {
      const name = (await line.locator('strong').textContent()) ?? '';
      const [, measured, wanted] = /· (\d+) of (\d+)/.exec((await line.textContent()) ?? '') ?? [];
      const values = Array<string>(Number(wanted) - Number(measured)).fill(sizes[name] ?? '');
      await line.getByRole('textbox').fill(values.join(' '));
      await press(line.getByRole('button', { name: 'File', exact: true }));
    }
    await expect(due).toHaveCount(left - 1);
  }
}

/** Receives a lot of boards alike, reads them all by one line, sends them to cut, and files a plan of one blank as cut. */
export async function lumberToBlanks(
  page: Page,
  lumber: {
    species: string;
    thickness: number;
    papers?: string;
    boards: number;
    line: string;
    blank: { name: string; kind: string; length: number; width: number; thickness: number };
  },
): Promise<string> {
  await page.goto('/wood/receive');
  await choose(page.getByRole('combobox', { name: 'Species' }), lumber.species);
  await page.getByLabel('Thickness, mm').fill(String(lumber.thickness));
  if (lumber.papers !== undefined) await page.getByLabel(/^Papers/).fill(lumber.papers);
  await choose(page.getByLabel('Stacked in'), 'Wood room');
  await page.getByLabel('Or one line for each board').fill(`${lumber.line}\n`.repeat(lumber.boards));
  await press(page.getByRole('button', { name: 'Receive', exact: true }));
  const received = page.getByText(/^W-\d+ is received/);
  await expect(received).toBeVisible();
  const lot = ((await received.textContent()) ?? '').split(' ')[0] ?? '';

  const values = Array.from({ length: lumber.boards }, (_, i) => (7 + (i % 5) / 10).toFixed(1));
  // A line holds the readings of eighty boards.
  for (let first = 0; first < lumber.boards; first += 80) {
    const some = values.slice(first, first + 80);
    await log(page, `${lot}/${first + 1}-${first + some.length} read ${some.join(' ')}`);
  }
  await page.goto(`/wood/lots/${lot}`);
  await press(page.getByRole('button', { name: `Send all ${lumber.boards} to cut` }));
  await expect(page.getByText(new RegExp(`^Cut it: ${lumber.boards} boards to cut`))).toBeVisible();

  await page.goto('/wood/yield');
  await choose(page.getByLabel('From'), new RegExp(`^${lot}:`));
  // What was typed for the lot before is still there.
  const fewer = page.getByRole('button', { name: 'Remove the last' });
  await expect(page.getByRole('button', { name: 'Another size' })).toBeVisible();
  if ((await fewer.count()) > 0) await press(fewer);
  const { blank } = lumber;
  for (const field of ['name', 'length', 'width', 'thickness'] as const)
    await page.getByLabel(`${field} of blank 1`).fill(String(blank[field]));
  const kind = page.getByRole('region', { name: 'Blanks wanted' }).getByRole('combobox').first();
  if ((await kind.textContent()) !== blank.kind) await choose(kind, blank.kind, true);
  await press(page.getByRole('button', { name: 'Make it the cut list: Crosscut first, then rip' }));
  const cuts = page.getByRole('form', { name: 'Cut list' });
  await reach(cuts.getByRole('textbox', { name: 'Weights of board 1', exact: true }));
  await expect(
    cuts.getByRole('button', { name: new RegExp(`^File the cuts of ${lumber.boards} boards`) }),
  ).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('#log-answer')).toHaveText(/^Filed/);
  return lot;
}

/** The parts of models, by the letter of their racks. */
const PARTS: Record<string, string> = { B: 'body', N: 'neck', F: 'fingerboard', S: 'sides', P: 'panel pair' };

/** Ticks a part that is to be opened, and no other; gives the button that opens it. */
export async function onlyPart(page: Page, kind: string): Promise<Locator> {
  const parts = page.getByRole('group', { name: 'Parts, a rack of each' });
  await tick(parts.getByRole('checkbox', { name: PARTS[kind] ?? kind }), true);
  for (const [letter, name] of Object.entries(PARTS)) {
    const other = parts.getByRole('checkbox', { name });
    if (letter !== kind && (await other.count()) > 0) await tick(other, false);
  }
  return page.getByRole('button', { name: `Open ${PARTS[kind] ?? kind}`, exact: true });
}

/** Opens a batch through the form and gives its code. */
export async function openRack(
  page: Page,
  options: { model: string; kind: string; quantity?: number; way?: string },
): Promise<string> {
  await page.goto('/open');
  await choose(page.getByLabel('Model'), new RegExp(options.model));
  const open = await onlyPart(page, options.kind);
  await page.getByLabel('Pieces').fill(String(options.quantity ?? 12));
  if (options.way !== undefined) await pick(page.getByLabel(options.way));
  await press(open);
  const verdict = page.getByText(/^[BN]-\d+ is on the board\.$/).first();
  await expect(verdict).toBeVisible();
  return ((await verdict.textContent()) ?? '').split(' ')[0] ?? '';
}
