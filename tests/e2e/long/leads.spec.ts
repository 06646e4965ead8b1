import { expect, test, type Page } from '@playwright/test';
import { BY_DAY, violationsOf } from '../accessible';
import { confirmAddress, mailTo } from '../mails';
import { importContact, publish, saved, signUp } from '../person';

/** A card with a reply form, out, of somebody whose address is confirmed; answers with its address and theirs. */
async function withForm(page: Page): Promise<{ card: string; email: string }> {
  const email = `leads-${Date.now()}@heath.example`;
  await signUp(page, 'Odile Brandreth', email);
  await confirmAddress(page, email);
  await page.goto('/people');
  await importContact(page, 'phone-export-3.vcf');
  await page.getByRole('button', { name: 'Add a block' }).click();
  await page.getByRole('button', { name: /^Reply form/ }).click();
  await page.getByLabel('Firm', { exact: true }).check();
  await page.getByLabel('A question of your own').check();
  await page.getByLabel('The question').fill('Which day suits you?');
  await page.getByLabel('The question').blur();
  await saved(page);
  const address = `leads-${Date.now()}`;
  await publish(page, address);
  return { card: `/c/${address}`, email };
}

test('a recipient replies without a network, it is sent when there is one; both get a mail, theirs leads back; the holder works the lead off, and it is erased at their wish', async ({
  page,
  browser,
}) => {
  const { card, email } = await withForm(page);
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const stranger = await phone.newPage();
  await stranger.goto(card);
  expect(await violationsOf(stranger, BY_DAY)).toEqual([]);
  // The script comes when a field is touched (the page's own weight is measured elsewhere).
  const script = stranger.waitForResponse(/reply-\w+\.js$/);
  await stranger.getByLabel('Your name').focus();
  await script;
  await stranger.getByLabel('Your name').fill('Ines Vael');
  await stranger.getByLabel('E-mail or phone').fill('ines@vael.example');
  await stranger.getByLabel('Which day suits you?').fill('Tuesday');
  await expect.poll(() => stranger.evaluate(() => Object.keys(localStorage).length)).toBe(1);
  // People take longer than three seconds to type this.
  await stranger.waitForTimeout(3_100);
  await phone.setOffline(true);
  await stranger.getByRole('button', { name: 'Send', exact: true }).first().click();
  await expect(stranger.getByText('No network: kept on this phone')).toBeVisible();
  await phone.setOffline(false);
  // A closed page and a later visit: what waited goes by itself.
  await stranger.goto(card);
  await expect
    .poll(() => stranger.evaluate(() => Object.values(localStorage).some((kept) => String(kept).includes('unsent'))))
    .toBe(false);
  const notice = await mailTo(email, 'Ines Vael replied to your card');
  expect(notice.text).toContain('Which day suits you? Tuesday');
  const theirs = await mailTo('ines@vael.example', /the card that you asked for/);
  const link = /http:\S+\/r\/[0-9A-Z]{24}/.exec(theirs.text)![0];

  await page.goto(/http:\S+\/leads\/\S+/.exec(notice.text)![0]);
  await expect(page.getByRole('heading', { name: 'Ines Vael' })).toBeVisible();
  await page.getByLabel('Note', { exact: true }).fill('Send the report of the ropes.');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('Send the report of the ropes.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove this note' }).click();
  await expect(page.getByText('Send the report of the ropes.')).toBeHidden();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText('Send the report of the ropes.')).toBeVisible();
  await page.getByLabel('What', { exact: true }).fill('Send the report');
  await page.getByLabel('By', { exact: true }).fill(new Date().toISOString().slice(0, 10));
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('checkbox', { name: 'Send the report' })).toBeVisible();
  await page.getByRole('button', { name: 'In touch' }).click();
  expect(await violationsOf(page, BY_DAY)).toEqual([]);
  // What is due stands on the first screen, and is worked off there.
  await page.goto('/people');
  await page.getByRole('checkbox', { name: 'Done: Send the report, Ines Vael' }).check();
  await expect(page.getByText('Due today')).toBeHidden();
  await page.getByRole('link', { name: 'Leads' }).click();
  await expect(page.getByRole('row', { name: /Ines Vael.*In touch.*ines@vael.example/ })).toBeVisible();
  expect(await violationsOf(page, BY_DAY)).toEqual([]);
  await page.getByLabel('Search leads').fill('nobody');
  await expect(page.getByText('No leads match.')).toBeVisible();

  // Whoever has the mail says the name before anything is shown; then everything is erased.
  await stranger.goto(link);
  await expect(stranger.getByText('ines@vael.example')).toBeHidden();
  await stranger.getByRole('textbox').first().fill('ines vael');
  await stranger.getByRole('button', { name: 'Show' }).click();
  await expect(stranger.getByLabel('E-mail or phone')).toHaveValue('ines@vael.example');
  expect(await violationsOf(stranger, BY_DAY)).toEqual([]);
  await stranger.getByRole('button', { name: 'Erase everything' }).click();
  await expect(stranger.getByText('Everything was erased.')).toBeVisible();
  await stranger.getByRole('link', { name: 'Open the card' }).click();
  await expect(stranger).toHaveURL(new RegExp(`${card}$`));
  await page.goto('/leads');
  await expect(page.getByText('Nobody yet.')).toBeVisible();
  await phone.close();
});

