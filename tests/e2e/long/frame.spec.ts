import { expect, test, type Page } from '@playwright/test';
import { TWO } from '../contacts';
import { importContact, publish, signUp } from '../person';
import { NEXT_ALONE, ORIGIN } from '../ports';

/** Words of heads and acts that are cut: their letters stand on several lines. */
const cutWords = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('h1, th, .btn, .top *')].flatMap((element) =>
      [...element.childNodes].flatMap((node) =>
        [...(node instanceof Text ? node.data : '').matchAll(/\p{L}{3,}/gu)].flatMap(({ 0: word, index }) => {
          const range = document.createRange();
          range.setStart(node, index);
          range.setEnd(node, index + word.length);
          return new Set([...range.getClientRects()].map(({ top }) => Math.round(top))).size > 1 ? [word] : [];
        }),
      ),
    ),
  );

async function fits(page: Page, what: string) {
  for (const width of [768, 1024, 360]) {
    await page.setViewportSize({ width, height: 740 });
    const over = () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    await expect.poll(over, { message: `${what} at ${width}` }).toBe(0);
    await expect.poll(() => cutWords(page), { message: `${what} at ${width}` }).toEqual([]);
  }
}

test('on a phone and a tablet nothing scrolls sideways but tables inside themselves, and no word is cut', async ({
  page,
}) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  for (const away of ['code', 'tag', 'signature', 'paper', 'backdrop', 'pass'])
    await page.getByRole('button', { name: `Add ${away} column` }).click();
  await fits(page, 'a ledger of eight channels');
  await publish(page, 'narrow-card');
  const card = page.url();
  await page.goto(`${card}/hand-outs`);
  const code = (await page.getByRole('link', { name: 'Code on screen' }).getAttribute('href'))!;
  await page.goto('/people');
  await page.getByRole('button', { name: 'New person' }).click();
  await page.getByLabel('Contact file').setInputFiles({ name: 'two.vcf', mimeType: 'text/vcard', buffer: TWO });
  await expect(page.getByRole('button', { name: 'Import 2 contacts' })).toBeVisible();
  for (const path of [
    page.url(),
    card,
    `${card}/look`,
    '/company/house-style',
    `${card}/hand-outs`,
    code,
    '/hand-over',
    `${card}/response`,
    '/people',
    '/response',
    '/c/narrow-card',
    '/company/members',
    '/company/settings',
    '/people/deleted',
    '/company/audiences',
    '/company/audit',
    '/company/jobs',
    '/tray',
  ]) {
    await page.goto(path);
    await fits(page, path);
  }
});

test('go to, help and letters lead everywhere without a mouse', async ({ page }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog').getByText('tick or untick')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.keyboard.press('c');
  await page.waitForURL('**/company/settings');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /Go to/ }).fill('lind work');
  await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toContainText('Work');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/cards/*');
});

test('Next.js alone answers recipients with the same bytes as the listener in front of it', async ({
  page,
  playwright,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'same-bytes');
  const code =
    (await (await page.request.get('/c/same-bytes')).text()) &&
    (await page.goto(`${page.url()}/hand-outs`), await page.locator('td.mono', { hasText: '/h/' }).innerText()).split(
      '/h/',
    )[1]!;
  const photo = /\/c\/same-bytes\/photo-[0-9a-f]{64}\.jpg/.exec(
    await (await page.request.get('/c/same-bytes')).text(),
  )![0];
  const ours = await playwright.request.newContext({ baseURL: ORIGIN });
  const alone = await playwright.request.newContext({ baseURL: `http://127.0.0.1:${NEXT_ALONE}` });
  for (const path of [
    '/c/same-bytes',
    '/C/Same-Bytes',
    '/c/same-bytes.vcf',
    '/c/same-bytes.vcf?v=4.0',
    `/h/${code}`,
    `/H/${code.toLowerCase()}`,
    `/h/${code}.vcf`,
    photo,
    '/c/nobody-at-all',
    '/fonts/literata.woff2',
  ]) {
    // Whoever asks first may get a page without its first screen.
    if (/^\/[ch]\/[^.]*$/i.test(path) && !path.includes('nobody'))
      for (const host of [ours, alone])
        // One that was not to be had is tried again after ten seconds, and a busy machine takes several tries.
        await expect
          .poll(async () => (await host.get(path)).text(), { timeout: 150_000 })
          .toContain('font/woff2;base64');
    const [a, b] = await Promise.all([ours.get(path), alone.get(path)]);
    expect([path, b.status()]).toEqual([path, a.status()]);
    expect([path, Buffer.compare(await a.body(), await b.body())]).toEqual([path, 0]);
    for (const header of [
      'content-type',
      'content-security-policy',
      'cache-control',
      'etag',
      'content-disposition',
      'heathland-event',
    ])
      expect([path, header, b.headers()[header]]).toEqual([path, header, a.headers()[header]]);
  }
});
