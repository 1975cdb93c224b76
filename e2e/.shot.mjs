import { chromium } from '@playwright/test';
const [, , base, out, path, w = '1280', h = '800', theme = 'day', ...steps] = process.argv;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage({ viewport: { width: +w, height: +h } });
page.on('console', (m) => {
  if (m.type() === 'error') console.log('console:', m.text());
});
page.on('pageerror', (e) => console.log('pageerror:', e.message));
await page.addInitScript((t) => localStorage.setItem('ample-crane.theme', t), theme);
await page.goto(base + path);
await page.waitForLoadState('networkidle').catch(() => {});
await page.waitForTimeout(700);
for (const s of steps) {
  const [k, ...v] = s.split(':');
  const a = v.join(':');
  if (k === 'key') await page.keyboard.press(a);
  else if (k === 'type') await page.keyboard.type(a);
  else if (k === 'click') await page.click(a);
  else if (k === 'wait') await page.waitForTimeout(+a);
  else if (k === 'full') {
  }
}
await page.waitForTimeout(300);
await page.screenshot({ path: out, fullPage: steps.includes('full') });
await browser.close();
