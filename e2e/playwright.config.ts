import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/**
 * Parts of Chromium that stay off. Its address bar would draw itself as two pages of its own in every window, nearly a
 * second of a core each; the rest is what Playwright switches off in the same option, of which only the last counts.
 */
const OFF = [
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
  'AimEnabled',
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsFirstBalancedModeAutoEnable',
  'HttpsUpgrades',
  'LensOverlay',
  'MediaRouter',
  'NetworkTimeServiceQuerying',
  'OptimizationHints',
  'PaintHolding',
  'PreconnectToSearch',
  'ThirdPartyStoragePartitioning',
];

/** As root Chromium wants no sandbox; the rest keeps it from calling home. */
const QUIET = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  `--disable-features=${OFF.join(',')}`,
  // A name of this machine that is not localhost; see OTHER_NAME.
  '--host-resolver-rules=MAP crane.works.test 127.0.0.1',
];

/** These take longest: begun first, they do not end alone. */
const FIRST = ['cold-start.spec.ts', 'story.spec.ts', 'pages.spec.ts'];
const rank = (file: string): number => (FIRST.includes(file) ? FIRST.indexOf(file) : FIRST.length);

export default defineConfig({
  testDir: 'tests',
  // Workers are not shared between projects: each file has a works of its own, and no test stumbles over another file's racks.
  projects: readdirSync(new URL('tests', import.meta.url))
    .filter((file) => file.endsWith('.spec.ts'))
    .toSorted((a, b) => rank(a) - rank(b))
    .map((file) => ({ name: file.replace('.spec.ts', ''), testMatch: file })),
  outputDir: 'results',
  // A machine has two cores.
  workers: 2,
  forbidOnly: true,
  // Machines are shared: a slow one is no failure, only a hang is. Speed is measured by the bench.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  globalSetup: './works.ts',
  reporter: [['list'], ['json', { outputFile: '../.cache/playwright.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium', args: QUIET },
    // Kept pages are tried by a test of their own; elsewhere keeping them only costs time.
    serviceWorkers: 'block',
    trace: 'off',
    screenshot: 'off',
    // What moves is tried by a test of its own.
    contextOptions: { reducedMotion: 'reduce' },
  },
});
