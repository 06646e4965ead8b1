import { expect, test } from '@playwright/test';
import { confirmAddress } from '../mails';
import { CONTROL, ORIGIN } from '../ports';
import { importContact, publish, saved, signUp } from '../person';

test('files that cannot come in are told beside the drop, and nothing is made', async ({ page }) => {
  await signUp(page);
  const drop = page.getByLabel('Contact file');
  const alert = page.locator('.problem');
  const give = (content: string | Buffer) =>
    drop.setInputFiles({ name: 'x.vcf', mimeType: 'text/vcard', buffer: Buffer.from(content) });
  await give('<html>no contact</html>');
  await expect(alert).toContainText('not a contact file');
  await give('BEGIN:VCARD\nVERSION:3.0\nEND:VCARD');
  await expect(alert).toContainText('no name and no details');
  await give(Buffer.alloc(30_500_000, 'A'));
  await expect(alert).toContainText('larger than 30 MB');
  // A contact that breaks off is read as far as it goes, and nothing comes in before somebody has seen it.
  await give('BEGIN:VCARD\nVERSION:3.0\nFN:Half a Person\nTEL:020 7946 0182');
  await expect(page.getByText('Line 4: the contact breaks off here')).toBeVisible();
  await page.goto('/people');
  await expect(page.getByRole('heading', { name: 'Whose card is it?' })).toBeVisible();
});

