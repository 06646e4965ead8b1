import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { importContact, publish, saved, signUp, typePerson } from './person';

const wording = (page: Page, of: string) => page.getByRole('button', { name: new RegExp(`^Wording of ${of}`) });
const specimen = (page: Page) => page.frameLocator('iframe');

test('the whole ledger by keyboard alone, undone and redone after a reload', async ({ page }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  // From the filter into the table, and along a row.
  await press('/');
  await expect(page.getByLabel('Filter lines')).toBeFocused();
  await page.keyboard.type('phone, work');
  await expect(page.locator('tr.line')).toHaveCount(1);
  await press('Tab', 'Tab', 'Tab', 'Tab', 'Tab', 'Tab');
  await page.keyboard.press('Escape');
  await page.getByLabel('Filter lines').fill('');
  await page.getByRole('button', { name: /^Label of Phone, work/ }).focus();
  await press('ArrowRight');
  await expect(wording(page, 'Phone, work')).toBeFocused();
  await press('ArrowRight');
  const tick = page.getByLabel('Phone, work on page');
  await expect(tick).toBeFocused();
  await press('Space');
  await expect(tick).not.toBeChecked();
  await press('Space');
  await press('ArrowLeft', 'ArrowLeft', 'Enter');
  await page.keyboard.type('Planning desk');
  await expect(specimen(page).getByText('Planning desk')).toBeVisible();
  await press('Enter');
  await expect(page.getByRole('button', { name: /^Label of Planning desk/ })).toBeFocused();
  // Moved up by one, put nowhere, its settings opened and closed.
  const before = await page.locator('tr.line th.label').allInnerTexts();
  await press('ArrowLeft', 'Alt+ArrowUp');
  const moved = await page.locator('tr.line th.label').allInnerTexts();
  expect(moved.indexOf('Planning desk')).toBe(before.indexOf('Planning desk') - 1);
  await expect(page.getByRole('button', { name: /Move Planning desk/ })).toBeFocused();
  await press('Alt+Digit0');
  await expect(page.getByLabel('Planning desk on page')).not.toBeChecked();
  await press('ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'Enter');
  await expect(page.getByRole('group', { name: 'More about Planning desk' })).toBeVisible();
  await press('Tab', 'Escape');
  await saved(page);

  await page.reload();
  await expect(page.getByText('Proven.')).toBeVisible();
  await press('Control+z');
  await expect(page.getByLabel('Planning desk on page')).toBeChecked();
  await press('Control+z', 'Control+z');
  await expect(page.getByLabel('Phone, work on page')).toBeChecked();
  await press('Control+Shift+z', 'Control+Shift+z', 'Control+Shift+z');
  await expect(page.getByLabel('Planning desk on page')).not.toBeChecked();
  await saved(page);
});

test('what was typed survives a lost connection, a reload and a closed lid', async ({ page, context }) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  await context.setOffline(true);
  await wording(page, 'Job title').click();
  await page.getByLabel('Wording of Job title').fill('Surveyor of lines and towers');
  await page.keyboard.press('Enter');
  await expect(page.getByText('No connection.')).toBeVisible();
  // A cell still open, its text not kept yet.
  await page.getByRole('button', { name: /^Label of Firm/ }).click();
  await page.getByLabel('Label of Firm').fill('House');
  await page.waitForTimeout(400);
  await context.setOffline(false);
  await page.reload();
  await expect(page.getByText('Proven.')).toBeVisible();
  // Leaving the page kept the text, or left the cell open with it.
  const left = page.locator('input.cell-field');
  if (await left.count()) await left.press('Enter');
  await expect(wording(page, 'Job title')).toContainText('Surveyor of lines and towers');
  await saved(page);
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(wording(page, 'Job title')).toContainText('Surveyor of lines and towers');
  await expect(page.getByRole('button', { name: /^Label of House/ })).toBeVisible();
});

