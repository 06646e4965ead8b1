import { randomUUID } from 'node:crypto';
import type { Browser, BrowserContext, Page } from '@playwright/test';
import { asOwner } from '../cluster/databases';
import { signedIn, type Account } from './account';
import { openBrowser } from './browser';
import type { Figure } from './figure';
import { steadyTurns, stolenIn } from './steady';

const LINES = 40;
const STROKES = 120;
/** A shared machine stands still at times: each figure is the middle of so many turns, all of which are told beside it. */
const TURNS = 5;
const SLOWER = 4;
const PEOPLE = 5_000;

/** Tasks of the page's main thread longer than 50 ms (W3C Long Tasks), as they come. */
/** The compiler names inner functions by a helper that the page does not have. */
const NAMING = 'window.__name = (named) => named';
const WATCH_TASKS = () => {
  const tasks: number[] = [];
  Object.assign(window, { tasks });
  new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
    entryTypes: ['longtask'],
  });
};
const forgetTasks = (page: Page) =>
  page.evaluate(() => void ((window as unknown as { tasks: number[] }).tasks.length = 0));
const longestTask = async (page: Page): Promise<number> =>
  Math.max(0, ...(await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks)));

const percentile = (values: number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.ceil(values.length * share) - 1)]!;

const wholes = (values: number[]): string => values.map((value) => value.toFixed(0)).join(', ');

/** A record of so many details, entered as its owner, and a card of it that shows them all, made through the service. */
async function cardOfLines(address: string, account: Account, details: number): Promise<string> {
  const headers = { ...(await signedIn(address, account)), 'Content-Type': 'application/json' };
  const ask = async (path: string, method: string, body: object) => {
    const answer = await fetch(`${address}${path}`, { method, headers, body: JSON.stringify(body) });
    if (!answer.ok) throw new Error(`${path} was answered with ${answer.status}`);
    return answer.json() as Promise<Record<string, string>>;
  };
  const { recordId } = await ask('/api/records', 'POST', { name: 'Odile Brandreth', phone: '', email: '' });
  const kinds = [
    (at: number) => ({ kind: 'phone', number: `+4477009001${String(at).padStart(2, '0')}`, uses: ['work'] }),
    (at: number) => ({ kind: 'email', address: `odile-${at}@brandreth.example`, uses: ['work'] }),
    (at: number) => ({ kind: 'link', url: `https://brandreth.example/${at}`, uses: [] }),
    (at: number) => ({ kind: 'own', text: `What stands in line ${at}` }),
  ];
  const body = {
    name: { given: 'Odile', family: 'Brandreth' },
    details: Array.from({ length: details }, (_, at) => ({
      id: `d${at}`,
      label: '',
      ...kinds[at % kinds.length]!(at),
    })),
    kept: [],
  };
  await ask(`/api/records/${recordId}`, 'PUT', { baseVersion: 1, body });
  const { cardId } = await ask('/api/cards', 'POST', { recordId, audience: 'Bench', isPrivate: true });
  return cardId!;
}

