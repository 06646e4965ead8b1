import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, signUp } from '../person';

const hold = (page: Page) => page.getByRole('button', { name: 'Hold the tag to it' }).click();
const accessible = async (page: Page) => expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);

test('a number that changes: told beside the field which copies carry the old one, published, found, worked off; a tag is written anew', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const card = page.url();
  await publish(page, `copies-${Date.now()}`);
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  await page.getByRole('button', { name: 'New tag' }).click();
  await page.getByLabel('Carry the contact itself').check();
  await page.getByLabel('Where will it be?').fill('Helmet desk');
  await page.getByRole('button', { name: 'Make the tag' }).click();

  // A tag that is torn away, then a whole one: written, read back and compared.
  await expect(page.getByText('Ready to be written.')).toBeVisible();
  await accessible(page);
  await page.getByLabel('The tag on the bench').selectOption('torn away in the middle');
  await page.getByRole('button', { name: 'Write the tag' }).click();
  await hold(page);
  await expect(page.getByText(/The tag was not written: it went away too soon/)).toBeVisible();
  await page.getByLabel('The tag on the bench').selectOption('empty, as large as needed');
  await page.getByRole('button', { name: 'Write it once more' }).click();
  await hold(page);
  await expect(page.getByText(/hold it to the phone once more, to read it back/)).toBeVisible();
  await hold(page);
  await expect(page.getByText('Written and read back: it says just what it should.')).toBeVisible();

  // While the number is typed, and once it is published.
  await page.goto(card);
  await page.getByRole('heading', { level: 1 }).getByRole('link').click();
  await expect(page.getByText('Record: the source of every card')).toBeVisible();
  await page.getByRole('button', { name: 'Phone, work: +44 20 7946 0123' }).click();
  await page.getByRole('textbox', { name: 'Phone, work' }).fill('020 7946 0155');
  await expect(page.getByText('Will carry the old one: 1 tag (Helmet desk).')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Another one is out: 1 tag \(Helmet desk\)\./)).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'See what changes' }).click();
  await page.getByRole('button', { name: 'Publish on this card' }).click();
  await expect(page.getByText(/Published on/)).toBeVisible();

  await page.goto('/people');
  await page.getByRole('link', { name: '1 out-of-date copy' }).first().click();
  await expect(page.getByText('1 copy says what is no longer true.')).toBeVisible();
  await expect(page.getByText('now +44 20 7946 0155')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: /^Done: Helmet desk/ }).click();
  await expect(page.getByText('Every copy out there says what its card says today.')).toBeVisible();
  await page.getByRole('button', { name: /^Not yet done: Helmet desk/ }).click();
  await page.getByRole('searchbox', { name: 'Where is this?' }).fill('(020) 7946-0123');
  await page.getByRole('button', { name: 'Where is this?' }).click();
  await expect(page.getByText('1 entry carries “(020) 7946-0123”.')).toBeVisible();

  await page.getByRole('link', { name: 'Write it anew' }).click();
  await page.getByRole('button', { name: 'Carry today’s card' }).click();
  await expect(page.getByText(/TEL;TYPE=VOICE,WORK:\+442079460155/)).toBeVisible();
  await page.getByLabel('Lock it after writing').check();
  await expect(page.getByRole('button', { name: 'Write the tag' })).toBeDisabled();
  await page.getByLabel('Yes, lock it for ever').check();
  await page.getByRole('button', { name: 'Write the tag' }).click();
  for (let tap = 0; tap < 3; tap += 1) {
    await expect(page.getByRole('button', { name: 'Hold the tag to it' })).toBeEnabled();
    await hold(page);
  }
  await expect(page.getByText('It is locked: nothing can be written on it any more.')).toBeVisible();
  await page.goto('/copies');
  await expect(page.getByText('Every copy out there says what its card says today.')).toBeVisible();
});