test('two people on one card see each other’s changes; a cell that both set asks', async ({ page, browser }) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  const theirs = await browser.newContext({ storageState: await page.context().storageState() });
  const other = await theirs.newPage();
  await other.goto(page.url());
  await expect(other.getByText('Proven.')).toBeVisible();
  await page.getByLabel('Mobile on page').check();
  await expect(other.getByLabel('Mobile on page')).toBeChecked();

  await theirs.setOffline(true);
  await other.getByLabel('Firm on page').uncheck();
  await wording(other, 'Job title').click();
  await other.getByLabel('Wording of Job title').fill('Surveyor, theirs');
  await other.keyboard.press('Enter');
  await wording(page, 'Job title').click();
  await page.getByLabel('Wording of Job title').fill('Surveyor, ours');
  await page.keyboard.press('Enter');
  await saved(page);
  await theirs.setOffline(false);
  const clash = other.getByRole('alert').filter({ hasText: 'You had “Surveyor, theirs”' });
  await expect(clash).toContainText('Somebody else has set this to “Surveyor, ours”');
  // The cell that nobody else touched went through.
  await expect(page.getByLabel('Firm on page')).not.toBeChecked();
  await clash.getByRole('button', { name: 'put mine back' }).click();
  await expect(wording(page, 'Job title')).toContainText('Surveyor, theirs');
  await theirs.close();
});

test('a part of a value goes out alone; a line of the card’s own is adopted; several cards are published at once', async ({
  page,
}) => {
  await signUp(page);
  await typePerson(page, 'Ilse Varrow', '020 7946 0182');
  const add = page.getByRole('textbox', { name: 'Add a line' });
  await add.fill('4 Lath Row, Skell Bridge, SB1 4TW, United Kingdom');
  await expect(page.getByText('reads as: address')).toBeVisible();
  await add.press('Enter');
  await expect(page.getByText('on this card only')).toBeVisible();
  // An address that nothing marks as for work waits for its tick.
  await expect(page.getByText('not marked as work', { exact: true })).toBeVisible();
  for (const on of ['page', 'contact file']) await page.getByLabel(`Address on ${on}`).check();
  await page.getByRole('button', { name: 'More about Address' }).click();
  await page.getByRole('button', { name: 'town only' }).click();
  await expect(specimen(page).locator('dd').last()).toHaveText('Skell Bridge');
  await page.getByRole('button', { name: 'More about Name' }).click();
  await page.getByRole('button', { name: 'initial and family name' }).click();
  await expect(specimen(page).locator('h1')).toHaveText('I. Varrow');
  await page.getByRole('button', { name: 'Contact file', exact: true }).click();
  await page.getByRole('button', { name: 'Source' }).click();
  const source = page.getByLabel('Source of the contact file');
  await expect(source).toContainText('N:Varrow;I.;;;');
  await expect(source).toContainText('FN:I. Varrow');
  await expect(source).not.toContainText('Lath Row');
  await page.getByRole('button', { name: 'adopt into record' }).click();
  await expect(page.getByText('Adopted into the record.')).toBeVisible();
  await expect(page.getByText('on this card only')).toHaveCount(0);
  await publish(page, 'ilse-part', 'private');
  const card = page.url();

  await page.getByRole('link', { name: 'Ilse Varrow' }).click();
  await expect(page.getByRole('button', { name: /^Address: 4 Lath Row/ })).toBeVisible();
  await page.getByRole('button', { name: 'New card' }).click();
  await page.getByRole('button', { name: 'Clients', exact: true }).click();
  await page.getByLabel('Start from').selectOption({ label: 'the card “Work”' });
  await page.getByRole('button', { name: 'Make the card' }).click();
  await page.waitForURL((url) => !url.href.includes(card) && url.href.includes('/cards/'));
  await expect(specimen(page).locator('h1')).toHaveText('I. Varrow');
  // What is private loses its ticks on a copy.
  for (const on of ['page', 'contact file']) await expect(page.getByLabel(`Address on ${on}`)).not.toBeChecked();
  await publish(page, 'ilse-part-clients');
  await page.getByRole('link', { name: 'Ilse Varrow' }).click();

  await page.getByRole('button', { name: /^Phone: \+44 20 7946 0182/ }).click();
  await page.getByRole('textbox', { name: 'Phone', exact: true }).fill('020 7946 0183');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 published cards do not show the latest changes of this record.')).toBeVisible();
  await page.getByRole('button', { name: 'See what changes' }).click();
  await expect(page.getByRole('dialog').getByText('has changed')).toHaveCount(2);
  await page.getByRole('button', { name: 'Publish on these 2 cards' }).click();
  await expect(page.getByText('Published on 2 cards.')).toBeVisible();
  for (const address of ['ilse-part', 'ilse-part-clients']) {
    const served = await (await page.request.get(`/c/${address}`)).text();
    expect(served).toContain('+44 20 7946 0183');
    expect(served).not.toContain('Lath Row');
  }
});

