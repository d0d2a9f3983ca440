import { expect, test } from './app';

test('every page runs our own scripts and no others', async ({ app, browser }) => {
  const page = await app.device(browser, 'wren');
  const refused: string[] = [];
  page.on('console', (message) => {
    if (message.text().includes('Content Security Policy')) refused.push(`${page.url()}: ${message.text()}`);
  });
  await page.goto('/certificates');
  const certificate = (await page.getByRole('main').last().getByRole('link').first().getAttribute('href')) ?? '';
  for (const path of [
    '/today',
    '/sites',
    '/instruments',
    '/procedures',
    '/procedures/duct-tightness',
    certificate,
    '/check',
    '/field',
    '/bench',
    '/sign-in',
    '/nowhere',
    `/check/${'0'.repeat(32)}`,
  ]) {
    const response = await page.goto(path);
    const policy = response?.headers()['content-security-policy'] ?? '';
    expect(policy).toMatch(/script-src 'self' '(nonce|sha256)-/);
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
    await page.getByRole('heading', { level: 1 }).waitFor();
    if (path === certificate) await expect(page.getByRole('article')).toBeVisible();
  }
  expect(refused).toEqual([]);

  // What someone might smuggle into a name or a note stays text, and would not run if it did not.
  await page.goto('/today');
  const ran = await page.evaluate(async () => {
    const image = document.createElement('div');
    image.innerHTML = '<img src="x:" onerror="window.smuggled = true">';
    const script = document.createElement('script');
    script.textContent = 'window.smuggled = true';
    document.body.append(image, script);
    await new Promise((resolve) => setTimeout(resolve, 300));
    return 'smuggled' in window;
  });
  expect(ran).toBe(false);
  expect(refused.length).toBeGreaterThan(0);
});
