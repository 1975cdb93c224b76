import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from '../floor.ts';

// Each test loads pages of its own: the workers share them.
test.describe.configure({ mode: 'parallel' });

const PAGES = [
  ...['/', '/passport/I-185/1', '/stage/finishing/racks', '/flow', '/open', '/devices'],
  ...[
    '/stage/wood',
    '/wood/lots/W-74',
    '/wood/read/W-74',
    '/wood/rooms',
    '/wood/stock',
    '/wood/choose/B-200',
  ],
  ...['/wood/receive', '/wood/yield', '/wood/meters'],
  ...['/mill/body-mill', '/mill/checks', '/mill/checks/Halyard/B/pocket-width', '/mill/programs'],
  ...['/stage/finishing', '/finish/booths', '/finish/sanding', '/finish/panels'],
  ...['/finish/rack/I-174', '/batch/I-174'],
  ...['/finish/recipes', '/finish/recipes/burst-over-sealer'],
  ...['/finish/materials', '/finish/ageing', '/kept', '/backups', '/changes'],
  ...['/stage/fitting', '/fitting/meeting', '/fitting/pairing/B-195/N-119', '/routes', '/routes/Bowline/N'],
];

/** By night the colours differ, not the structure or the room it takes: one page of each make is enough. */
const PAGES_BY_NIGHT = [
  '/',
  '/flow',
  '/wood/lots/W-74',
  '/wood/read/W-74',
  '/wood/rooms',
  '/mill/body-mill',
  '/routes/Bowline/N',
  '/stage/finishing',
  '/finish/booths',
  '/finish/recipes',
  '/finish/panels',
];

const SIZES = [
  { width: 1024, height: 768 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
  { width: 1920, height: 1080 },
  { width: 1280, height: 800 },
];

/** Nothing serious for assistive technology: one frame, and nothing but what is wrong told in full, for speed. */
async function accessible(page: Page, path: string, rules?: string[]): Promise<void> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => `${path} ${id}: ${nodes[0]?.html}`)).toEqual([]);
}

/** What reaches beyond the right edge, and how wide the page takes its window to be. */
const sticksOut = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const { innerWidth } = window;
    const { clientWidth, scrollWidth } = document.documentElement;
    const beyond = [...document.querySelectorAll('*')]
      .map((element) => ({ element, right: element.getBoundingClientRect().right }))
      .filter(({ right }) => right > innerWidth + 1)
      .map(
        ({ element, right }) =>
          `<${element.tagName.toLowerCase()} class="${element.getAttribute('class')}"> to ${right}`,
      );
    // The innermost, which are told last, are what is too wide.
    return [
      `window ${innerWidth}, page ${clientWidth}, scrolls to ${scrollWidth}`,
      ...beyond.slice(-30),
    ].join('\n');
  });

/** A laptop, a tablet held upright, a phone, the big screen: nothing runs over its edge. */
async function fits(page: Page, path: string): Promise<void> {
  for (const size of SIZES) {
    await page.setViewportSize(size);
    const over = (): Promise<number> =>
      page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    try {
      await expect.poll(over, { message: `${path} at ${size.width} px` }).toBeLessThanOrEqual(0);
    } catch (error) {
      throw new Error(`${path} at ${size.width} px: ${await sticksOut(page)}`, { cause: error });
    }
  }
}

async function openEach(page: Page, paths: string[], look: (path: string) => Promise<void>): Promise<void> {
  await page.goto('/');
  const batch = (await page.locator('a[data-rack]').first().getAttribute('href')) ?? '';
  for (const path of [...paths, batch]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await look(path);
  }
}

const HALF = Math.ceil(PAGES.length / 2);
for (const [name, pages] of [
  ['the first half', PAGES.slice(0, HALF)],
  ['the second half', PAGES.slice(HALF)],
] as const)
  test(`nothing stands in the way of assistive technology or runs over its edge: ${name} of the pages`, async ({
    page,
  }) => {
    await openEach(page, pages, async (path) => {
      await accessible(page, path);
      await fits(page, path);
    });
  });

test('by night everything can be read', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('ample-crane.theme', 'night'));
  await openEach(page, PAGES_BY_NIGHT, (path) =>
    accessible(page, path, ['color-contrast', 'link-in-text-block']),
  );
});
