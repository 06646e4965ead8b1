import { expect, test } from '@playwright/test';
import { CONTROL } from './ports';
import { importContact, publish, saved, signUp } from './person';

test('files that cannot come in are told beside the drop, and nothing is made', async ({ page }) => {
  await signUp(page);
  const drop = page.getByLabel('Contact file');
  const alert = page.locator('.problem');
  const give = (content: string | Buffer) =>
    drop.setInputFiles({ name: 'x.vcf', mimeType: 'text/vcard', buffer: Buffer.from(content) });
  await give('<html>no contact</html>');
  await expect(alert).toContainText('not a contact file');
  await give('BEGIN:VCARD\nVERSION:3.0\nFN:Half a Person\nTEL:02');
  await expect(alert).toContainText('breaks off after line 4');
  await give(Buffer.alloc(30_000_000, 'A'));
  await expect(alert).toContainText('larger than 12 MB');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();
});

test('the server itself refuses 30 MB, another site’s posts and a stranger', async ({ page, request }) => {
  await signUp(page);
  const large = await page.evaluate(async () => {
    const answer = await fetch('/api/records/import', { method: 'POST', body: new Blob([new Uint8Array(30_000_000)]) });
    return [answer.status, await answer.json()];
  });
  expect(large).toEqual([413, { problem: { code: 'FILE_TOO_LARGE', limitBytes: 12_000_000 } }]);
  for (const headers of [
    { Origin: 'https://evil.example' },
    { 'Sec-Fetch-Site': 'cross-site', Origin: 'http://127.0.0.1:4690' },
    {} as Record<string, string>,
  ]) {
    const answer = await page.request.post('/api/records', { headers, data: { name: 'Forged', phone: '', email: '' } });
    expect(answer.status()).toBe(403);
  }
  const stranger = await request.post('/api/records', {
    headers: { Origin: 'http://127.0.0.1:4690' },
    data: { name: 'x', phone: '', email: '' },
  });
  expect(stranger.status()).toBe(401);
});

test('markup, script addresses and direction overrides stay words', async ({ page, browser }) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  const title = page.getByRole('button', { name: /Wording of Job title/ });
  await expect(title).toHaveText('Surveyor of lines');
  await title.click();
  await page.getByLabel('Wording of Job title').fill('<script>document.title="run"</script>\u202Eabc');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Wording of Web, work/ }).click();
  await page.getByLabel('Wording of Web, work').fill('javascript:alert(1)');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'can run a program' })).toBeVisible();
  await page.keyboard.press('Escape');
  await saved(page);
  await publish(page, 'ines-hostile');
  const phone = await browser.newPage();
  await phone.goto('/c/ines-hostile');
  await expect(phone.locator('header p')).toContainText('<script>document.title="run"</script>abc');
  await expect(phone).toHaveTitle('Inês van der Vael');
  expect(await phone.locator('a[href^="javascript:"]').count()).toBe(0);
  await page.getByRole('link', { name: 'Inês van der Vael' }).click();
  await expect(page.getByText('URL:javascript:alert(1)')).toBeVisible();
});

test('short addresses that are taken, reserved or foreign are told beside the field', async ({ page }) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  await publish(page, 'ines-taken');
  await page.goto('/people');
  await page.getByRole('button', { name: 'New person' }).click();
  await page.getByLabel('Contact file').setInputFiles('tests/fixtures/contacts/phone-export-3.vcf');
  await page.waitForURL('**/cards/*');
  await page.getByRole('button', { name: 'Publish' }).click();
  const field = page.getByLabel('Short address');
  await expect(field).toHaveValue('dr-jorg-aksel-muller-lind');
  for (const [typed, said] of [
    ['ines-taken', 'is taken'],
    ['admin', 'is reserved'],
    ['inеs', 'not one of the letters a to z'],
    ['a b', 'letters a to z'],
  ] as const) {
    await field.fill(typed);
    await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
    await expect(page.getByRole('dialog').getByRole('alert')).toContainText(said);
  }
});

test('two windows editing one card: the later one is told and keeps its edit', async ({ page, context }) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  const other = await context.newPage();
  await other.goto(page.url());
  await page.getByLabel('Mobile on page').check();
  await saved(page);
  await other.getByLabel('Firm on page').uncheck();
  await expect(other.getByText('changed in another window')).toBeVisible();
  await expect(other.getByLabel('Firm on page')).not.toBeChecked();
  await page.reload();
  await expect(page.getByLabel('Firm on page')).toBeChecked();
  await other.getByRole('button', { name: 'Put mine over it' }).click();
  await saved(other);
  await page.reload();
  await expect(page.getByLabel('Firm on page')).not.toBeChecked();
});

test('the database stops while people work: edits wait, pages say so, all recovers without a restart', async ({
  page,
  request,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  await publish(page, 'ines-away');
  const recipient = await browser.newPage();
  await recipient.goto('/c/ines-away');
  const control = (word: string) => request.get(`http://127.0.0.1:${CONTROL}/${word}`);
  await control('shut');
  try {
    await page.getByLabel('Firm on page').uncheck();
    await expect(page.getByText('The database does not answer. What you typed stays here')).toBeVisible({
      timeout: 15_000,
    });
    expect([(await request.get('/readyz')).status(), (await request.get('/healthz')).status()]).toEqual([503, 200]);
    const shown = await recipient.reload();
    expect([shown!.status(), shown!.headers()['heathland-event']]).toEqual([200, 'not-recorded']);
    const list = await browser.newPage({ storageState: await page.context().storageState() });
    await list.goto('/people');
    await expect(list.getByText('The database does not answer just now')).toBeVisible();
    await control('open');
    await expect(list.getByRole('heading', { name: 'People' })).toBeVisible({ timeout: 20_000 });
  } finally {
    await control('open').catch(() => undefined);
  }
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Firm on page')).not.toBeChecked();
});
