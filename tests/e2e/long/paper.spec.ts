import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, saved, signUp } from '../person';

test('a printed card: laid out, told what is too small, mended, noted and downloaded; what the draft says otherwise is asked about', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'goes-to-print');
  const card = page.url().split('?')[0]!;
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('button', { name: 'Paper, backdrop, pass' }).click();
  await page.getByLabel('Where it will be').fill('Card from the depot');
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await expect(page.getByText('Ready for print.')).toBeVisible();
  await expect(page.getByRole('img', { name: 'The front as it is printed, with its bleed' })).toBeVisible();
  await page.getByText('What was measured').click();
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);

  // Six millimetres are no code that print holds: it is said first, and nothing goes out.
  await page.getByLabel('Width of the code, mm').fill('6');
  await page.getByLabel('Width of the code, mm').press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'Make it larger' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Download PDF' })).toBeDisabled();
  await page.getByLabel('Width of the code, mm').fill('');
  await page.getByLabel('Width of the code, mm').press('Enter');
  await expect(page.getByText('Ready for print.')).toBeVisible();
  await page.getByLabel('Size').selectOption('3.5x2in');
  await expect(page.getByText('88.9 × 50.8 mm', { exact: true }).first()).toBeVisible();

  await page.getByRole('button', { name: 'Download PDF' }).click();
  await page.getByLabel('Copies').fill('120');
  await page.getByLabel('Where', { exact: true }).fill('Print shop in Skell Bridge');
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Note it' }).click();
  const made = await coming;
  expect(made.suggestedFilename()).toMatch(/-3\.5x2in\.pdf$/);
  expect(
    readFileSync((await made.path())!)
      .subarray(0, 8)
      .toString(),
  ).toBe('%PDF-1.6');
  await expect(page.getByText('120 of revision 1')).toBeVisible();
  await page.getByRole('button', { name: /^Correct the note of/ }).click();
  await page.getByLabel('Copies').fill('130');
  await page.getByRole('button', { name: 'Correct it' }).click();
  await expect(page.getByText('130 of revision 1')).toBeVisible();

  await page.goto(card);
  await page.getByRole('columnheader').getByRole('button', { name: 'Paper' }).click();
  await expect(page.getByRole('img', { name: 'The front of a printed card, as it is saved' })).toBeVisible();
  await page
    .getByRole('checkbox', { name: /on paper$/ })
    .nth(1)
    .click();
  await expect(page.getByText(/unpublished change/)).toBeVisible();
  await saved(page);
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('link', { name: 'Open paper' }).click();
  await expect(page.getByText(/says something else on paper by now/)).toBeVisible();
  await page.getByRole('button', { name: 'Download PDF' }).click();
  await expect(page.getByRole('dialog', { name: 'Print the older words all the same?' })).toBeVisible();
});

test('a backdrop for calls and a pass for the phone: made, looked at, downloaded; their columns come with them', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'goes-to-calls');
  const card = page.url().split('?')[0]!;
  const make = async (kind: RegExp, where: string) => {
    await page.goto(`${card}/hand-outs`);
    await page.getByRole('button', { name: 'Paper, backdrop, pass' }).click();
    await page.getByLabel(kind).check();
    await page.getByLabel('Where it will be').fill(where);
    await page.getByRole('button', { name: 'Lay it out' }).click();
  };
  const fileOf = async (link: string) => {
    const coming = page.waitForEvent('download');
    await page.getByRole('link', { name: link }).click();
    const made = await coming;
    return { name: made.suggestedFilename(), bytes: readFileSync((await made.path())!) };
  };
  await make(/^A backdrop/, 'Calls');
  await expect(page.getByText('Ready for your next call.')).toBeVisible();
  await page.getByText('What was measured').click();
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
  await page.getByLabel('Code, as others see it').selectOption('left');
  await page.getByLabel('Size of the code').selectOption('large');
  await expect(page.getByText('drawing …')).toBeHidden();
  const backdrop = await fileOf('Download picture');
  // The signature of PNG (W3C PNG, 5.2).
  expect([backdrop.name.endsWith('-backdrop.png'), backdrop.bytes.toString('latin1', 1, 4)]).toEqual([true, 'PNG']);

  await make(/^A pass/, 'My phone');
  await expect(page.getByText('Ready for your phone.')).toBeVisible();
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
  const pass = await fileOf('Download pass');
  // A ZIP begins so (PKWARE's application note, 4.3.7).
  expect([pass.name.endsWith('.pkpass'), pass.bytes.toString('latin1', 0, 2)]).toEqual([true, 'PK']);

  await page.goto(card);
  for (const [column, word] of [
    ['Backdrop', 'Behind you'],
    ['Pass', 'Front'],
  ] as const) {
    await page.getByRole('columnheader').getByRole('button', { name: column }).click();
    await expect(page.getByRole('complementary').getByText(word)).toBeVisible();
    await expect(page.getByText(/Proven\./)).toBeVisible();
  }
});

test('the cards of chosen people in one file: asked for in the list, followed, taken from the job’s page', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'goes-together');
  await page.goto('/people');
  await page.getByRole('checkbox', { name: /^Choose / }).check();
  await page.getByRole('button', { name: 'Print cards or codes' }).click();
  await page.getByLabel('Where it will be').fill('Cards, autumn');
  await page.getByLabel('On paper').selectOption('a4');
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
  await page.getByRole('button', { name: 'Make the file' }).click();
  await expect(page.getByRole('heading', { name: 'Prints cards of several people into one file' })).toBeVisible();
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download Cards, autumn.pdf' }).click();
  const made = await coming;
  expect([made.suggestedFilename(), readFileSync((await made.path())!).toString('latin1', 0, 8)]).toEqual([
    'Cards, autumn.pdf',
    '%PDF-1.6',
  ]);
});
