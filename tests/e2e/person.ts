import { expect, type Page } from '@playwright/test';

let people = 0;

/** Makes an account through the sign-up page and stands on its empty list of people. */
export async function signUp(page: Page, name = 'Odile Brandreth', email?: string): Promise<void> {
  people += 1;
  await page.goto('/sign-up');
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('E-mail').fill(email ?? `person-${process.pid}-${Date.now()}-${people}@heath.example`);
  await page.getByLabel('Password').fill('a curlew at dusk');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();
}

/** Drops a contact file onto the empty list and stands on the card's table. */
export async function importContact(page: Page, file: string): Promise<void> {
  await page.getByLabel('Contact file').setInputFiles(`tests/fixtures/contacts/${file}`);
  await page.waitForURL('**/cards/*');
  await expect(page.getByText('Proven.')).toBeVisible();
}

/** Publishes the card on the table under an address, and confirms what is private where there is such. */
export async function publish(page: Page, address: string, what: 'public' | 'private' = 'public'): Promise<void> {
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByLabel('Short address').fill(address);
  if (what === 'private') await page.getByLabel(/Yes, th/).check();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText(/Revision \d+ is live/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the table' }).click();
}

/** Waits until every edit of the table is saved. */
export const saved = (page: Page) => expect(page.getByText(/^saved \d\d:\d\d$/)).toBeVisible();

/** Types a person into the form and stands on their first card's table. */
export async function typePerson(page: Page, name: string, phone: string): Promise<void> {
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Phone', { exact: true }).fill(phone);
  await page.getByRole('button', { name: 'Make record and card' }).click();
  await page.waitForURL('**/cards/*');
  await expect(page.getByText('Proven.')).toBeVisible();
}
