import { expect, test } from '@playwright/test';
import { publish, signUp, typePerson } from '../person';

test('a card, a person and an organisation are deleted, say what stops first, and come back', async ({
  page,
  browser,
}) => {
  await signUp(page, 'Odile Brandreth');
  await typePerson(page, 'Ilse Varrow', '020 7946 0182');
  await publish(page, 'ilse-deleted');
  const phone = await browser.newPage();
  const status = async () => (await phone.goto('/c/ilse-deleted'))!.status();
  expect(await status()).toBe(200);

  await page.getByRole('button', { name: 'Delete card' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('/c/ilse-deleted')).toBeVisible();
  await expect(dialog.getByText('answer with a note')).toBeVisible();
  await dialog.getByRole('button', { name: 'Delete' }).click();
  await page.waitForURL('**/people/deleted');
  expect(await status()).toBe(410);
  await expect(phone.getByRole('heading', { name: 'This card was taken away' })).toBeVisible();
  await page.getByRole('button', { name: /^Bring back Ilse Varrow/ }).click();
  await expect(page.getByText('Ilse Varrow is back.')).toBeVisible();
  expect(await status()).toBe(200);

  await page.goto('/people');
  await page.getByRole('link', { name: 'Ilse Varrow' }).first().click();
  await page.getByRole('button', { name: 'Delete person' }).click();
  await dialog.getByRole('button', { name: 'Delete' }).click();
  await page.waitForURL('**/people/deleted');
  await page.goto('/people');
  await expect(page.getByRole('link', { name: 'Deleted (1)' })).toBeVisible();
  await expect(page.getByText('Ilse Varrow')).toHaveCount(0);
  await page.getByRole('link', { name: 'Deleted (1)' }).click();
  await page.getByRole('button', { name: 'Bring back Ilse Varrow' }).click();
  await expect(page.getByText('Ilse Varrow is back.')).toBeVisible();
  expect(await status()).toBe(200);

  await page.goto('/account');
  await page.getByRole('button', { name: 'Delete your account' }).click();
  await dialog.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('heading', { name: 'Odile Brandreth is deleted' })).toBeVisible();
  expect(await status()).toBe(410);
  await page.goto('/people');
  await page.waitForURL('**/account');
  await page.getByRole('button', { name: 'Bring everything back' }).click();
  await page.waitForURL('**/people');
  expect(await status()).toBe(200);
});

test('whoever works alone has an account and no roles; what they link to stands below their pages', async ({
  page,
}) => {
  await signUp(page, 'Odile Brandreth');
  await typePerson(page, 'Odile Brandreth', '020 7946 0182');
  await publish(page, 'odile-links');
  await page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: 'Account' }).click();
  await page.waitForURL('**/company/settings');
  await expect(page.getByRole('link', { name: 'Members' })).toHaveCount(0);
  await page.getByLabel('Imprint').fill('javascript:alert(1)');
  await page.getByLabel('Privacy notice').fill('brandreth.example/privacy');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByLabel('Imprint')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Imprint').fill('');
  await page.getByLabel('Name of your account').fill('Odile Brandreth, harp');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Pages show it from now on.')).toBeVisible();
  await page.goto('/c/odile-links');
  await expect(page.getByRole('contentinfo').getByRole('link')).toHaveText(['Pass on', 'Privacy']);
  await expect(page.getByRole('link', { name: 'Privacy' })).toHaveAttribute(
    'href',
    'https://brandreth.example/privacy',
  );
});
