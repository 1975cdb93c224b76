import { expect, test } from '../floor.ts';

test('the API describes itself at /api/docs', async ({ page }) => {
  await page.goto('/api/docs');
  await expect(page.getByText('/api/log/line', { exact: true })).toBeVisible();
  const document = (await (await page.request.get('/api/openapi.json')).json()) as { paths: object };
  expect(Object.keys(document.paths)).toContain('/api/board');
});
