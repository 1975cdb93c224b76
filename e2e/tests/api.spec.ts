import { expect, test } from '../floor.ts';

test('the API describes itself at /api/docs', async ({ page }) => {
  await page.goto('/api/docs');
  // The page draws what is in view: the first of it here, all of it in the document.
  await expect(page.getByText('/api/health', { exact: true })).toBeVisible();
  const document = (await (await page.request.get('/api/openapi.json')).json()) as { paths: object };
  expect(Object.keys(document.paths)).toEqual(
    expect.arrayContaining(['/api/log/line', '/api/board', '/api/kits']),
  );
});
