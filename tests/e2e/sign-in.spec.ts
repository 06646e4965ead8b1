import { expect, test } from '@playwright/test';
import { asOwner } from '../../commands/cluster/databases';
import { codeOf } from '../fixtures/totp';
import { APPLICATION, DATABASE } from './ports';

const ADDRESS = `http://127.0.0.1:${APPLICATION}`;
const database = new URL(process.env.TEST_DATABASE_SERVER!);
database.pathname = `/${DATABASE}`;
const PASSWORD = 'kestrels over a cold lake';

test('an account without script: the form is filled in already, says what is wrong, and lets in', async ({
  browser,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false, locale: 'de-CH' });
  const page = await context.newPage();
  const email = `no-script-${Date.now()}@heath.example`;
  await page.goto('/sign-up');
  expect(await page.getByLabel('Time zone').inputValue()).toBe('Europe/Zurich');
  expect(await page.getByLabel('Country').inputValue()).toBe('CH');
  const fill = async (password: string) => {
    await page.getByLabel('Your name').fill('Ilse Varrow');
    await page.getByLabel('E-mail').fill(email);
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Make the account' }).click();
  };
  await fill('short');
  await expect(page.getByText('Use at least 10 characters.')).toBeVisible();
  await fill(PASSWORD);
  await expect(page).toHaveURL(/\/people$/);
  await context.clearCookies();
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(/\/people$/);
});

test('a second factor is set up and asked for; sessions are ended; what does harm asks for the password once more', async ({
  page,
  browser,
}) => {
  const email = `factor-${Date.now()}@heath.example`;
  await page.goto('/sign-up');
  await page.getByLabel('Your name').fill('Ilse Varrow');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('password12345');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('stands on lists of stolen ones')).toBeVisible();
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();

  await page.goto('/account');
  await page.getByRole('button', { name: 'Set up a second factor' }).click();
  await expect(page.getByRole('img', { name: 'Code of the key' })).toBeVisible();
  const secret = (await page.locator('code').innerText()).replace(/\s/g, '');
  await page.getByLabel('Code of the app').fill(codeOf(secret, Date.now()));
  await page.getByRole('button', { name: 'Turn it on' }).click();
  await expect(page.getByText('Keep these recovery codes')).toBeVisible();
  const recovery = await page.locator('.recovery li').first().innerText();
  await page.getByRole('button', { name: 'I have kept them' }).click();
  await expect(page.getByText('10 recovery codes are left')).toBeVisible();

  const other = await (await browser.newContext()).newPage();
  await other.goto('/sign-in');
  await other.getByLabel('E-mail').fill(email);
  await other.getByLabel('Password').fill(PASSWORD);
  await other.getByRole('button', { name: 'Sign in' }).click();
  await other.getByLabel('Code of your authenticator app').fill('000000');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other.getByText('This code is not right')).toBeVisible();
  await other.getByLabel('Code of your authenticator app').fill(recovery);
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other).toHaveURL(/\/people$/);

  await page.reload();
  await page.getByRole('button', { name: /^End this one/ }).click();
  await expect(page.getByRole('button', { name: /^End this one/ })).toBeHidden();
  await other.goto('/people');
  await expect(other).toHaveURL(/\/sign-in$/);

  // The password was typed long ago: the change waits for it, and goes on by itself.
  await asOwner(database.href, (client) =>
    client.query(
      `UPDATE sessions SET confirmed_at = now() - interval '1 hour' WHERE user_id = (SELECT id FROM users WHERE email = $1)`,
      [email],
    ),
  );
  await page.goto('/company/members');
  await page.getByLabel('Everybody needs a second factor').click();
  await page.getByRole('dialog').getByLabel('Password').fill('not this one');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText('This is not your present password.')).toBeVisible();
  await page.getByRole('dialog').getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByLabel('Everybody needs a second factor')).toBeChecked();
  expect((await page.request.get(`${ADDRESS}/api/confirm`)).status()).toBe(200);
});
