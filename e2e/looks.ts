import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect } from './floor.ts';

const SIZES = [
  { width: 1024, height: 768 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
  // 1280×800 at 200 %.
  { width: 640, height: 400 },
  { width: 1920, height: 1080 },
  { width: 1280, height: 800 },
];

/** Nothing serious for assistive technology: one frame, and nothing but what is wrong told in full, for speed. */
export async function accessible(page: Page, path: string, rules?: string[]): Promise<void> {
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

/** Buttons and links of the header whose words do not find room in them, and so lie over their neighbours. */
const crowded = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('button, .header nav a')]
      .filter(({ clientWidth, scrollWidth }) => clientWidth > 0 && scrollWidth > clientWidth + 1)
      .map((element) => element.textContent),
  );

/** A laptop, also at twice the size, a tablet held upright, a phone, the big screen: nothing runs over its edge, no button’s words over it. */
export async function fits(page: Page, path: string): Promise<void> {
  for (const size of SIZES) {
    await page.setViewportSize(size);
    const over = (): Promise<number> =>
      page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    try {
      await expect.poll(over, { message: `${path} at ${size.width} px` }).toBeLessThanOrEqual(0);
    } catch (error) {
      throw new Error(`${path} at ${size.width} px: ${await sticksOut(page)}`, { cause: error });
    }
    expect(await crowded(page), `${path} at ${size.width} px`).toEqual([]);
  }
}
