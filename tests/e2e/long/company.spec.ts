import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { confirmAddress, mailTo } from '../mails';
import { importContact, publish, signUp } from '../person';
import { ORIGIN } from '../ports';

const accessible = async (page: Page) => expect(await violationsOf(page, [...BY_DAY, 'best-practice'])).toEqual([]);
const finished = (page: Page, said: string | RegExp) => expect(page.getByText(said)).toBeVisible({ timeout: 30_000 });

/** Chooses everybody in the list of people. */
async function chooseAll(page: Page): Promise<void> {
  await page.goto('/people');
  await page.locator('.people input[type=checkbox]').first().check();
  await expect(page.getByRole('region', { name: '1 person chosen' })).toBeVisible();
}

test('an office moves by one edit and its people’s cards with it; one thing changes for those chosen, looked at before and undone; their files come in one ZIP', async ({
  page,
  request,
}) => {
  test.setTimeout(150_000);
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const address = `company-${Date.now()}`;
  await publish(page, address);
  const shown = async () => (await request.get(`${ORIGIN}/c/${address}`)).text();

  await page.goto('/company/offices');
  await expect(page.getByText('There are no offices yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Add an office' }).click();
  await page.getByLabel('Name of the office').fill('Brackwater');
  await page.getByLabel('Street').fill('17 Pylon Row');
  await page.getByLabel('Town').fill('Brackwater');
  await page.getByLabel('Switchboard', { exact: true }).fill('not a number');
  await page.getByRole('button', { name: 'Save and put in force' }).click();
  // What cannot be read is told beside its field, and nothing that was typed is lost.
  await expect(page.getByLabel('Switchboard', { exact: true })).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Switchboard', { exact: true }).fill('01632 960300');
  await accessible(page);
  await page.getByRole('button', { name: 'Save and put in force' }).click();
  await expect(page.getByText('+44 1632 960300')).toBeVisible();
  await chooseAll(page);
  await page.getByLabel('To an office …').selectOption({ label: 'Brackwater' });
  await expect.poll(shown).toContain('17 Pylon Row');
  await page.goto('/company/offices');
  await page.getByRole('button', { name: 'Change Brackwater' }).click();
  await page.getByLabel('Street').fill('3 Mill Lane');
  await page.getByRole('button', { name: 'Save and put in force' }).click();
  await expect(page.getByText('In force on 1 card.')).toBeVisible();
  await finished(page, '1 card was proven.');
  await accessible(page);
  expect(await shown()).toContain('3 Mill Lane');

  await chooseAll(page);
  await page.getByRole('button', { name: 'Change one thing' }).click();
  await page.getByLabel('What changes').selectOption('title');
  await page.getByLabel('The new title').fill('Rope splicer');
  await page.getByRole('button', { name: 'See what changes' }).click();
  await expect(page.getByText('1 person changes:')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Change and publish for 1 person' }).click();
  await finished(page, '1 person was changed.');
  expect(await shown()).toContain('Rope splicer');
  await page.getByRole('button', { name: 'Undo all of it' }).click();
  await finished(page, 'People and cards say again what they said before.');
  expect(await shown()).not.toContain('Rope splicer');

  await chooseAll(page);
  await page.getByRole('button', { name: 'All their files' }).click();
  await page.getByLabel('Names of the files').fill('{salary}');
  await expect(page.getByText('“{salary}” is nothing that a file name can be made of.')).toBeVisible();
  await page.getByLabel('Names of the files').fill('{office}/{family}');
  await expect(page.getByText('For example Skell/Varrow.vcf')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Make the ZIP' }).click();
  const file = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download card-of-1-person.zip' }).click({ timeout: 30_000 });
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-company-'));
  await (await file).saveAs(path.join(folder, 'made.zip'));
  const names = execFileSync('unzip', ['-Z1', path.join(folder, 'made.zip')], { encoding: 'utf8' });
  rmSync(folder, { recursive: true });
  expect(names).toMatch(/^Brackwater\/\S+\.vcf$/m);
  expect(names).toContain('manifest.json');
});

test('somebody invited comes by their mail without a password, sees their own card with its code, and comes back by a code that is mailed', async ({
  page,
  browser,
}) => {
  const owner = `owner-${Date.now()}@heath.example`;
  const holder = `holder-${Date.now()}@heath.example`;
  await signUp(page, 'Maud Aldercott', owner);
  await confirmAddress(page, owner);
  const made = await page.request.post(`${ORIGIN}/api/records`, {
    headers: { Origin: ORIGIN },
    data: { name: 'Ilse Varrow', phone: '020 7946 0182', email: holder, forWork: { phone: true, email: true } },
  });
  const { cardId } = (await made.json()) as { cardId: string };
  await page.goto(`/cards/${cardId}`);
  await publish(page, `invited-${Date.now()}`);
  await chooseAll(page);
  await page.getByRole('button', { name: 'Invite' }).click();
  await accessible(page);
  await page.getByRole('button', { name: 'Send the invitation' }).click();
  await finished(page, '1 person was invited.');
  await page.goto('/company/members');
  await expect(page.getByText(/^invited \d+ \w+$/)).toBeVisible();

  const link = /http\S+\/welcome\/\S+/.exec((await mailTo(holder, /: your digital business card$/)).text)![0];
  const own = await browser.newContext();
  const phone = await own.newPage();
  await phone.setViewportSize({ width: 390, height: 844 });
  await phone.goto(`${ORIGIN}${new URL(link).pathname}`);
  await expect(phone.getByText('Ilse Varrow, your card is ready.')).toBeVisible();
  await accessible(phone);
  await phone.getByRole('button', { name: 'See my card' }).click();
  await expect(phone.locator('.mine-code svg')).toBeVisible();
  await expect(phone.getByText('A photo of you')).toBeVisible();
  await accessible(phone);
  // The link worked once.
  await phone.goto(`${ORIGIN}${new URL(link).pathname}`);
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText(/link/i);
  await phone.context().clearCookies();
  await phone.goto(`${ORIGIN}/sign-in`);
  await phone.getByLabel('E-mail').fill(holder);
  await phone.getByRole('button', { name: 'Send me a code by mail instead' }).click();
  const { subject } = await mailTo(holder, / is your code$/);
  await phone.getByLabel('Code from the mail').fill(subject.slice(0, 6));
  await phone.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(phone.locator('.mine-code svg')).toBeVisible();
  await own.close();
  await page.reload();
  await expect(page.getByText(/^invited \d+ \w+$/)).toBeHidden();
});
