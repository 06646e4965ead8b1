import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, BY_NIGHT, violationsOf } from '../accessible';
import { TWO } from '../contacts';
import { importContact, publish, signUp } from '../person';

/** The walk is made at 200 % zoom, which halves the CSS pixels that a window of 1280 by 800 has; each screen is looked at in both. */
const ZOOMED = { width: 640, height: 400 };
const WHOLE = { width: 1280, height: 800 };

/** No violations, by day in the whole window and by night, where colours alone are others, at 200 % zoom. */
async function accessible(page: Page, name: string) {
  // The title of the next page is set a moment after its content.
  await expect(page).toHaveTitle(/./);
  await page.setViewportSize(WHOLE);
  const day = await violationsOf(page, [...BY_DAY, 'best-practice']);
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.setViewportSize(ZOOMED);
  const night = await violationsOf(page, BY_NIGHT);
  await page.emulateMedia({ colorScheme: 'light' });
  expect([...day, ...night.map((violation) => `by night, ${violation}`)].map((each) => `${name}: ${each}`)).toEqual([]);
}

/** Chooses the channel of the specimen: by its column's head, or where a phone has no room for heads by its word; asks for its column first where it is away. */
async function look(page: Page, channel: string) {
  const away = page.getByRole('button', { name: `Add ${channel.toLowerCase()} column` });
  if (await away.isVisible()) await away.click();
  const words = page.getByRole('group', { name: 'Channels', exact: true });
  const heads = page.getByRole('columnheader');
  await ((await words.isVisible()) ? words : heads).getByRole('button', { name: channel }).click();
}

const PHOTO = 'docs/screenshots/code.png';
const SIGNATURE = 'Corin Hathersage\nLead rope inspector\nTarnhope Cableways Ltd\nT: 020 7946 0199\nMon-Fri 8-16:30';

