import { expect, test, type Page } from '@playwright/test';
import jsQR from 'jsqr';
import sharp from 'sharp';
import { importContact, publish, signUp } from './person';

/** What a reader that did not draw it reads off the screen. */
async function readOff(page: Page, selector: string): Promise<string | undefined> {
  const picture = await page.locator(selector).screenshot();
  const { data, info } = await sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data;
}

test('on a phone one tap holds the card up; it works without a network, and goes when the session ends', async ({
  browser,
}) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, deviceScaleFactor: 2 });
  const page = await phone.newPage();
  await signUp(page, 'Jörg Müller-Lind');
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'held-up');
  await page.goto('/people');
  await page.getByRole('link', { name: 'Hand over' }).click();
  await page.waitForURL('**/hand-over');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Müller-Lind');
  const read = await readOff(page, '#code');
  expect(read).toMatch(/^HTTP:\/\/127\.0\.0\.1:46[89]0\/H\/[0-9A-HJKMNP-TV-Z]{8}$/);
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
  await expect
    .poll(() =>
      page.evaluate(async () =>
        (await (await caches.open('hand-over')).keys()).map(({ url }) => new URL(url).pathname),
      ),
    )
    .toContain('/hand-over');
  await phone.setOffline(true);
  await page.reload();
  expect(await readOff(page, '#code')).toBe(read);
  await phone.setOffline(false);
  // Ended from elsewhere: nothing of it is left on this phone.
  await phone.clearCookies();
  await page.reload();
  await page.waitForURL('**/sign-in');
  expect(await page.evaluate(async () => (await caches.match('/hand-over')) === undefined)).toBe(true);
  await phone.close();
});

test('a code is styled, proven while it is, mended by what was tried, and read off the screen', async ({ page }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'styled-code');
  await page.goto(`${page.url()}/hand-outs`);
  await page.getByRole('button', { name: 'New code' }).click();
  await page.getByLabel('Where will it be?').fill('Stand banner');
  await page.getByRole('button', { name: 'Make the code' }).click();
  await page.waitForURL('**/hand-outs/*-*');
  await expect(page.getByText(/^2[2-4] of 24 pictures were read by both readers\.$/)).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('This code works only on this computer')).toBeVisible();
  await page.getByLabel('Corner squares’ colour').check();
  const finders = page
    .getByLabel('Value of Corner squares', { exact: true })
    .or(page.locator('.cost-risky .colour-field .form-control').first());
  await finders.first().fill('#E3A58B');
  await finders.first().press('Enter');
  await expect(page.getByText('Does not scan reliably')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Do it' }).click({ timeout: 20_000 });
  await expect(page.getByText(/^✓ Scans at 25 mm/)).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.getByLabel('Width, mm').fill('60');
  expect(await readOff(page, '.drawn-code.large')).toMatch(/^HTTP:\/\/127\.0\.0\.1:46[89]0\/H\//);
  // The real scan, by somebody else's browser.
  await page.getByRole('button', { name: 'Scan now' }).click();
  await expect(page.getByText('Waiting for a scan')).toBeVisible();
  const text = await page.locator('.held').innerText();
  const scan = await page.context().browser()!.newContext();
  expect((await (await scan.newPage()).goto(text))!.headers()['heathland-event']).toBe('not-counted');
  await expect(page.getByText(/^Seen \d\d:\d\d, not counted\.$/)).toBeVisible();
  await scan.close();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download SVG' }).click();
  expect((await download).suggestedFilename()).toMatch(/^[a-z-]+stand-banner-from-\d+mm\.svg$/);
});
