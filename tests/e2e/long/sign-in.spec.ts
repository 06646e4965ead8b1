import { expect, test } from '@playwright/test';
import { asOwner } from '../../../commands/cluster/databases';
import { codeOf } from '../../fixtures/totp';
import { mailTo, type Mail } from '../mails';
import { signUp } from '../person';
import { APPLICATION, DATABASE } from '../ports';

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

const linkIn = ({ text }: Mail): string => /http:\/\/\S+\/(confirm|new-password|move)\/\S+/.exec(text)![0];

test('the walk of a new account: confirmed by the mail that arrives, its password mended by mail, moved to another address by both', async ({
  page,
  browser,
}) => {
  const email = `walk-${Date.now()}@heath.example`;
  await signUp(page, 'Ilse Varrow', email);
  await expect(page.getByText(`Confirm that ${email} is yours`)).toBeVisible();
  await page.goto(linkIn(await mailTo(email, 'Confirm your address')));
  await page.getByRole('button', { name: 'Yes, it is mine' }).click();
  await expect(page.getByRole('heading', { name: 'Your address is confirmed' })).toBeVisible();
  await page.getByRole('link', { name: 'To the studio' }).click();
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();
  await expect(page.getByText(`Confirm that ${email} is yours`)).toBeHidden();
  // What the tray shows runs nothing and fetches nothing.
  await page.getByRole('link', { name: 'Mail tray' }).click();
  await expect(page.getByRole('article', { name: 'Confirm your address' })).toBeVisible();
  await expect(page.frameLocator('iframe').getByText('Confirm this address')).toBeVisible();
  expect(await page.locator('iframe').getAttribute('sandbox')).toBe('');
  await page.getByRole('button', { name: 'Headers' }).click();
  await expect(page.getByText(/@heath\.example>$/).first()).toBeVisible();

  const elsewhere = await (await browser.newContext()).newPage();
  await elsewhere.goto('/sign-in');
  await elsewhere.getByRole('link', { name: 'Forgotten it?' }).click();
  await expect(elsewhere.getByRole('heading', { name: 'Choose a new password' })).toBeVisible();
  await elsewhere.getByRole('button', { name: 'Send me a link' }).click();
  await expect(elsewhere.getByText('This is not an e-mail address.')).toBeVisible();
  await elsewhere.getByLabel('E-mail').fill(email);
  await elsewhere.getByRole('button', { name: 'Send me a link' }).click();
  await expect(elsewhere.getByText('a mail with a link is on its way')).toBeVisible();
  const link = linkIn(await mailTo(email, 'Choose a new password'));
  await elsewhere.goto(link);
  await elsewhere.getByLabel('New password').fill('short');
  await elsewhere.getByRole('button', { name: 'Keep it' }).click();
  await expect(elsewhere.getByText('Use at least 10 characters.')).toBeVisible();
  await elsewhere.getByLabel('New password').fill('a heron in a wet field');
  await elsewhere.getByRole('button', { name: 'Keep it' }).click();
  await expect(elsewhere.getByText('all sessions have ended')).toBeVisible();
  await elsewhere.goto(link);
  await expect(elsewhere.getByRole('heading', { name: 'This link leads nowhere any more' })).toBeVisible();
  await page.goto('/people');
  await expect(page).toHaveURL(/\/sign-in$/);

  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('a heron in a wet field');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();
  await page.goto('/account');
  const next = `next-${email}`;
  await page.getByLabel('Move to another address').fill(next);
  await page.getByRole('button', { name: 'Ask both addresses' }).click();
  await expect(page.getByText('Two mails are on their way')).toBeVisible();
  for (const [address, subject, told] of [
    [next, 'Move an account to this address?', 'once the other address has agreed'],
    [email, 'Move your account to another address?', 'The account has moved'],
  ] as const) {
    await elsewhere.goto(linkIn(await mailTo(address, subject)));
    await elsewhere.getByRole('button', { name: 'Agree' }).click();
    await expect(elsewhere.getByText(told)).toBeVisible();
  }
  await page.reload();
  await expect(page.getByText(next)).toBeVisible();
});