test('the server itself refuses 30 MB, another site’s posts and a stranger', async ({ page, request }) => {
  await signUp(page);
  const large = await page.evaluate(async () => {
    const answer = await fetch('/api/records/import', { method: 'POST', body: new Blob([new Uint8Array(30_500_000)]) });
    return [answer.status, await answer.json()];
  });
  expect(large).toEqual([413, { problem: { code: 'FILE_TOO_LARGE', limitBytes: 30_000_000 } }]);
  for (const headers of [
    { Origin: 'https://evil.example' },
    { 'Sec-Fetch-Site': 'cross-site', Origin: ORIGIN },
    {} as Record<string, string>,
  ]) {
    const answer = await page.request.post('/api/records', { headers, data: { name: 'Forged', phone: '', email: '' } });
    expect(answer.status()).toBe(403);
  }
  const stranger = await request.post('/api/records', {
    headers: { Origin: ORIGIN },
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
  await expect(phone.locator('.role p')).toContainText('<script>document.title="run"</script>abc');
  await expect(phone).toHaveTitle('Inês van der Vael');
  expect(await phone.locator('a[href^="javascript:"]').count()).toBe(0);
  await page.getByRole('link', { name: 'Inês van der Vael' }).click();
  await expect(page.getByText('Link: javascript:alert(1)')).toBeVisible();
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

test('the database stops while people work: edits wait, pages say so, all recovers without a restart', async ({
  page,
  request,
  browser,
}) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  await publish(page, 'ines-away');
  // The table has asked for its new state before the database goes.
  await expect(page.locator('.state.published')).toBeVisible();
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
    await expect(list.getByText('The database does not answer just now')).toBeVisible({ timeout: 40_000 });
    await control('open');
    await expect(list.getByRole('heading', { name: 'People' })).toBeVisible({ timeout: 20_000 });
  } finally {
    await control('open').catch(() => undefined);
  }
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Firm on page')).not.toBeChecked();
});

test('a job outlives a kill -9 of the application: every contact comes in once, and the screen follows', async ({
  page,
  request,
}) => {
  await signUp(page);
  const many = 600;
  const book = Array.from({ length: many }, (_, at) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Guest ${at}\r\nEND:VCARD\r\n`);
  const file = { name: 'book.vcf', mimeType: 'text/vcard', buffer: Buffer.from(book.join('')) };
  await page.getByLabel('Contact file').setInputFiles(file);
  await page.waitForURL('**/imports/*');
  await page.getByRole('button', { name: 'Import 600 contacts' }).click({ timeout: 60_000 });
  await expect(page.getByText(/^[1-9]\d* of 600 contacts/)).toBeVisible();
  await request.get(`http://127.0.0.1:${CONTROL}/kill`, { timeout: 60_000 });
  await expect(page.getByText('600 contacts imported.')).toBeVisible({ timeout: 60_000 });
  await page.goto('/people');
  await expect(page.getByText('600 people, 600 cards')).toBeVisible();
  await page.goto('/company/jobs');
  await expect(page.getByRole('row', { name: /600 of 600 contacts 2/ })).toBeVisible();
  await page.goto('/company/audit?act=job.asked');
  await expect(page.getByRole('cell', { name: 'asked for a job' })).toHaveCount(2);
});

test('the server is started anew under an open table with something half typed: nothing is lost, others are heard again', async ({
  page,
  browser,
  request,
}) => {
  await signUp(page);
  await importContact(page, 'mail-export-4.vcf');
  const theirs = await browser.newPage({ storageState: await page.context().storageState() });
  await theirs.goto(page.url());
  await expect(theirs.getByText('Proven.')).toBeVisible();
  await page.getByRole('button', { name: /Wording of Job title/ }).click();
  const cell = page.getByLabel('Wording of Job title');
  await cell.fill('Surveyor of lines and');
  await request.get(`http://127.0.0.1:${CONTROL}/kill`, { timeout: 60_000 });
  await cell.pressSequentially(' towers');
  await theirs.getByLabel('Mobile on page').check();
  await saved(theirs);
  // The stream came back by itself and told of it; the cell stayed open.
  await expect(page.getByLabel('Mobile on page')).toBeChecked();
  await expect(cell).toHaveValue('Surveyor of lines and towers');
  await cell.press('Enter');
  await saved(page);
  await expect(theirs.getByRole('button', { name: /Wording of Job title/ })).toContainText('lines and towers');
});

test('a job that is stopped keeps what it did and makes no more', async ({ page }) => {
  await signUp(page);
  const book = Array.from({ length: 3_000 }, (_, at) => `BEGIN:VCARD\r\nFN:Guest ${at}\r\nEND:VCARD\r\n`);
  const file = { name: 'book.vcf', mimeType: 'text/vcard', buffer: Buffer.from(book.join('')) };
  await page.getByLabel('Contact file').setInputFiles(file);
  await page.waitForURL('**/imports/*');
  await page.getByRole('button', { name: 'Import 3,000 contacts' }).click({ timeout: 60_000 });
  await expect(page.getByText(/^[1-9]\d* of 3000 contacts/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/^\d+ contacts? imported/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo the import' }).click();
  await expect(page.getByText(/^\d+ contacts? undone\.$/)).toBeVisible({ timeout: 60_000 });
});

test('a member signs in with a first password, must change it, and sees what the role includes', async ({
  page,
  browser,
}) => {
  const owner = `owner-${Date.now()}@heath.example`;
  await signUp(page, 'Maud Aldercott', owner);
  await importContact(page, 'mail-export-4.vcf');
  await confirmAddress(page, owner);
  await page.goto('/company/members');
  await page.getByRole('button', { name: 'Add a member' }).click();
  const email = `ines-${Date.now()}@heath.example`;
  await page.getByLabel('Name', { exact: true }).fill('Inês van der Vael');
  await page.getByLabel('E-mail', { exact: true }).fill(email);
  await page.getByLabel('First password').fill('first on the mountain');
  await page.getByRole('button', { name: 'Add the member' }).click();
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('A holder needs the record');
  await page.getByLabel('Own record', { exact: true }).fill('vael');
  await page.getByRole('button', { name: 'Inês van der Vael' }).click();
  await page.getByRole('button', { name: 'Add the member' }).click();
  await expect(page.getByRole('row', { name: /first password/ })).toBeVisible();

  const theirs = await (await browser.newContext()).newPage();
  await theirs.goto('/sign-in');
  await theirs.getByLabel('E-mail').fill(email);
  await theirs.getByLabel('Password').fill('first on the mountain');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await theirs.getByLabel('The first password that you were given').fill('first on the mountain');
  await theirs.getByLabel('New password').fill('short');
  await theirs.getByRole('button', { name: 'Keep it' }).click();
  await expect(theirs.getByRole('alert').filter({ hasText: 'Use at least 10 characters' })).toBeVisible();
  await theirs.getByLabel('New password').fill('one of my own now');
  await theirs.getByRole('button', { name: 'Keep it' }).click();
  // A holder begins with their own card; the list of people holds nobody else.
  await theirs.waitForURL('**/mine');
  await theirs.goto('/people');
  await expect(theirs.getByRole('heading', { name: 'People' })).toBeVisible();
  await expect(theirs.getByText('One person, 1 card')).toBeVisible();
  await expect(theirs.getByRole('link', { name: 'Company' })).toHaveCount(0);
  await expect(theirs.getByRole('button', { name: 'New person' })).toHaveCount(0);

  // Removed, they are out at once.
  await page.getByRole('button', { name: /^Remove/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('has left')).toBeVisible();
  await theirs.reload();
  await expect(theirs.getByRole('button', { name: 'Sign in' })).toBeVisible();
});
