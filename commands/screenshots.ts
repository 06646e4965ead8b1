import { chromium, type Page } from '@playwright/test';
import path from 'node:path';
import { DEMO_SIGN_INS } from '../demo/load';
import { CHROMIUM, needChromium } from './packages';
import { ROOT } from './place';

/** Pictures of the main views from the running demo (PORT as for the demo), for docs/screenshots. */
const ADDRESS = `http://127.0.0.1:${process.env.PORT ?? 4600}`;
const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

/** A file as somebody brings it home from a fair: invented people, one of them known, one twice, one cut off. */
const CABLE_DAYS = [
  'N:Varrow;Ilse;;;\r\nFN:Ilse Varrow\r\nEMAIL:ilse.varrow@tarnhope.example\r\nTEL;TYPE=WORK:+442079460777\r\nURL:https://tarnhope.example/ropes\r\nX-SHIFT:B',
  'FN:Sanna Frome\r\nORG:Brackwater Lifts;Service\r\nTEL;TYPE=CELL:+447700900555\r\nTITLE:Lift engineer',
  'FN:Tobias Hythe\r\nTEL;TYPE=CELL:07700 900556\r\nEMAIL:tobias@hythe.example\r\nX-RANK:2',
  'FN:Mara Quill\r\nTEL:no idea\r\nEMAIL:mara@quill.example',
  'FN:Sanna Frome\r\nORG:Brackwater Lifts;Service\r\nTEL;TYPE=CELL:+447700900555\r\nTITLE:Lift engineer',
]
  .map((lines) => `BEGIN:VCARD\r\nVERSION:3.0\r\n${lines}\r\nEND:VCARD\r\n`)
  .concat('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Anselm Crewe\r\nTEL:+442079460778\r\n')
  .join('');

async function signedIn(page: Page, which: number) {
  const { email, password } = DEMO_SIGN_INS[which]!;
  await page.goto(`${ADDRESS}/sign-in`);
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/people');
}

const keep = async (page: Page, name: string) => {
  await page.evaluate(() => document.fonts.ready);
  // What was pressed to get here lies no longer under the pointer.
  await page.mouse.move(0, 0);
  await page.waitForTimeout(700);
  await page.screenshot({ path: path.join(ROOT, 'docs/screenshots', `${name}.png`) });
};

async function openFairCard(page: Page) {
  await page.goto(`${ADDRESS}/people`);
  await page.getByRole('region', { name: 'Ilse Varrow' }).getByRole('link', { name: 'Cable Days fair' }).click();
  await page.getByText('Proven.').waitFor();
}

async function main() {
  needChromium();
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu'] });
  const context = await browser.newContext({ viewport: DESK, locale: 'en-GB', timezoneId: 'Europe/London' });
  const page = await context.newPage();
  await signedIn(page, 0);
  await keep(page, 'people');
  await page.getByRole('button', { name: 'New person' }).click();
  await page.getByLabel('Contact file').setInputFiles({
    name: 'cable-days.vcf',
    mimeType: 'text/vcard',
    buffer: Buffer.from(CABLE_DAYS),
  });
  await page.getByRole('button', { name: /Import \d/ }).waitFor();
  await keep(page, 'import');
  await page.goto(`${ADDRESS}/roster`);
  await page.getByRole('link', { name: 'Winter season' }).click();
  await page.getByText('rows wait for you').waitFor();
  await keep(page, 'roster');
  await openFairCard(page);
  await page.getByRole('button', { name: 'More about Job title' }).click();
  await keep(page, 'lines');
  const card = page.url();
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('link', { name: 'Code on screen' }).click();
  await page.getByText(/Scans at/).waitFor();
  await keep(page, 'code');
  await page.goto(`${card}/look`);
  await page
    .getByText(/pairs of colours read/)
    .first()
    .waitFor();
  await page.waitForLoadState('networkidle');
  await keep(page, 'look');
  await page.goto(`${ADDRESS}/company/house-style`);
  await page.getByRole('button', { name: 'Gorse', exact: true }).click();
  await page.getByRole('button', { name: 'See what it changes' }).click();
  await page.getByText(/published would change/).waitFor();
  await keep(page, 'house-style');
  await page.goto(`${card}/hand-outs`);
  await keep(page, 'hand-outs');
  await page.getByRole('button', { name: 'Mail signature', exact: true }).click();
  await page.getByRole('button', { name: 'Copy formatted' }).waitFor();
  await keep(page, 'signature');
  await page.goto(`${card}/hand-outs`);
  await page.getByRole('link', { name: 'Open paper' }).click();
  await page.getByText('Ready for print.').waitFor();
  await keep(page, 'paper');
  await page.goto(`${ADDRESS}/privacy`);
  await page.getByText(/have something private in public/).waitFor();
  await keep(page, 'privacy');
  await page.goto(`${ADDRESS}/copies`);
  await keep(page, 'copies');
  await page.getByRole('link', { name: 'Write it anew' }).click();
  await page.getByText('Ready to be written.').waitFor();
  await keep(page, 'tag');
  await page.goto(`${ADDRESS}/response`);
  await keep(page, 'response');
  await page.goto(`${ADDRESS}/people`);
  await page.getByRole('link', { name: 'Ilse Varrow' }).click();
  await page.getByText('Add a detail').waitFor();
  await page.getByRole('button', { name: 'More about Photo' }).click();
  await page.getByRole('group', { name: 'Crop the photo' }).scrollIntoViewIfNeeded();
  await keep(page, 'record');

  // A private detail about to leave: it comes first, and is confirmed.
  await openFairCard(page);
  await page.getByLabel('Mobile, home on page').check();
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByText('Yes, this private detail may go out').waitFor();
  await keep(page, 'publish');
  await page.getByRole('button', { name: /^Take off/ }).click();
  await page.keyboard.press('Escape');

  const state = await context.storageState();
  const phone = await (await browser.newContext({ viewport: PHONE, storageState: state })).newPage();
  await phone.goto(`${ADDRESS}/hand-over`);
  await keep(phone, 'hand-over');
  // Whoever asks first may get it without its first screen.
  while (!(await (await fetch(`${ADDRESS}/c/odile-clients`)).text()).includes('font/woff2;base64'))
    await phone.waitForTimeout(200);
  await phone.goto(`${ADDRESS}/c/odile-clients`);
  await phone.waitForLoadState('networkidle');
  await keep(phone, 'page-phone');
  const odile = await (await browser.newContext({ viewport: DESK, locale: 'en-GB' })).newPage();
  await signedIn(odile, DEMO_SIGN_INS.length - 1);
  await odile.goto(`${ADDRESS}/leads`);
  await keep(odile, 'leads');
  await browser.close();
}

void main();
