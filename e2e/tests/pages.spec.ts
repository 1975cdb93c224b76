import type { Page } from '@playwright/test';
import { expect, test } from '../floor.ts';
import { accessible, fits } from '../looks.ts';

// Each test loads pages of its own: the workers share them.
test.describe.configure({ mode: 'parallel' });

const PAGES = [
  ...[
    '/',
    '/?by=model',
    '/?by=order',
    '/passport/I-185/1',
    '/stage/finishing/racks',
    '/racks',
    '/flow',
    '/open',
    '/devices',
  ],
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
  ...[
    '/stage/assembly',
    '/assembly/bench/I-191/1',
    '/assembly/bench/I-180/8',
    '/assembly/shipping',
    '/assembly/serials',
  ],
  ...['/orders', '/orders/O-2680', '/orders/new', '/orders/racks', '/orders/options', '/batch/N-120'],
  ...['/kits', '/kits/I-188/8', '/kits/parts', '/kits/parts/C-116', '/kits/bills', '/hand-offs'],
  ...[
    '/flow/time',
    '/flow/time/I-180/1',
    '/flow/constraint',
    '/flow/work',
    '/flow?day=2026-11-19',
    '/flow/hours',
    '/flow/hours?day=2026-12-01',
    '/flow/roster',
    '/flow/people',
    '/flow/log',
    '/flow/reports',
  ],
];

/** By night the colours differ, not the structure or the room it takes: one page of each make is enough. */
const PAGES_BY_NIGHT = [
  '/',
  '/racks',
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

async function openEach(page: Page, paths: string[], look: (path: string) => Promise<void>): Promise<void> {
  await page.goto('/');
  const batch = (await page.locator('a[data-rack]').first().getAttribute('href')) ?? '';
  for (const path of [...paths, batch]) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await look(path);
  }
}

const THIRD = Math.ceil(PAGES.length / 3);
for (const [name, pages] of [
  ['the first third', PAGES.slice(0, THIRD)],
  ['the second third', PAGES.slice(THIRD, 2 * THIRD)],
  ['the last third', PAGES.slice(2 * THIRD)],
] as const)
  test(`nothing stands in the way of assistive technology or runs over its edge: ${name} of the pages`, async ({
    page,
  }) => {
    await openEach(page, pages, async (path) => {
      await accessible(page, path);
      await fits(page, path);
      // As it was left: on a phone, where lists are cards and what is too wide is scrolled.
      await accessible(page, `${path} on a phone`);
    });
  });

test('by night everything can be read', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('ample-crane.theme', 'night'));
  await openEach(page, PAGES_BY_NIGHT, (path) =>
    accessible(page, path, ['color-contrast', 'link-in-text-block']),
  );
});
