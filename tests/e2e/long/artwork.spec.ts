import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { shopPdf } from '../../fixtures/print-shop';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, signUp } from '../person';

const DESIGN = shopPdf([
  { width: 91, height: 61, trim: [3, 3, 85, 55], content: '0.8 0.4 0.5 0.3 k 0 0 500 500 re f' },
  { width: 91, height: 61, trim: [3, 3, 85, 55], content: '0 0 0.1 0 k 0 0 500 500 re f' },
]);

test('a print shop’s own design: given, the code put on it by mouse and keys, a line placed, taken back, downloaded; a designer fetches the parts', async ({
  page,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, `shop-${Date.now()}`);
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  await page.getByRole('button', { name: 'Paper, backdrop, pass' }).click();
  await page.getByLabel('Where it will be').fill('Card of the shop');
  await page.getByRole('button', { name: 'Lay it out' }).click();
  await page.getByLabel('your own design').check();
  const give = (name: string, buffer: Buffer) =>
    page.getByLabel(/^(Choose the|Another) front$/).setInputFiles({ name, mimeType: 'application/pdf', buffer });
  await give('letter.pdf', Buffer.from('Dear print shop'));
  await expect(page.getByText('This is no PDF, PNG or JPEG that can be read.')).toBeVisible();
  await give('design.pdf', DESIGN);
  const code = page.getByRole('button', { name: /^The code, / });
  await expect(code).toHaveAccessibleName('The code, 56 mm from the left, 26 mm from the top');
  await expect(page.getByText('Ready for print.')).toBeVisible();

  // By keys a millimetre at a time; by mouse onto the middle, which is near.
  await code.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowUp');
  const kept = page.waitForResponse((answer) => answer.request().method() === 'PUT' && answer.ok());
  await page.keyboard.press('ArrowUp');
  await kept;
  await expect(code).toHaveAccessibleName('The code, 55 mm from the left, 24 mm from the top');
  const box = (await code.boundingBox())!;
  const mm = box.width / 25;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 24.6 * mm, y - 8.6 * mm, { steps: 5 });
  await page.mouse.up();
  await expect(code).toHaveAccessibleName('The code, 30 mm from the left, 15 mm from the top');
  await expect(page.getByLabel('From the left, mm')).toHaveValue('30');
  await page.getByLabel('From the left, mm').fill('0');
  await page.getByLabel('From the left, mm').press('Enter');
  await expect(page.getByText(/The code comes within .* of the cut/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Download PDF' })).toBeDisabled();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Ready for print.')).toBeVisible();

  // White on dark ink, black on pale: the first colour is the one that reads.
  await page.getByLabel('Place a line').selectOption('name');
  await expect(page.getByLabel('Colour')).toHaveValue('#ffffff');
  await expect(page.getByText('Ready for print.')).toBeVisible();
  await page.getByText('What was measured', { exact: true }).click();
  expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
  await page.getByRole('button', { name: 'Download PDF' }).click();
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Only download' }).click();
  expect(readFileSync((await (await coming).path())!).toString('latin1', 0, 8)).toBe('%PDF-1.6');

  await page.getByRole('button', { name: 'Make a link' }).click();
  const url = await page.getByText(/\/package\//).innerText();
  const designer = await (await browser.newContext()).newPage();
  await designer.goto(url);
  await expect(designer.getByText('Card of the shop')).toBeVisible();
  expect(await violationsOf(designer, [...BY_DAY, 'best-practice'])).toEqual([]);
  const fetched = designer.waitForEvent('download');
  await designer.getByRole('link', { name: 'Download the package' }).click();
  expect((await fetched).suggestedFilename()).toMatch(/-for-print\.zip$/);
  await page.getByRole('button', { name: /^End the link/ }).click();
  await expect(page.getByRole('button', { name: /^End the link/ })).toBeHidden();
  await designer.goto(url);
  await expect(designer.getByText('Whoever sent it can make a new one.')).toBeVisible();
});
