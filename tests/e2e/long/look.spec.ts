import { expect, test } from '@playwright/test';
import { importContact, publish, saved, signUp } from '../person';

test('a card is dressed: layout, colours that fail and their proposal, undo, a look saved, published', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  const specimen = page.frameLocator('iframe');
  await page.getByRole('button', { name: /^Cairn/ }).click();
  await expect(specimen.locator('main > .photo.fills, main > .name.band').first()).toBeVisible();
  // A pale ink is measured at once, and the nearest that reads is one click away.
  const ink = page.getByRole('textbox', { name: 'Ink on it, as a value' });
  await ink.fill('#BBBBBB');
  await ink.press('Enter');
  await expect(page.getByText(/pairs? of colours do(es)? not read/)).toBeVisible();
  await page.getByRole('button', { name: 'Change the ink so that it reads' }).click();
  await expect(page.getByText(/^All \d+ pairs of colours read/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/pairs? of colours do(es)? not read/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(ink).toHaveValue('#1E2B28');
  await page.getByLabel('Name of the look').fill('Portrait');
  await page.getByRole('button', { name: 'Save this look' }).click();
  await expect(page.getByRole('button', { name: 'Use Portrait' })).toBeVisible();
  await saved(page);
  // What print and previews get is drawn by the server, and says what had no room.
  await page.getByLabel('What is shown').selectOption('Link preview');
  await expect(page.getByRole('img', { name: 'Link preview' })).toBeVisible();
  await expect(page.getByText('Everything has its room.')).toBeVisible();
  await publish(page, 'dressed-card');
  await page.goto('/c/dressed-card');
  await expect(page.locator('main > .name.band h1')).toBeVisible();
});

test('with nothing but the page itself, as after one round trip, the name stands in the house’s type over a face of the size of its box', async ({
  page,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'one-round-trip');
  // Whoever asks first may get it without its first screen.
  await expect.poll(async () => (await page.request.get('/c/one-round-trip')).text()).toContain('font/woff2;base64');
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
  const alone = await context.newPage();
  const complaints: string[] = [];
  alone.on('console', (message) => {
    if (/decode|OTS|Content Security/.test(message.text())) complaints.push(message.text());
  });
  await alone.route('**/*', (route) =>
    route.request().resourceType() === 'document' ? route.continue() : route.abort(),
  );
  await alone.goto('/c/one-round-trip');
  await alone.evaluate(() => document.fonts.ready);
  expect(complaints).toEqual([]);
  const seen = await alone.evaluate(async () => {
    const face = document.querySelector('.u-photo')!;
    const preview = new Image();
    preview.src = /url\("(data:[^"]+)"\)/.exec(getComputedStyle(face).backgroundImage)![1]!;
    await preview.decode();
    // Whether the name is set in it, and not whether it was loaded: the phone's own type is of another width.
    const [name, words] = [document.querySelector('h1')!, document.createRange()];
    words.selectNodeContents(name);
    const set = words.getBoundingClientRect().width;
    const [family, ...others] = getComputedStyle(name).fontFamily.split(', ');
    name.style.fontFamily = others.join();
    const plain = words.getBoundingClientRect().width;
    return {
      family,
      differs: Math.abs(set - plain) > 1,
      missing: face.getBoundingClientRect().width - preview.naturalWidth,
    };
  });
  expect(seen).toMatchObject({ family: 'T', differs: true });
  expect(seen.missing).toBeLessThanOrEqual(0);
  await context.close();
});

test('a card that was looked at once is there without a network, its contact file too', async ({ page, context }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'kept-offline');
  await page.goto('/c/kept-offline');
  const name = await page.locator('h1').innerText();
  // The worker keeps its copy while it installs.
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await context.setOffline(true);
  await page.goto('/c/kept-offline');
  await expect(page.locator('h1')).toHaveText(name);
  const file = await page.evaluate(async () => (await fetch('/c/kept-offline.vcf')).text());
  expect(file).toContain('BEGIN:VCARD');
  await context.setOffline(false);
});

test('the house style is previewed, saved and locked; a card shows the reason, and whoever may overrides it', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'in-livery');
  const look = `${page.url().split('?')[0]}/look`;
  await page.goto('/company/house-style');
  await page.getByRole('button', { name: 'Tarn', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Lock Colours' }).check();
  await page.getByRole('textbox', { name: 'Reason for the lock on Colours' }).fill('Livery of the cabins');
  await page.getByLabel('Label').fill('Notice');
  await page.getByLabel('Value', { exact: true }).fill('Registered in Skell Bridge');
  await page.getByLabel('Kind', { exact: true }).selectOption('Words');
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page.getByRole('button', { name: 'See what it changes' }).click();
  await expect(page.getByText('1 card of 1 that are published would change.')).toBeVisible();
  await page.getByRole('button', { name: 'Save for every card' }).click();
  await expect(page.getByText('Version 1 is saved; 1 card shows it.')).toBeVisible();
  await page.goto('/c/in-livery');
  await expect(page.getByText('Registered in Skell Bridge')).toBeVisible();
  await page.goto(look);
  await expect(page.getByText('Kept by the house style: Livery of the cabins')).toBeVisible();
  const ling = page.getByRole('button', { name: 'Ling', exact: true });
  await expect(ling).toBeDisabled();
  await page.getByRole('button', { name: 'Give this card its own' }).click();
  await ling.click();
  await saved(page);
  await page.goto('/company/audit');
  await expect(page.getByRole('cell', { name: 'overrode the house style on a card' })).toBeVisible();
});
