import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { importContact, publish, saved, signUp } from '../person';

const specimen = (page: Page) => page.frameLocator('iframe');
const FILM = 'tests/fixtures/ropeway.webm';
const CAPTIONS = Buffer.from('WEBVTT\n\n00:00.000 --> 00:04.000\nUp we go\n');
const picture = (colour: string, width = 1_200) =>
  sharp({ create: { width, height: 800, channels: 3, background: colour } })
    .jpeg()
    .toBuffer();
const vtt = (buffer: Buffer) => ({ name: 'words.vtt', mimeType: 'text/vtt', buffer });

async function add(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a block' }).click();
  await page.getByRole('button', { name: new RegExp(`^${kind}`) }).click();
  await expect(page.getByRole('group', { name: `Settings of ${kind}` })).toBeVisible();
}

test('blocks are added, filled, moved by keyboard, switched off and undone, and survive a reload; recipients see them', async ({
  page,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await add(page, 'About');
  await page.getByLabel('Words', { exact: true }).fill('Ropes that hold');
  await expect(specimen(page).getByText('Ropes that hold')).toBeVisible();

  await add(page, 'Gallery');
  for (const [at, colour] of ['#A8431F', '#4B6B3C', '#6B3F6E'].entries()) {
    await page.getByRole('button', { name: 'Add an entry' }).click();
    const entry = page.getByRole('listitem', { name: `Entry ${at + 1}` });
    const file = { name: 'a.jpg', mimeType: 'image/jpeg', buffer: await picture(colour) };
    await entry.locator('input[type=file]').setInputFiles(file);
    await entry.getByLabel('Title').fill(`Picture ${at + 1}`);
    await entry.getByLabel('What the picture shows').fill(`Colour ${at + 1}`);
  }
  // A link without its scheme gets https; what is none is told beside it.
  const first = page.getByRole('listitem', { name: 'Entry 1' });
  await first.getByLabel('Link').fill('tarnhope.example/line');
  await first.getByLabel('Link').blur();
  await expect(specimen(page).locator('a[href="https://tarnhope.example/line"]')).toBeVisible();
  await first.getByLabel('Link').fill('javascript:alert(1)');
  await expect(first.getByText('A link begins with https')).toBeVisible();
  await first.getByLabel('Link').fill('https://tarnhope.example/line');
  await expect(specimen(page).getByAltText('Colour 3')).toBeVisible();

  await add(page, 'Video');
  await page.getByRole('button', { name: 'Add a video' }).click();
  const video = page.getByRole('listitem', { name: 'Entry 1' });
  const film = video.getByLabel('Choose an MP4 or WebM');
  await film.setInputFiles({ name: 'a.mp4', mimeType: 'video/mp4', buffer: Buffer.from('no film at all '.repeat(40)) });
  await expect(video.getByText('This is no film that browsers play')).toBeVisible();
  await film.setInputFiles({ name: 'long.mp4', mimeType: 'video/mp4', buffer: Buffer.alloc(41_000_000) });
  await expect(video.getByText('larger than 40 MB')).toBeVisible();
  await film.setInputFiles(FILM);
  await expect(video.getByText('12 s, 640 × 360, 0.1 MB')).toBeVisible();
  const words = video.getByLabel('Choose captions (.vtt)');
  await words.setInputFiles(vtt(Buffer.from('1\n00:00:01,000 --> 00:00:02,000\nUp')));
  await expect(video.getByText('stop being WebVTT at line 1')).toBeVisible();
  await words.setInputFiles(vtt(CAPTIONS));
  await expect(video.getByLabel('Language of the captions')).toBeVisible();
  await page.getByRole('button', { name: 'Add a video' }).click();
  await page
    .getByRole('listitem', { name: 'Entry 2' })
    .getByLabel('or the link of a player')
    .fill('http://player.example/7');
  await expect(page.getByText('A player’s link begins with https')).toBeVisible();
  await page
    .getByRole('listitem', { name: 'Entry 2' })
    .getByLabel('or the link of a player')
    .fill('player.example/embed/7');
  await expect(specimen(page).getByText('Play at player.example')).toBeVisible();

  // Moved and switched by keyboard; the specimen follows.
  const order = () => specimen(page).locator('section .h').allInnerTexts();
  await expect.poll(order).toEqual(['About', 'Pictures', 'Video']);
  await page.getByRole('checkbox', { name: 'Show Video' }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(order).toEqual(['About', 'Video', 'Pictures']);
  await page.getByRole('checkbox', { name: 'Show About' }).focus();
  await page.keyboard.press('Space');
  await expect.poll(order).toEqual(['Video', 'Pictures']);
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(['About', 'Video', 'Pictures']);
  await page.getByRole('button', { name: 'A block', exact: true }).click();
  await page.getByLabel('Which block').selectOption({ label: 'Video' });
  await saved(page);
  await page.reload();
  await expect(page.getByText('Proven.')).toBeVisible();
  await expect.poll(order).toEqual(['Video', 'About', 'Pictures']);
  await publish(page, 'blocks-by-hand');

  // Without script: the gallery scrolls by the keyboard, the player is a link that opens by itself.
  const plain = await (
    await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } })
  ).newPage();
  await plain.goto('/c/blocks-by-hand');
  const gallery = plain.getByRole('list', { name: 'Pictures' });
  await gallery.focus();
  await plain.keyboard.press('ArrowRight');
  await plain.keyboard.press('ArrowRight');
  await expect(plain.getByAltText('Colour 2')).toBeInViewport({ ratio: 0.5 });
  await expect(plain.getByRole('link', { name: /Play at player.example/ })).toHaveAttribute('target', '_blank');

  // With it: nothing of the other host before the recipient asks, then its player in place; the film plays with its captions.
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const asked: string[] = [];
  await phone.route('https://player.example/**', (route) => {
    asked.push(route.request().url());
    return route.fulfill({ contentType: 'text/html', body: '<p>The player</p>' });
  });
  await phone.goto('/c/blocks-by-hand');
  const shown = phone.locator('video');
  await shown.evaluate((element: HTMLVideoElement) => ((element.muted = true), element.play()));
  await expect.poll(() => shown.evaluate((element: HTMLVideoElement) => element.currentTime)).toBeGreaterThan(0.2);
  const cues = () => shown.evaluate((element: HTMLVideoElement) => element.textTracks[0]!.cues?.length ?? 0);
  await expect.poll(cues).toBe(1);
  expect(asked).toEqual([]);
  await phone.getByRole('link', { name: /Play at player.example/ }).click();
  await expect(phone.frameLocator('iframe').getByText('The player')).toBeVisible();
  expect(asked).toEqual(['https://player.example/embed/7']);
});

