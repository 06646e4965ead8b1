import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { importContact, publish, saved, signUp, typePerson } from '../person';

const accessible = async (page: Page) => expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
const hold = async (page: Page) => {
  const button = page.getByRole('button', { name: 'Hold the tag to it' });
  await expect(button).toBeEnabled();
  await button.click();
};

test('what is private and public is seen by kind and place, taken off in one act after a look at what changes, and undone', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const card = page.url();
  await page.goto('/privacy');
  await expect(page.getByText('Nothing private is public.')).toBeVisible();
  await accessible(page);
  await page.goto(card);
  for (const on of ['Page', 'Contact file']) await page.getByLabel(`Birthday on ${on.toLowerCase()}`).check();
  await saved(page);
  await publish(page, `map-${Date.now()}`, 'private');

  await page.goto('/people');
  await page.getByRole('link', { name: 'Private and public' }).click();
  await expect(page.getByText('1 of 1 person has something private in public.')).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: '1 person: Birthday, page' }).click();
  await expect(page.getByText('1 person, birthday, page')).toBeVisible();
  await expect(page.getByText('page and contact file')).toBeVisible();
  await page.getByRole('checkbox', { name: /^Choose/ }).check();
  await page.getByRole('button', { name: 'Take it off their cards' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('1 card is published anew')).toBeVisible();
  await accessible(page);
  await dialog.getByRole('button', { name: 'Publish 1 card without it' }).click();
  await expect(page.getByText('What could be mended is mended.')).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: 'To the privacy map' }).click();
  await expect(page.getByText('Nothing private is public.')).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Undo all of it' }).click();
  await expect(page.getByText('The cards and records say again what they said before.')).toBeVisible();
  await page.goto('/people');
  await page
    .getByRole('link', { name: /Müller-Lind/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'What is public' }).click();
  await expect(page.getByText('1979-02-28')).toBeVisible();
  await accessible(page);
});

test('tags of several people are written one after the other, a reload loses nothing; the list goes out; one that is lost rests in two taps; a blank one is given by number', async ({
  page,
}) => {
  await signUp(page);
  for (const [at, name] of ['Anneli Brockbank', 'Corin Hathersage', 'Ilse Varrow'].entries()) {
    if (at > 0) {
      await page.goto('/people');
      await page.getByRole('button', { name: 'New person' }).click();
    }
    await typePerson(page, name, '020 7946 0182');
    await publish(page, `tags-${at}-${Date.now()}`);
  }
  await page.goto('/people');
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await page.getByRole('button', { name: 'Tags …' }).click();
  await page.getByLabel('Where they are').fill('Name badges');
  await accessible(page);
  await page.getByRole('button', { name: 'Make them' }).click();
  await expect(page.getByText('0 of 3 tags are written.')).toBeVisible();
  await accessible(page);
  const now = page.getByRole('heading', { level: 2 });
  await expect(now).toHaveText('Anneli Brockbank');
  await page.getByRole('button', { name: 'Write the tag' }).click();
  await hold(page);
  await hold(page);
  await expect(page.getByText('✓ Anneli Brockbank is written.')).toBeVisible();
  await expect(now).toHaveText('Corin Hathersage');
  await page.reload();
  await expect(page.getByText('1 of 3 tags are written.')).toBeVisible();
  await expect(now).toHaveText('Corin Hathersage');
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'CSV', exact: true }).click(),
  ]);
  expect(readFileSync(await table.path(), 'utf8').split('\r\n')).toHaveLength(5);
  await page.getByRole('button', { name: 'Lost: the tag of Anneli Brockbank' }).click();
  await page.getByRole('button', { name: 'Let it rest now' }).click();
  await expect(page.getByRole('button', { name: 'Bring back the tag of Anneli Brockbank' })).toBeVisible();
  await page.getByRole('button', { name: 'All 2 came back written' }).click();
  await page.getByRole('button', { name: 'Note it for all of them' }).click();
  await expect(page.getByText('All 3 tags are written.')).toBeVisible();

  await page.goto('/company/codes');
  await page.getByLabel('How many').fill('2');
  await page.getByLabel('What they are for').fill('Key rings');
  await page.getByLabel('As what').selectOption('Blank tags');
  await page.getByRole('button', { name: 'Make them' }).click();
  await expect(page.getByText('2 wait for a card')).toBeVisible();
  await page.getByLabel('Number or code').fill('2');
  await page.getByLabel('To whom').fill('ilse');
  await page.getByRole('button', { name: 'Ilse Varrow' }).click();
  await page.getByRole('button', { name: 'Give it' }).click();
  await expect(page.getByText('✓ 2 opens the card of Ilse Varrow now.')).toBeVisible();
  await expect(page.getByText('One waits for a card')).toBeVisible();
  await accessible(page);
});
