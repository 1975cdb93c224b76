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

/** Every page is laid out so tall once, that all of it can be seen. */
const TALL = 2600;
const LOOKED_THROUGH = [1280, 390];

/** Texts that lie over each other, where both can be seen. */
const overlapping = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    interface Seen {
      element: Element;
      words: string;
      left: number;
      top: number;
      right: number;
      bottom: number;
    }
    /** What is left of a text where the boxes around it cut it off. */
    const cut = (
      element: Element,
      { left, top, right, bottom }: DOMRect,
    ): Omit<Seen, 'element' | 'words'> => {
      const box = { left, top, right, bottom };
      for (let around: Element | null = element; around; around = around.parentElement) {
        if (getComputedStyle(around).overflowX === 'visible') continue;
        const edge = around.getBoundingClientRect();
        box.left = Math.max(box.left, edge.left);
        box.right = Math.min(box.right, edge.right);
        box.top = Math.max(box.top, edge.top);
        box.bottom = Math.min(box.bottom, edge.bottom);
      }
      return box;
    };
    const seen: Seen[] = [];
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let text = texts.nextNode(); text; text = texts.nextNode()) {
      const element = text.parentElement;
      const words = text.textContent?.trim() ?? '';
      if (!element || words === '' || !element.checkVisibility({ visibilityProperty: true })) continue;
      const range = document.createRange();
      range.selectNodeContents(text);
      for (const rect of range.getClientRects()) {
        const box = cut(element, rect);
        const on = document.elementFromPoint((box.left + box.right) / 2, (box.top + box.bottom) / 2);
        if (on && (on.contains(element) || element.contains(on))) seen.push({ element, words, ...box });
      }
    }
    seen.sort((a, b) => a.top - b.top);
    return seen.flatMap((one, i) =>
      seen.slice(i + 1).flatMap((other) => {
        const wide = Math.min(one.right, other.right) - Math.max(one.left, other.left);
        const high = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
        const over = one.element !== other.element && wide > 3 && high > 5;
        return over ? [`'${one.words.slice(0, 40)}' and '${other.words.slice(0, 40)}'`] : [];
      }),
    );
  });

/** A laptop, also at twice the size, a tablet held upright, a phone, the big screen: nothing runs over its edge, no words over others. */
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
  for (const width of LOOKED_THROUGH) {
    await page.setViewportSize({ width, height: TALL });
    await expect.poll(() => overlapping(page), { message: `${path} at ${width} px` }).toEqual([]);
  }
}