async function signIn(context: BrowserContext, address: string, account: Account): Promise<Page> {
  const page = await context.newPage();
  await page.addInitScript(NAMING);
  await page.addInitScript(WATCH_TASKS);
  await page.goto(`${address}/sign-in`);
  await page.getByLabel('E-mail').fill(account.email);
  await page.getByLabel('Password').fill(account.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/people');
  return page;
}

/** Compressed bytes of all scripts that a page asks for when it is opened with an empty cache, those of its web workers included. */
async function scriptBytes(browser: Browser, address: string, account: Account, path: string): Promise<number> {
  const context = await browser.newContext();
  await signIn(context, address, account);
  const state = await context.storageState();
  await context.close();
  const fresh = await browser.newContext({ storageState: state });
  const sizes: Promise<number>[] = [];
  fresh.on('requestfinished', (request) => {
    // What comes from the cache has no size.
    if (/\.js(\?|$)/.test(request.url()))
      sizes.push(request.sizes().then(({ responseBodySize }) => Math.max(0, responseBodySize)));
  });
  const opened = await fresh.newPage();
  await opened.goto(`${address}${path}`);
  await opened.getByText('Proven.').waitFor();
  await opened.waitForTimeout(2_000);
  const bytes = (await Promise.all(sizes)).reduce((sum, each) => sum + each, 0);
  await fresh.close();
  return bytes;
}

/** A key stroke in a cell until the specimen shows it and is drawn, in milliseconds, for each of a text's letters. */
async function keyStrokes(page: Page): Promise<number[]> {
  await page.getByRole('button', { name: /^Wording of .*: What stands in line 3$/ }).click();
  await page
    .getByLabel(/^Wording of/)
    .and(page.locator('textarea, input'))
    .fill('');
  await page.evaluate(() => {
    const times: number[] = [];
    (window as unknown as { times: number[] }).times = times;
    const field = document.activeElement as HTMLTextAreaElement;
    field.addEventListener(
      'keydown',
      () => {
        const began = performance.now();
        const look = () => {
          const frame = document.querySelector<HTMLIFrameElement>('.specimen iframe')!;
          const shown = frame.contentDocument!.querySelector('dl')!.textContent;
          // The letter stands in the specimen before the browser draws; the frame after that shows it.
          if (field.value && shown.includes(field.value)) times.push(performance.now() - began);
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      },
      { capture: true },
    );
  });
  for (let at = 0; at < STROKES; at += 1) {
    await page.keyboard.press('abcdefghijklmnopqrstuvwxyz'[at % 26]!);
    await page.waitForFunction((count) => (window as unknown as { times: number[] }).times.length >= count, at + 1, {
      polling: 20,
    });
    await page.waitForTimeout(30);
  }
  return page.evaluate(() => (window as unknown as { times: number[] }).times);
}

/** Thousands of people entered as the database's owner; what lists them is what is measured. */
const addPeople = (databaseUrl: string, email: string, people: number): Promise<void> =>
  asOwner(databaseUrl, async (client) => {
    const { rows } = await client.query<{ organisation_id: string }>(
      'SELECT organisation_id FROM users WHERE email = $1',
      [email],
    );
    const organisation = rows[0]!.organisation_id;
    const ids = Array.from({ length: people }, () => randomUUID());
    await client.query(
      `INSERT INTO records (id, organisation_id, written_name, body)
       SELECT id, $2, 'Person ' || at || ' of the bench', jsonb_build_object('name', jsonb_build_object('given', 'Person ' || at, 'family', 'of the bench'), 'details', '[]'::jsonb, 'kept', '[]'::jsonb)
       FROM unnest($1::uuid[]) WITH ORDINALITY AS each(id, at)`,
      [ids, organisation],
    );
    await client.query(
      `INSERT INTO cards (id, organisation_id, record_id, audience, lines)
       SELECT gen_random_uuid(), $2, id, 'Work', '[]' FROM unnest($1::uuid[]) AS id`,
      [ids, organisation],
    );
  });

/** Scrolls through the list from top to bottom and filters it letter by letter; the longest task on the way. */
async function walkTheList(page: Page): Promise<number> {
  await page.getByText('Person 1 of the bench').first().waitFor();
  // Opening the list is not what is measured here.
  await page.waitForTimeout(4_000);
  await forgetTasks(page);
  const height = await page.evaluate(() => document.documentElement.scrollHeight);
  for (let at = 0; at <= 60; at += 1) {
    await page.evaluate((top) => window.scrollTo(0, top), (height * at) / 60);
    await page.waitForTimeout(60);
  }
  await page.evaluate(() => window.scrollTo(0, 0));
  await page.getByLabel('Filter people').click();
  for (const letter of 'person 4711') {
    await page.keyboard.press(letter === ' ' ? 'Space' : letter);
    await page.waitForTimeout(120);
  }
  await page.getByText('Person 4711 of the bench').waitFor();
  for (let at = 0; at < 'person 4711'.length; at += 1) {
    await page.keyboard.press('Backspace');
    await page.waitForTimeout(120);
  }
  return longestTask(page);
}

/** The card's table under the hand, its weight, and a list of five thousand people. */
export async function measureTable(address: string, databaseUrl: string, account: Account): Promise<Figure[]> {
  const card = await cardOfLines(address, account, LINES - 1);
  const browser = await openBrowser();
  try {
    return await measureIn(browser, card, address, databaseUrl, account);
  } finally {
    // A page that goes on working would be measured with all that comes after.
    await browser.close();
  }
}

async function measureIn(
  browser: Browser,
  card: string,
  address: string,
  databaseUrl: string,
  account: Account,
): Promise<Figure[]> {
  const bytes = await scriptBytes(browser, address, account, `/cards/${card}`);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await signIn(context, address, account);
  await page.goto(`${address}/cards/${card}`);
  await page.getByText('Proven.').waitFor();
  await page.waitForTimeout(1_000);
  const client = await context.newCDPSession(page);
  await client.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
  const strokes = await steadyTurns(TURNS, async () => {
    await forgetTasks(page);
    const times = await keyStrokes(page);
    await page.waitForTimeout(1_500);
    const longest = await longestTask(page);
    await page.keyboard.press('Escape');
    await page.waitForTimeout(500);
    return { times, longest };
  });
  const turns = strokes.map(({ value }) => value.times);
  const tasks = strokes.map(({ value }) => value.longest);
  const each95 = turns.map((times) => percentile(times, 0.95));
  await client.send('Emulation.setCPUThrottlingRate', { rate: 1 });

  await addPeople(databaseUrl, account.email, PEOPLE);
  await page.goto(`${address}/people`);
  const walks = await steadyTurns(TURNS, () => walkTheList(page));
  const lists = walks.map(({ value }) => value);
  const chromiumAs = `headless Chromium, 1,280 by 800`;
  return [
    {
      name: `key stroke in the ledger of a ${LINES}-line card until the specimen shows it, 95th percentile`,
      value: percentile(each95, 0.5),
      unit: 'ms',
      must: { atMost: 50 },
      beside: `the middle of ${TURNS} turns (${each95.map((value) => value.toFixed(1)).join(', ')} ms) of ${STROKES} key strokes, median stroke ${percentile(turns.flat(), 0.5).toFixed(1)} ms, ${chromiumAs}, processor slowed ${SLOWER} times; ${stolenIn(strokes)}`,
    },
    {
      name: 'longest task while typing in the ledger',
      value: percentile(tasks, 0.5),
      unit: 'ms',
      must: { atMost: 100 },
      beside: `the middle of the same turns (${wholes(tasks)} ms), saving and proof included; 0 where none took over 50 ms`,
    },
    {
      name: 'compressed script of the card’s table at the first load',
      value: bytes / 1_000,
      unit: 'KB',
      must: { atMost: 250 },
      beside:
        'bodies of all script answers of an empty cache, those of workers included; the proof’s worker comes with the first edit',
    },
    {
      name: `longest task while a list of ${PEOPLE.toLocaleString('en-GB')} people scrolls and is filtered`,
      value: percentile(lists, 0.5),
      unit: 'ms',
      must: { atMost: 100 },
      beside: `the middle of ${TURNS} turns (${wholes(lists)} ms), ${chromiumAs}, at full speed: 60 steps from top to bottom, 11 letters typed and taken back; ${stolenIn(walks)}`,
    },
  ];
}
