import sharp from 'sharp';
import { expect, test, type Page } from '@playwright/test';
import { zipOf } from '../../fixtures/worst-sheets';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, signUp } from '../person';

const accessible = async (page: Page) => expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);

const AUTUMN = [
  'Liste vom 1.11.;;;;;;;',
  'Personal-Nr.;Nachname;Vorname;Funktion;Telefon;Handy;E-Mail;Gehalt',
  '0141;Weiß;Uta;Seilmeisterin;020 7946 0141;07700 900141;uta.weiss@tarnhope.example;61.200',
  '0142;Brandt;Keld;Prüfer;4,42E+11;;keld.brandt@tarnhope.example;58.000',
  '0143;Ros;Ilse;Ärztin;020 7946 0143;;ilse.ros@tarnhope.example;70.100',
].join('\r\n');
const sheet = (text: string) => ({ name: 'staff.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
const finished = (page: Page, said: string | RegExp) => expect(page.getByText(said)).toBeVisible({ timeout: 30_000 });

test('a personnel system’s export as it is becomes cards: mapped, mended in the review, pictures from a ZIP, published; the next sheet changes what it says; all undone', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, `pattern-${Date.now()}`);
  await page.goto('/people');
  await page.getByRole('link', { name: 'From a sheet of staff' }).click();
  await expect(page.getByText('Each sheet that you bring is a run')).toBeVisible();
  await accessible(page);
  await page.getByLabel('Make cards like').fill('Müller');
  await page.locator('.picker').getByRole('button').first().click();
  await page.getByLabel('Sheet of staff, XLSX or CSV').setInputFiles(sheet('Vorname;Nachname\n'));
  await expect(page.getByText('There are no rows below the headings')).toBeVisible();
  await page.getByLabel('Sheet of staff, XLSX or CSV').setInputFiles(sheet(AUTUMN));
  // Whether a mobile is for work nobody has said: it is read as the person’s own; a salary is not used.
  await expect(page.getByLabel('What Handy holds')).toHaveValue('own mobile');
  await expect(page.getByLabel('What Gehalt holds')).toHaveValue('');
  await accessible(page);
  await page.getByLabel('Keep this mapping as').fill('Payroll');
  await page.getByRole('button', { name: 'Review the sheet' }).click();
  await finished(page, '2 join. 1 row waits for you.');
  await accessible(page);
  await page.getByRole('button', { name: /Work phone of Keld Brandt/ }).click();
  await page.keyboard.type('020 7946 0142');
  await page.keyboard.press('Enter');
  await finished(page, '3 join.');

  const portrait = await sharp({ create: { width: 300, height: 500, channels: 3, background: '#884422' } })
    .jpeg()
    .toBuffer();
  const zip = zipOf([
    { name: '../../0141.jpg', bytes: portrait },
    { name: 'faces/ilse-ros.jpg', bytes: portrait },
    { name: 'faces/nobody.jpg', bytes: portrait },
    { name: 'notes.txt', bytes: Buffer.from('no picture') },
    // Small as it is packed, larger than any picture once it is not.
    { name: 'bomb.jpg', bytes: Buffer.alloc(60_000_000) },
  ]);
  const chosen = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose pictures' }).click();
  await (await chosen).setFiles({ name: 'faces.zip', mimeType: 'application/zip', buffer: zip });
  await finished(page, '2 of 3 pictures have found their person.');
  await expect(page.getByText('The file is larger than')).toBeVisible();
  await expect(page.locator('.nobodys')).toHaveText('nobody.jpg');
  const face = () =>
    page.getByRole('button', { name: 'Change what is cut from 0141.jpg' }).locator('img').getAttribute('src');
  const before = await face();
  await page.getByRole('button', { name: 'Change what is cut from 0141.jpg' }).click();
  const stage = page.getByLabel('The photo: drag it or move it with the arrow keys');
  await stage.focus();
  for (let at = 0; at < 6; at += 1) await stage.press('ArrowUp');
  await accessible(page);
  await page.getByRole('button', { name: 'Use this crop' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect.poll(face).not.toBe(before);
  await page.getByLabel('Cards', { exact: true }).selectOption('now');
  await page.getByRole('button', { name: 'Carry out for 3 people' }).click();
  await finished(page, '3 people done.');
  await accessible(page);
  await page
    .getByRole('row', { name: /Uta Weiß/ })
    .getByRole('link', { name: 'Card' })
    .click();
  await expect(page.getByText('published, revision 1')).toBeVisible();
  await expect(page.getByLabel('Mobile on page')).not.toBeChecked();

  await page.goto('/roster');
  await page
    .getByLabel('Sheet of staff, XLSX or CSV')
    .setInputFiles(sheet(AUTUMN.replace('Prüfer', 'Oberprüfer').replace('4,42E+11', '')));
  await expect(page.getByText('Mapped as “Payroll”, as you kept it.')).toBeVisible();
  await page.getByRole('button', { name: 'Review the sheet' }).click();
  await finished(page, '1 changes.');
  await expect(page.getByText('Prüfer', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Carry out for 1 person' }).click();
  await finished(page, '1 person done.');
  await page.getByRole('button', { name: 'Undo the whole run' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Undo the whole run' }).click();
  await finished(page, '1 person as before.');
  await page.goto('/people');
  await expect(page.getByText('Oberprüfer')).toBeHidden();
  await expect(page.getByText('Prüfer').first()).toBeVisible();
});
