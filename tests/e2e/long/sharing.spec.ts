import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { confirmAddress, mailTo } from '../mails';
import { importContact, publish, signUp } from '../person';

/** What the device was asked to share, where its sheet is one that a test holds (W3C Web Share). */
type Asked = { title?: string; text?: string; url?: string; files?: { name: string; type: string; text: string }[] };

/** A device with a sheet that takes files or not, and that somebody closes or not. */
async function withSheet(page: Page, { files, closed }: { files: boolean; closed: boolean }) {
  await page.addInitScript(
    ({ takes, cancels }) => {
      const asked: unknown[] = [];
      Object.assign(window, { asked });
      Object.assign(navigator, {
        canShare: (data: ShareData) => !data.files || takes,
        share: async ({ files: given = [], ...data }: ShareData) => {
          if (cancels) throw new DOMException('closed', 'AbortError');
          const read = await Promise.all(
            given.map(async (file) => ({ name: file.name, type: file.type, text: await file.text() })),
          );
          asked.push({ ...data, files: read });
        },
      });
    },
    { takes: files, cancels: closed },
  );
}
const askedOf = (page: Page) => page.evaluate(() => (window as unknown as { asked: Asked[] }).asked);

async function publishedCard(page: Page) {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, `shares-${Date.now()}`);
}

test('a device’s own sheet gets the file where it takes files, else the link; closed, or missing, nothing breaks and the rest is there', async ({
  page,
  browser,
}) => {
  await publishedCard(page);
  const card = page.url();
  const share = async () => {
    await page.getByRole('button', { name: 'Share', exact: true }).click();
    await expect(page.getByText('Its link, counted apart')).toBeVisible();
  };
  // Chromium without a window system has no sheet.
  await share();
  await expect(page.getByText('This browser has no sharing of its own')).toBeVisible();
  await page.getByLabel('Number', { exact: true }).fill('no number');
  await expect(page.getByRole('dialog').locator('.problem')).toBeVisible();
  await page.getByLabel('Number', { exact: true }).fill('07700 900182');
  const link = (await page.getByRole('dialog').locator('.mono').last().textContent())!;
  // RFC 5724 and RFC 6068: the number, and the words with the link in them.
  const text = new URL((await page.getByRole('link', { name: 'Open a text message' }).getAttribute('href'))!);
  expect([text.protocol, text.pathname, text.searchParams.get('body')]).toEqual([
    'sms:',
    '+447700900182',
    `Here is my card.\n${link}`,
  ]);
  const mail = new URL((await page.getByRole('link', { name: 'Open a mail' }).getAttribute('href'))!);
  expect([mail.protocol, mail.searchParams.get('body')]).toEqual(['mailto:', `Here is my card.\n${link}`]);
  await page.getByRole('button', { name: 'My phone’s own contact' }).click();
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the contact file' }).click();
  const saved = readFileSync(await (await saving).path(), 'utf8');
  expect(saved).toMatch(/^BEGIN:VCARD\r\n/);

  await withSheet(page, { files: true, closed: false });
  await page.goto(card);
  await share();
  await page.getByRole('button', { name: 'Share from this device' }).click();
  await expect(page.getByText('Handed to the app that you chose.')).toBeVisible();
  const [withFile] = await askedOf(page);
  expect([withFile!.files?.length, withFile!.files?.[0]?.type, withFile!.files?.[0]?.text]).toEqual([
    1,
    'text/vcard',
    saved,
  ]);
  expect(withFile!.text).toContain(link);

  await withSheet(page, { files: false, closed: false });
  await page.goto(card);
  await share();
  await expect(page.getByText('This browser shares the link alone')).toBeVisible();
  await page.getByRole('button', { name: 'Share from this device' }).click();
  await expect(page.getByText('Handed to the app that you chose.')).toBeVisible();
  expect(await askedOf(page)).toEqual([{ title: expect.any(String), text: 'Here is my card.', url: link, files: [] }]);

  await withSheet(page, { files: true, closed: true });
  await page.goto(card);
  await share();
  await page.getByRole('button', { name: 'Share from this device' }).click();
  await expect(page.getByText('Nothing was shared.')).toBeVisible();
  // Whoever gets the link is counted where it was shared.
  const stranger = await browser.newPage();
  await stranger.goto(link);
  await expect(stranger.getByRole('link', { name: 'Save contact' })).toBeVisible();
  await page.goto(`${card}/hand-outs`);
  await expect(page.getByRole('row', { name: /^Shared/ }).getByRole('cell', { name: '1', exact: true })).toBeVisible();
});

