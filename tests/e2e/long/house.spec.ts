import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, saved, signUp } from '../person';

/** Words that no compressor makes smaller: with a few thousand of them a page takes more than one round trip. */
const heavy = (block: number): string =>
  Array.from({ length: 2_000 }, (_, at) =>
    String.fromCodePoint(0x4e00 + (((at + 1) * (7_919 + 2 * block)) % 19_997)),
  ).join('');

async function saveHouse(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'See what it changes' }).click();
  await page.getByRole('button', { name: 'Save for every card' }).click();
  await expect(page.getByText(/^Version \d+ is saved/)).toBeVisible();
}

test('a house style that breaks cards says which before and after it is saved, and the list of people tells until it is mended', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'under-proof');
  await page.goto('/company/house-style');
  for (let at = 0; at < 4; at += 1) {
    await page.getByRole('button', { name: 'Add about' }).click();
    await page.locator('.house-block textarea').nth(at).fill(heavy(at));
  }
  await page.getByRole('button', { name: 'See what it changes' }).click();
  await expect(page.getByText(/1 proof would fail/)).toBeVisible();
  await expect(page.getByText('The page: weight')).toBeVisible();
  await page.getByRole('button', { name: 'Save for every card' }).click();
  const proofs = page.getByRole('region', { name: 'Proofs of published cards' });
  await expect(proofs.getByText('1 of 1 published cards fails:')).toBeVisible();
  await expect(proofs.getByText(/of the 14,600 B/)).toBeVisible();
  await page.goto('/people');
  await expect(page.getByText('proof failing')).toBeVisible();
  // The link leads to the card, whose own proof says the same.
  await page.goto('/company/house-style');
  await proofs.getByRole('link').click();
  await page.waitForURL('**/cards/*');
  await expect(page.getByText('Proof fails.')).toBeVisible();
  // The version before it is taken back.
  await page.goto('/company/house-style');
  for (let at = 3; at >= 0; at -= 1)
    await page
      .locator('.house-block')
      .nth(at)
      .getByRole('button', { name: /^Remove/ })
      .click();
  await saveHouse(page);
  await expect(proofs.getByText('The published card passes.')).toBeVisible();
  await page.goto('/people');
  await expect(page.getByText('published, revision 1')).toBeVisible();
  await expect(page.getByText('proof failing')).toBeHidden();
});

test('a new card is offered the layouts that the house style allows, each filled with the person’s own record', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await page.goto('/company/house-style');
  for (const layout of ['Bothy', 'Crag', 'Skylark'])
    await page.getByRole('checkbox', { name: layout, exact: true }).uncheck();
  await saveHouse(page);
  await page.goto('/people');
  await page.locator('.person-name a').click();
  await page.getByRole('button', { name: 'New card' }).click();
  const dialog = page.getByRole('dialog');
  const offered = dialog.getByRole('group', { name: /^Layout/ }).getByRole('button');
  await expect(offered).toHaveCount(6);
  for (const layout of ['Bothy', 'Crag', 'Skylark']) await expect(offered.filter({ hasText: layout })).toHaveCount(0);
  // Each is really drawn, and no two are the same picture.
  const drawings = await offered
    .locator('img')
    .evaluateAll((images) =>
      Promise.all(images.map(async (image) => (await fetch((image as HTMLImageElement).src)).text())),
    );
  for (const drawing of drawings) expect(drawing).toMatch(/^<svg /);
  expect(new Set(drawings).size).toBe(6);
  await offered.filter({ hasText: 'Cairn' }).click();
  await dialog.getByRole('button', { name: 'Make the card' }).click();
  await page.waitForURL('**/cards/*');
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Cairn/ })).toHaveAttribute('aria-pressed', 'true');
});

test('a ground that does not read on the house’s colours gives way and says so; the card keeps it for better colours', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'gives-way');
  const look = `${page.url().split('?')[0]}/look`;
  await page.goto('/company/house-style');
  await page.getByRole('button', { name: 'Tarn', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Lock Colours' }).check();
  await saveHouse(page);
  await page.goto(look);
  const ground = page.getByRole('region', { name: 'Ground of the band' });
  await ground.getByRole('button', { name: 'Gradient' }).click();
  await expect(ground.getByText(/would not read on this ground/)).toBeHidden();
  const to = ground.getByRole('textbox', { name: 'To, as a value' });
  await to.fill('#FFFFFF');
  await to.press('Enter');
  await expect(ground.getByText(/would not read on this ground/)).toBeVisible();
  await saved(page);
  // What goes out is proven and reads.
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByRole('dialog').getByText(/Revision 2 is live/)).toBeVisible();
  await page.goto('/c/gives-way');
  const shown = await page.locator('.ground').evaluate((element) => getComputedStyle(element).backgroundImage);
  expect(shown).not.toContain('gradient');
});

test('on paper a card is its words: no buttons, black on white, everything on the sheet', async ({ page }) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  // Light ink on dark sheets is what paper can't show.
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  await page.getByRole('button', { name: 'Peat', exact: true }).click();
  await saved(page);
  await publish(page, 'on-paper');
  await page.goto('/c/on-paper');
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('.save')).toBeHidden();
  await expect(page.locator('h1')).toBeVisible();
  const lines = await page.locator('dd').allTextContents();
  expect(lines.length).toBeGreaterThan(3);
  for (const colour of await page
    .locator('h1, dd')
    .evaluateAll((all) => all.map((each) => getComputedStyle(each).color))) {
    const [red, green, blue] = colour.match(/\d+/g)!.map(Number) as [number, number, number];
    // Dark enough for a laser printer without toner for grounds (common practice, no published source).
    expect(Math.max(red, green, blue)).toBeLessThan(110);
  }
});

test('a colour of the house gets its inks and the name of a spot colour, keeps them over a reload, and loses them again', async ({
  page,
}) => {
  await signUp(page);
  await page.goto('/company/house-style');
  const first = page.getByRole('group', { name: /^Inks of #/ }).first();
  await first.getByRole('button', { name: 'Give inks' }).click();
  await first.getByLabel('Cyan, per cent').fill('250');
  // No plate prints more than all of its ink.
  await expect(first.getByLabel('Cyan, per cent')).toHaveValue('100');
  const spot = first.getByLabel(/^Spot colour/);
  await spot.fill('Heather 26 C');
  await spot.press('End');
  await page.keyboard.type('/<');
  await expect(spot).toHaveValue('Heather 26 C');
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
  await saveHouse(page);
  await page.reload();
  await expect(first.getByLabel(/^Spot colour/)).toHaveValue('Heather 26 C');
  await first.getByRole('button', { name: 'Without' }).click();
  await expect(first.getByLabel(/^Spot colour/)).toBeHidden();
});