test('a preview is not counted; a resting card shows a note and a colleague’s card', async ({ page, browser }) => {
  await signUp(page);
  await typePerson(page, 'Corin Hathersage', '020 7946 0199');
  await page.getByRole('button', { name: 'Preview on my phone' }).click();
  const link = await page.getByRole('dialog').getByRole('link').getAttribute('href');
  await page.keyboard.press('Escape');
  const phone = await browser.newPage();
  const shown = await phone.goto(link!);
  expect([shown!.headers()['heathland-event'], shown!.headers()['x-robots-tag']]).toEqual(['none', 'noindex']);
  await expect(phone.getByRole('heading', { name: 'Corin Hathersage' })).toBeVisible();
  await publish(page, 'corin-out');
  const corin = page.url();
  await page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'New person' }).click();
  await typePerson(page, 'Ilse Varrow', '020 7946 0182');
  await publish(page, 'ilse-in');
  await page.goto(corin);
  await page.getByRole('button', { name: 'Rest or retire' }).click();
  await page.getByLabel(/^Resting/).check();
  await page.getByLabel('Note to the recipient').fill('On leave until the first of May.');
  await page.getByLabel('Card shown instead').fill('varrow');
  await page.getByRole('button', { name: 'Ilse Varrow · Work' }).click();
  await page.getByRole('button', { name: 'Set the state' }).click();
  await expect(page.getByText('Resting, recipients see a note')).toBeVisible();
  const rested = await phone.goto('/c/corin-out');
  expect(rested!.status()).toBe(410);
  await expect(phone.getByText('On leave until the first of May.')).toBeVisible();
  await phone.getByRole('link', { name: 'Ilse Varrow' }).click();
  await expect(phone.getByRole('link', { name: 'Save contact' })).toBeVisible();
});

test('a photo is cropped, a HEIC gets a sentence that helps, a drawn logo reaches page and contact file', async ({
  page,
}) => {
  await signUp(page);
  await typePerson(page, 'Ilse Varrow', '020 7946 0182');
  await page.getByRole('link', { name: 'Ilse Varrow' }).click();
  const heic = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypheic0000mif1heic'), Buffer.alloc(400)]);
  await page.getByLabel('Photo file').setInputFiles({ name: 'a.heic', mimeType: 'image/heic', buffer: heic });
  await expect(page.getByRole('alert').filter({ hasText: 'Choose JPEG' })).toBeVisible();
  // Red on the left, blue on the right: what is cropped can be told by its colour.
  const half = { create: { width: 600, height: 900, channels: 3 as const, background: '#d00000' } };
  const blue = await sharp({ ...half, create: { ...half.create, background: '#0000d0' } })
    .png()
    .toBuffer();
  const photo = await sharp({ create: { ...half.create, width: 1200 } })
    .composite([{ input: blue, left: 600, top: 0 }])
    .png()
    .toBuffer();
  await page.getByLabel('Photo file').setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: photo });
  await expect(page.getByRole('group', { name: 'Crop the photo' })).toBeVisible();
  await page.getByLabel('Zoom').fill('3');
  const stage = page.getByRole('application');
  await stage.focus();
  for (let step = 0; step < 30; step += 1) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Too coarse for')).toBeVisible();
  await page.getByRole('button', { name: 'Use this crop' }).click();
  await expect(page.getByRole('group', { name: 'Crop the photo' })).toHaveCount(0);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const src = await page.getByRole('img', { name: 'Photo of Ilse Varrow' }).getAttribute('src');
  const { dominant } = await sharp(await (await page.request.get(src!)).body()).stats();
  expect(dominant.b).toBeGreaterThan(dominant.r);

  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="120" height="60"><circle cx="30" cy="30" r="28" fill="#176"/></svg>';
  await page
    .getByLabel('Logo file')
    .setInputFiles({ name: 'l.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await expect(page.getByRole('img', { name: 'Logo of Ilse Varrow' })).toBeVisible();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  // A draft shows what is not private by itself.
  await page.getByRole('link', { name: 'Work' }).click();
  for (const line of ['Photo', 'Logo'])
    for (const on of ['page', 'contact file']) await expect(page.getByLabel(`${line} on ${on}`)).toBeChecked();
  await publish(page, 'ilse-pictures');
  const html = await (await page.request.get('/c/ilse-pictures')).text();
  const logo = /src="(\/c\/[^"]*logo-[^"]*)"/.exec(html)![1]!;
  expect((await page.request.get(logo)).headers()['content-type']).toBe('image/png');
  const file = await (await page.request.get('/c/ilse-pictures.vcf')).text();
  expect(file).toMatch(/^LOGO;ENCODING=b;TYPE=PNG:/m);
  expect(file).toMatch(/^PHOTO;ENCODING=b;TYPE=JPEG:/m);
});