test('without a script a mistake keeps everything that was typed, and the form leads to thanks; on the holder’s phone others see nothing of the studio', async ({
  page,
  browser,
}) => {
  const { card } = await withForm(page);
  const plain = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } });
  const stranger = await plain.newPage();
  await stranger.goto(card);
  await stranger.getByLabel('Your name').fill('Tobias <b>Fenwright</b>');
  await stranger.getByLabel('E-mail or phone').fill('at the hide');
  await stranger.waitForTimeout(3_100);
  await stranger.getByRole('button', { name: 'Send', exact: true }).first().click();
  await expect(stranger.getByText('This is neither an e-mail address nor a phone number.')).toBeVisible();
  await expect(stranger.getByLabel('Your name')).toHaveValue('Tobias <b>Fenwright</b>');
  await stranger.getByLabel('E-mail or phone').fill('020 7946 0415');
  await stranger.getByRole('button', { name: 'Send', exact: true }).first().click();
  await expect(stranger.getByRole('heading', { name: 'Thank you' })).toBeVisible();
  await plain.close();

  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/hand-over');
  await page.getByRole('button', { name: 'Their details' }).click();
  await expect(page.getByRole('link', { name: 'To the studio' })).toBeHidden();
  await page.getByLabel('Your name').fill('Keld Ros');
  await page.getByLabel('E-mail or phone').fill('nowhere');
  await page.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByRole('alert')).toBeVisible();
  await page.getByLabel('E-mail or phone').fill('keld@ros.example');
  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Send' }).click();
  await page.getByRole('button', { name: 'Back to the code' }).click();
  await expect(page.getByText('Kept on this phone until there is a network.')).toBeVisible();
  const sent = page.waitForResponse((answer) => answer.url().endsWith('/api/hand-over/replies') && answer.ok());
  await page.context().setOffline(false);
  await sent;
  await page.goto('/leads');
  await expect(page.getByRole('link', { name: 'Keld Ros' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Tobias <b>Fenwright</b>' })).toBeVisible();
  // A file of several contacts, and taken out again.
  const contact = (name: string) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:${name}\r\nEND:VCARD\r\n`;
  await page.getByRole('button', { name: 'Add a lead' }).click();
  await page.getByLabel('Or choose a contact file (.vcf)').setInputFiles({
    ...{ name: 'met.vcf', mimeType: 'text/vcard' },
    buffer: Buffer.from(contact('Orla Fenn') + contact('Dell Hythe')),
  });
  await expect(page.getByText('2 contacts of the file came in.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Orla Fenn' })).toBeVisible();
  await page.getByRole('button', { name: 'Take them out again' }).click();
  await expect(page.getByRole('link', { name: 'Orla Fenn' })).toBeHidden();
  // Chosen ones are erased after a question.
  await page.getByLabel('Choose Keld Ros').check();
  await page.getByRole('button', { name: 'Erase 1 lead' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Erase', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Keld Ros' })).toBeHidden();
});
