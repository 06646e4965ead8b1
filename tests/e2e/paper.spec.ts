import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { BY_DAY, violationsOf } from './accessible';
import { importContact, publish, saved, signUp } from './person';

test('a printed card: laid out, told what is too small, mended, noted and downloaded; what the draft says otherwise is asked about', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'goes-to-print');
  const card = page.url().split('?')[0]!;
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('button', { name: 'Paper', exact: true }).click();
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