test('revisions side by side, one restored and undone; the card in two languages; planned for another day', async ({
  page,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'two-revisions');
  await page.getByRole('button', { name: /^Label of Phone, work/ }).click();
  await page.keyboard.type('Planning desk');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByLabel('Note for the list of revisions').fill('A name for the desk');
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('button', { name: 'Back to the table' }).click();
  await page.getByRole('button', { name: 'Revisions' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('A name for the desk')).toBeVisible();
  await expect(dialog.getByText('They say the same.')).toBeVisible();
  await dialog.getByLabel('Was').selectOption('Revision 1');
  // Another label alone is what differs.
  await expect(dialog.getByRole('rowheader', { name: 'Planning desk (differs)' })).toBeVisible();
  await expect(dialog.getByRole('row').filter({ hasText: '(differs)' })).toHaveCount(1);
  await dialog.getByLabel('Only what differs').uncheck();
  await expect(dialog.getByRole('rowheader', { name: 'Planning desk' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Restore' }).last().click();
  await expect(dialog.getByText('says again what revision 1 said')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^Label of Phone, work/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^Label of Planning desk/ })).toBeVisible();

  const language = page.getByRole('combobox', { name: 'Add a language' });
  await language.fill('Deutch');
  await language.press('Enter');
  await expect(page.getByText('No language is called that.')).toBeVisible();
  await language.fill('German');
  await language.press('Enter');
  await page.getByLabel('Planning desk in Deutsch').fill('Planung');
  await page.locator('.specimen').getByRole('button', { name: 'Deutsch' }).click();
  await expect(specimen(page).getByText('Planung', { exact: true })).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('button', { name: 'Back to the table' }).click();
  const german = await (await browser.newContext({ locale: 'de-AT' })).newPage();
  await german.goto('/c/two-revisions');
  await expect(german.getByText('Planung', { exact: true })).toBeVisible();
  await german.getByRole('link', { name: 'English' }).click();
  await expect(german.getByText('Planning desk', { exact: true })).toBeVisible();

  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByText('Schedule').click();
  await page.getByLabel('Publish at').fill('2020-01-01T09:00');
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('This time has passed')).toBeVisible();
  await page.getByLabel('Publish at').fill('2099-01-01T09:00');
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText(/Goes out 01 Jan 2099/)).toBeVisible();
});
