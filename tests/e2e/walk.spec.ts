import { expect, test } from '@playwright/test';
import jsQR from 'jsqr';
import sharp from 'sharp';
import { importContact, saved, signUp } from './person';

/** The whole walk of a new user: contact file, record, ledger, specimen, publish, hand out, response. */
test('from a contact file to a counted view of a scanned code', async ({ page, browser }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await expect(page.getByRole('heading', { name: /Dr. Jörg Aksel Müller-Lind/ })).toBeVisible();

  // Safe first ticks: what is private goes nowhere.
  await expect(page.getByLabel('E-mail, home on page')).not.toBeChecked();
  await expect(page.getByLabel('Birthday on contact file')).not.toBeChecked();

  // A label in one's own words, the specimen follows.
  const specimen = page.frameLocator('iframe');
  await page.getByRole('button', { name: 'Label of Phone, work: Phone, work' }).click();
  await page.getByLabel('Label of Phone, work').fill('Planning desk');
  await page.keyboard.press('Enter');
  await expect(specimen.getByText('Planning desk')).toBeVisible();

  // A phone with a label of its holder's own waits for a tick.
  for (const on of ['page', 'contact file']) await page.getByLabel(`Notdienst, Tag und Nacht on ${on}`).check();

  // A line moves by keyboard; it stands first among the phones in the page then.
  const grip = page.getByRole('button', { name: /Move Notdienst/ });
  await grip.focus();
  const before = await specimen.locator('dt').allInnerTexts();
  for (let up = 0; up < 4; up += 1) {
    await page.keyboard.press('Alt+ArrowUp');
    await expect(grip).toBeFocused();
  }
  await expect
    .poll(async () => (await specimen.locator('dt').allInnerTexts()).indexOf('Notdienst, Tag und Nacht'))
    .toBeLessThan(before.indexOf('Notdienst, Tag und Nacht'));

  // The mobile is ticked by hand for the page only: this record has work phones, so it started as private.
  await expect(page.getByLabel('Mobile on contact file')).not.toBeChecked();
  await page.getByLabel('Mobile on page').check();
  await page.getByLabel('Planning desk on contact file').uncheck();
  await page.getByRole('button', { name: 'Contact file', exact: true }).click();
  await expect(page.getByRole('complementary').getByText('+44 20 7946 0999')).toBeVisible();
  await expect(page.getByRole('complementary').getByText('+44 20 7946 0123')).toHaveCount(0);

  // Undo and redo.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Planning desk on contact file')).toBeChecked();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByLabel('Planning desk on contact file')).not.toBeChecked();
  await saved(page);

  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByLabel('Short address').fill('joerg-walk');
  // Private things come first and are confirmed once.
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText('Private details would become public.')).toBeVisible();
  await page.getByLabel('Yes, these 2 private details may go out').check();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText('Revision 1 is live')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the table' }).click();
  await expect(page.getByText('Published, revision 1')).toBeVisible();

  // The recipient: a phone, no JavaScript, no account.
  const phone = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } });
  const theirs = await phone.newPage();
  await theirs.goto('/c/joerg-walk');
  await expect(theirs.getByRole('heading', { name: /Jörg Aksel Müller-Lind/ })).toBeVisible();
  await expect(theirs.getByText('+44 7700 900123')).toBeVisible();
  await expect(theirs.locator('main')).not.toContainText('zuhause');
  const photo = await theirs.locator('.photo img').evaluate((image: HTMLImageElement) => image.naturalWidth);
  expect(photo).toBeGreaterThan(0);
  const link = await theirs.getByRole('link', { name: 'Save contact' }).getAttribute('href');
  const file = await phone.request.get(link!);
  expect(file.headers()['content-type']).toBe('text/vcard; charset=utf-8');
  const text = (await file.text()).replace(/\r\n /g, '');
  expect(text).toContain('Notdienst');
  for (const unticked of ['7700900123', '2079460123', 'zuhause', '1979-02-28', '1632960123'])
    expect(text.replace(/[ -]/g, (gap) => (gap === '-' ? '-' : ''))).not.toContain(unticked);

  // The code, decoded from a picture of the screen by a reader that did not draw it.
  await page.getByRole('button', { name: 'Show code' }).click();
  await expect(page.getByRole('dialog').getByRole('img')).toBeVisible();
  const { data, info } = await sharp(await page.getByRole('dialog').screenshot())
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const read = jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data ?? '';
  expect(read).toMatch(/^HTTP:\/\/127\.0\.0\.1:46[89]0\/H\/[0-9A-HJKMNP-TV-Z]{8}$/);
  const scanned = await theirs.goto(read);
  expect(scanned!.headers()['cache-control']).toBe('no-store');
  await expect(theirs.getByRole('heading', { name: /Müller-Lind/ })).toBeVisible();
  await phone.close();

  // With JavaScript a tap on a line is counted.
  const tapping = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const tap = await tapping.newPage();
  await tap.goto('/c/joerg-walk');
  const counted = tap.waitForResponse((answer) => answer.url().endsWith('/tap'));
  await tap.evaluate(() =>
    document
      .querySelector<HTMLElement>('dd a[data-l]')!
      .dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true })),
  );
  expect((await counted).headers()['heathland-event']).toBe('recorded');
  await tapping.close();

  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Response' }).last().click();
  const byHandOut = page.getByRole('region', { name: 'Figures by placement' });
  await expect(byHandOut.getByRole('row', { name: /Short addresses 2 1 1 1 1/ })).toBeVisible();
  await expect(byHandOut.getByRole('row', { name: /Code on screen 1 0 0 0 0/ })).toBeVisible();
  await expect(byHandOut.getByRole('row', { name: /All 3 1 1 1 1/ })).toBeVisible();
});

test('typed name, phone and mail become a card; a file can be dropped as well as chosen', async ({ page }) => {
  await signUp(page, 'Maud Aldercott');
  await page.getByLabel('Name', { exact: true }).fill('Ilse Varrow');
  await page.getByLabel('Phone', { exact: true }).fill('020 7946 0182');
  await page.getByLabel('E-mail', { exact: true }).fill('ilse.varrow@tarnhope.example');
  await page.getByRole('button', { name: 'Make record and card' }).click();
  await page.waitForURL('**/cards/*');
  await expect(page.frameLocator('iframe').getByRole('link', { name: '+44 20 7946 0182' })).toBeVisible();

  await page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'New person' }).click();
  const dropped = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(new File(['BEGIN:VCARD\nVERSION:4.0\nFN:Corin Hathersage\nEND:VCARD'], 'corin.vcf'));
    return transfer;
  });
  await page.locator('.drop').dispatchEvent('drop', { dataTransfer: dropped });
  await page.waitForURL('**/cards/*');
  await expect(page.getByRole('heading', { name: /Corin Hathersage/ })).toBeVisible();
});