test('from the sign-in page to a published card with photo: at most 8 clicks and keys besides what is typed', async ({
  page,
}) => {
  const email = `few-${Date.now()}@heath.example`;
  await signUp(page, 'Odile Brandreth', email);
  await page.context().clearCookies();
  let acts = 0;
  const click = async (what: ReturnType<Page['locator']>) => ((acts += 1), what.click());
  const key = async (name: string) => ((acts += 1), page.keyboard.press(name));
  await page.goto('/sign-in');
  await expect(page.getByLabel('E-mail')).toBeFocused();
  await page.keyboard.type(email);
  await key('Tab');
  await page.keyboard.type('a curlew at dusk');
  await key('Enter');
  // What sign-up knew is not asked for again, and the card grows beside the form.
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Odile Brandreth');
  await expect(page.getByLabel('E-mail', { exact: true })).toHaveValue(email);
  await expect(page.getByLabel('Job title')).toBeFocused();
  await page.keyboard.type('Field recordist');
  await key('Tab');
  await page.keyboard.type('Brandreth Sound');
  await key('Tab');
  await page.keyboard.type('020 7946 0300');
  await expect(specimen(page).getByText('Field recordist')).toBeVisible();
  const chooser = page.waitForEvent('filechooser');
  await click(page.getByRole('button', { name: 'Add a photo' }));
  acts += 1; // The file is chosen in the system's own dialog.
  const photo = await sharp({ create: { width: 900, height: 900, channels: 3, background: '#456' } })
    .jpeg()
    .toBuffer();
  await (await chooser).setFiles({ name: 'me.jpg', mimeType: 'image/jpeg', buffer: photo });
  await click(page.getByRole('button', { name: 'Make and publish' }));
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Publish' })).toBeFocused();
  await key('Enter');
  await expect(page.getByText('Revision 1 is live')).toBeVisible();
  const link = await page.getByRole('dialog').getByRole('link').getAttribute('href');
  const served = await (await page.request.get(link!)).text();
  for (const text of ['photo-', 'Field recordist', 'Brandreth Sound', '+44 20 7946 0300'])
    expect(served).toContain(text);
  // The mail that nobody said is for work stays private.
  expect(served).not.toContain(email);
  console.log(`      ${acts} clicks and keys`);
  expect(acts).toBeLessThanOrEqual(8);
});

test('a pasted signature fills the form: several values on a line, each where it belongs', async ({ page }) => {
  await signUp(page, 'Ilse Varrow');
  const signature =
    'Ilse Varrow\nRope inspector\nTarnhope Cableways Ltd\nT: 020 7946 0182  M: 07700 900182\nBook: calls.example/book/ilse';
  await page.getByLabel('Firm').focus();
  await page.evaluate((text) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text', text);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  }, signature);
  await expect(page.getByLabel('Job title')).toHaveValue('Rope inspector');
  await expect(page.getByLabel('Firm')).toHaveValue('Tarnhope Cableways Ltd');
  await expect(page.getByLabel('Phone', { exact: true })).toHaveValue('+442079460182');
  await expect(page.getByText('Also from the signature:')).toContainText('+44 7700 900182');
  await page.getByRole('button', { name: 'Make record and card' }).click();
  // A mobile that nothing marks as for work waits; a booking link is for recipients.
  await expect(page.getByText('a mobile not marked as work')).toBeVisible();
  await expect(page.getByLabel('Booking on page')).toBeChecked();
});