test('every screen is accessible, by day and by night', async ({ browser }) => {
  test.setTimeout(300_000);
  // Far from the zone of the server: what a screen says must not depend on where it is read.
  const away = { timezoneId: 'Pacific/Apia', locale: 'fr-FR' };
  const page = await (await browser.newContext({ viewport: ZOOMED, ...away })).newPage();
  // Where the browser draws something else than the server did, React says so.
  const faults: string[] = [];
  page.on('pageerror', ({ message }) => faults.push(`${page.url()}: ${message}`));
  await page.goto('/sign-in');
  await accessible(page, 'sign in');
  await page.goto('/sign-up');
  await accessible(page, 'sign up');
  for (const path of ['/forgotten', '/confirm/x', '/move/x', '/new-password/x']) {
    await page.goto(path);
    await accessible(page, path);
  }
  await signUp(page);
  await accessible(page, 'nobody yet');
  await importContact(page, 'phone-export-3.vcf');
  await accessible(page, 'lines');
  await look(page, 'Contact file');
  await expect(page.getByRole('button', { name: 'Source' })).toBeVisible();
  await accessible(page, 'contact file');
  await page.getByRole('button', { name: 'More about Phone, work' }).click();
  await page.getByRole('textbox', { name: 'Add a line' }).fill('020 7946 0200');
  await accessible(page, 'settings of a line');
  await page.getByRole('button', { name: 'Preview on my phone' }).click();
  await expect(page.getByRole('img', { name: 'Code of the private preview' })).toBeVisible();
  await accessible(page, 'preview');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByText('Schedule').click();
  await accessible(page, 'publish');
  await page.keyboard.press('Escape');
  for (const kind of ['Action bar', 'About', 'Gallery', 'Video', 'Hours', 'Credentials and marks', 'Offices']) {
    await page.getByRole('button', { name: 'Add a block' }).click();
    if (kind === 'Action bar') await accessible(page, 'kinds of blocks');
    await page.getByRole('button', { name: new RegExp(`^${kind}`) }).click();
    const settings = page.getByRole('group', { name: `Settings of ${kind}` });
    await expect(settings).toBeVisible();
    if (kind === 'About') await settings.getByLabel('Words').fill('Ropes that hold');
    if (kind === 'Gallery' || kind === 'Video') {
      await settings.getByRole('button', { name: /^Add/ }).click();
      await settings.getByLabel('Title').fill('Up');
    }
    if (kind === 'Gallery') await settings.locator('input[type=file]').setInputFiles(PHOTO);
    if (kind === 'Video') await settings.getByLabel('or the link of a player').fill('player.example/7');
    await accessible(page, `block ${kind}`);
  }
  await page.getByRole('button', { name: 'A picture of the card' }).click();
  await accessible(page, 'what opens first');
  await page.getByRole('button', { name: 'The page', exact: true }).click();
  await page.getByRole('combobox', { name: 'Add a language' }).fill('العربية');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/العربية: 0 of/)).toBeVisible();
  await accessible(page, 'words in another language');
  const address = 'axe-card';
  await publish(page, address);
  await look(page, 'Code');
  await expect(page.getByText('sizes of this code')).toBeVisible();
  await accessible(page, 'code on the table');
  await page.getByRole('button', { name: 'Rest or retire' }).click();
  await page.getByLabel(/^Resting/).check();
  await accessible(page, 'state');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Revisions' }).click();
  await page.getByLabel('Only what differs').uncheck();
  await expect(page.getByRole('region', { name: 'Comparison' }).getByRole('rowheader', { name: 'Name' })).toBeVisible();
  await accessible(page, 'revisions');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  await expect(page.getByText(/pairs of colours read/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Gradient' }).click();
  await accessible(page, 'look');
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  await expect(page.getByText('Code on screen')).toBeVisible();
  await accessible(page, 'hand-outs');
  const card = page.url().replace('/hand-outs', '');
  await page.getByRole('button', { name: 'Show code' }).click();
  await expect(page.getByRole('dialog').getByRole('img')).toBeVisible();
  await accessible(page, 'code held up');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'New code' }).click();
  await page.getByLabel('Carry the contact itself').check();
  await accessible(page, 'new code');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Code on screen' }).click();
  await expect(page.getByText(/pictures were read by both readers/)).toBeVisible({ timeout: 20_000 });
  await accessible(page, 'code');
  await page.goto(`${card}/hand-outs`);
  await page
    .getByRole('button', { name: /^Change / })
    .first()
    .click();
  await page.getByLabel(/^It rests/).check();
  await accessible(page, 'a hand-out changed');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Mail signature', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Copy formatted' })).toBeVisible();
  await page.getByText('What was measured').click();
  await accessible(page, 'signature');
  await page.goto(`${card}/hand-outs`);
  for (const act of ['Share', 'Send the card', 'Use a code made in advance']) {
    await page.getByRole('button', { name: act, exact: true }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    if (act === 'Share') await expect(page.getByText('Its link, counted apart')).toBeVisible();
    await accessible(page, act);
    await page.keyboard.press('Escape');
  }
  await page.getByRole('button', { name: 'Profile page' }).click();
  await page.getByLabel('Which page it is').fill('A list');
  await page.getByRole('button', { name: 'Make its kit' }).click();
  await expect(page.getByText('What that page sees')).toBeVisible();
  await accessible(page, 'profile page');
  await page.goto('/refer');
  await page.getByLabel('What you know of them').fill('Dell Hythe\nRope splicer\nMobile: 07700 900211');
  await accessible(page, 'refer somebody');
  await page.getByRole('button', { name: 'Note them' }).click();
  await page.getByRole('checkbox', { name: /Mobile/ }).check();
  await page.getByRole('button', { name: 'Make a link' }).first().click();
  await page.getByRole('button', { name: 'Make a link' }).last().click();
  await expect(page.getByText('Passed on so far')).toBeVisible();
  await accessible(page, 'whom somebody refers');
  await page.goto('/company/house-style');
  await page.getByLabel('Say something of mail signatures').check();
  await page.getByRole('button', { name: 'Add a notice' }).click();
  await accessible(page, 'signatures of a house');
  await page.goto('/hand-over');
  await accessible(page, 'hand over');
  await page.goto(`${card}/response`);
  await accessible(page, 'response of a card');
  for (const path of ['/people', '/response']) {
    await page.goto(path);
    await accessible(page, path);
  }
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('link', { name: /Müller-Lind/ }).click();
  await expect(page.getByText('Add a detail')).toBeVisible();
  await accessible(page, 'record');
  for (const detail of ['Phone, work', 'Photo', 'Name']) {
    await page.getByRole('button', { name: `More about ${detail}`, exact: true }).click();
    await accessible(page, `record, ${detail}`);
  }
  await page.getByRole('textbox', { name: 'Value' }).fill(SIGNATURE);
  await page.getByRole('button', { name: 'Split into details' }).click();
  await accessible(page, 'signature taken apart');
  await page.getByRole('button', { name: 'Add 4 details' }).click();
  await page.getByRole('button', { name: 'More about Hours' }).click();
  await accessible(page, 'record, hours');
  await page.getByRole('button', { name: 'New card' }).click();
  await accessible(page, 'new card');
  await page.keyboard.press('Escape');
  await page.goto('/people');
  await page
    .getByRole('checkbox', { name: /^Choose/ })
    .first()
    .check();
  await expect(page.getByText('1 person chosen')).toBeVisible();
  await accessible(page, 'people chosen');
  await page.getByRole('button', { name: 'New person' }).click();
  await page.getByLabel('Contact file').setInputFiles({ name: 'two.vcf', mimeType: 'text/vcard', buffer: TWO });
  await expect(page.getByRole('button', { name: 'Import 2 contacts' })).toBeVisible();
  await accessible(page, 'contacts to take in');
  for (const path of [
    '/company/members',
    '/company/settings',
    '/people/deleted',
    '/company/house-style',
    '/company/audiences',
    '/company/addresses',
    '/company/codes',
    '/company/storage',
    '/account',
    '/tray',
    '/company/audit',
    '/company/jobs',
    '/password',
  ]) {
    await page.goto(path);
    await accessible(page, path);
  }
  await page.goto('/company/members');
  await page.getByRole('button', { name: 'Add a member' }).click();
  await accessible(page, 'new member');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /Go to/ }).fill('müller');
  await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toContainText('Müller-Lind');
  await accessible(page, 'go to');
  await page.keyboard.press('Escape');
  expect(faults).toEqual([]);
  await page.goto(`/c/${address}`);
  await accessible(page, 'page');
  const arabic = await (await browser.newContext({ locale: 'ar-EG' })).newPage();
  await arabic.goto(`/c/${address}`);
  await expect(arabic.locator('html')).toHaveAttribute('dir', 'rtl');
  await accessible(arabic, 'page in Arabic');
});