test('an acquaintance is referred without their mobile: by mail with a copy to them, by a link that is ended, remembered for the next time', async ({
  page,
  browser,
}) => {
  const email = `refers-${Date.now()}@heath.example`;
  await signUp(page, 'Odile Brandreth', email);
  await confirmAddress(page, email);
  await page.goto('/refer');
  await page
    .getByLabel('What you know of them')
    .fill('Dell Hythe\nRope splicer\nOffice: 020 7946 0211\nMobile: 07700 900211\ndell@hythe.example');
  await expect(page.getByLabel('Name')).toHaveAttribute('placeholder', 'Dell Hythe');
  await page.getByRole('button', { name: 'Note them' }).click();
  await expect(page.getByRole('heading', { name: 'Dell Hythe' })).toBeVisible();
  const mobile = page.getByRole('checkbox', { name: /Mobile/ });
  await expect(mobile).not.toBeChecked();
  await page.getByRole('checkbox', { name: /E-mail/ }).check();
  await expect(page.getByText('Saved')).toBeVisible();
  const ines = `ines-${Date.now()}@varrow.example`;
  await page.getByLabel('To whom: e-mail').fill(ines);
  await page.getByLabel('Their name').fill('Ines Varrow');
  await page.getByLabel(/A copy to dell@hythe.example/).check();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByText(`On its way to ${ines}.`)).toBeVisible();
  const said = await mailTo(ines, 'Recommended to you: Dell Hythe');
  expect(said.text).toContain('Hello Ines,');
  for (const form of [said.text, said.html]) {
    expect(form.replace(/\s/g, '')).toContain('2079460211');
    expect(form.replace(/\s/g, '')).not.toContain('7700900211');
  }
  await mailTo('dell@hythe.example', 'Recommended to you: Dell Hythe');

  await page.getByRole('button', { name: 'Make a link' }).first().click();
  await page.getByRole('button', { name: 'Make a link' }).last().click();
  const link = (await page.locator('.refer-link .mono').textContent())!;
  const stranger = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await stranger.goto(link);
  await expect(stranger.getByRole('heading', { name: 'Dell Hythe' })).toBeVisible();
  expect((await stranger.content()).replace(/\s/g, '')).not.toContain('7700900211');
  await page.getByRole('button', { name: 'End it now' }).click();
  await expect(page.getByText('ended', { exact: true })).toBeVisible();
  expect((await stranger.goto(link))!.status()).toBe(410);
  await page.goto('/refer');
  await page.getByRole('link', { name: 'Dell Hythe' }).click();
  await expect(mobile).not.toBeChecked();
  await expect(page.getByRole('checkbox', { name: /E-mail/ })).toBeChecked();
});

test('a profile page gets its kit, sees what its screen says, and its parameters stand on links that lead away', async ({
  page,
  request,
}) => {
  await publishedCard(page);
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  await page.getByRole('button', { name: 'Profile page' }).click();
  await page.getByLabel('Which page it is').fill('Association’s list');
  await page.getByRole('button', { name: 'Make its kit' }).click();
  await expect(page.getByRole('heading', { name: 'What that page sees' })).toBeVisible();
  const link = (await page.locator('.profile-piece .mono').textContent())!;
  const served = await (await request.get(link, { headers: { 'Sec-Purpose': 'prefetch' } })).text();
  const title = /<meta property="og:title" content="([^"]*)"/.exec(served)![1]!;
  await expect(page.locator('.profile-seen strong')).toHaveText(title);
  await page.getByLabel('Added to links that lead away').fill('a b=c');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Each parameter has a name')).toBeVisible();
  await page.getByLabel('Added to links that lead away').fill('?source=list');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  const after = await (await request.get(link, { headers: { 'Sec-Purpose': 'prefetch' } })).text();
  const led = [...after.matchAll(/<a [^>]*href="(https?:[^"]*)"/g)].map(([, href]) => href!);
  expect(led.length).toBeGreaterThan(0);
  for (const href of led) expect(href).toContain('source=list');
});

test('a code made in advance is given to a card by its letters; words that are kept come back in the next message', async ({
  page,
  request,
}) => {
  await publishedCard(page);
  const card = page.url();
  await page.goto('/company/codes');
  await page.getByLabel('How many').fill('2');
  await page.getByLabel('What they are for').fill('Blank cards of May');
  await page.getByRole('button', { name: 'Make them' }).click();
  await expect(page.getByRole('heading', { name: '2 wait for a card' })).toBeVisible();
  const code = (await page.locator('tbody td.mono').first().textContent())!;
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download as a table (CSV)' }).click();
  const table = readFileSync(await (await saving).path(), 'utf8')
    .trim()
    .split('\r\n');
  // RFC 4180: a head, a line each, values in quotes.
  expect([table.length, table[0]]).toEqual([3, '"No.","As","Code","Leads to","For"']);
  expect(table[1]).toMatch(new RegExp(`^"1","Codes","${code}","http[^"]*/h/${code}","Blank cards of May"$`));
  expect((await request.get(`/h/${code}`)).status()).toBe(404);
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('button', { name: 'Use a code made in advance' }).click();
  await page.getByLabel('Its number, code or address').fill('NOTACODE');
  await page.getByRole('button', { name: 'Have it open this card' }).click();
  await expect(page.getByText('None of yours waits for a card')).toBeVisible();
  await page.getByLabel('Its number, code or address').fill(code.toLowerCase());
  await page.getByRole('button', { name: 'Have it open this card' }).click();
  await expect(page.getByRole('row', { name: /Blank cards of May/ })).toBeVisible();
  expect((await request.get(`/h/${code}`)).status()).toBe(200);

  await page.getByRole('button', { name: 'Send the card' }).click();
  await page.getByLabel('Your words above it').fill('Good day[ {name}], my card.');
  await page.getByRole('button', { name: 'Keep these words as' }).click();
  await page.getByLabel('Name of the template').fill('My own');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Kept.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Send the card' }).click();
  await page.getByLabel('Words to begin with').selectOption({ label: 'My own' });
  await expect(page.getByLabel('Your words above it')).toHaveValue('Good day, my card.');
  await page.getByLabel('Their name').fill('Tobias Hythe');
  await expect(page.getByLabel('Your words above it')).toHaveValue('Good day Tobias, my card.');
});
