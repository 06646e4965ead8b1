import type { Page } from '@playwright/test';
import { baseOf, fullTrials, FULL_PIXELS, READERS, readsBack, tryCode } from '../../src/core/proof/scan';
import { codeSvg, drawCode, PLAIN_STYLE, symbolFor, symbolInStyle, type CodeStyle } from '../../src/core/qr';
import { codePrograms } from '../../src/server/compute/tasks/code/programs';
import { asking, signedIn, type Account } from './account';
import { openBrowser } from './browser';
import type { Figure } from './figure';

const LINK = 'HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9';
/** A name, two numbers, a mail address and links: what the contact of a card comes to. */
const CONTACT =
  'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Varrow;Ilse;;;\r\nFN:Ilse Varrow\r\nORG:Tarnhope Cableways\r\nTITLE:Rope access lead\r\n' +
  'TEL;TYPE=WORK:+442079460182\r\nEMAIL:ilse@tarnhope.example\r\nURL:https://c.tarnhope.example/h/7K3M9\r\nEND:VCARD\r\n';
const STYLE: CodeStyle = { ...PLAIN_STYLE, ink: '#4B2A55', modules: 'dots', fill: 88, finderShape: 'soft' };

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

/** Styled codes drawn as SVG in a second, each with a text of its own. */
function drawnASecond(text: string, count: number): number {
  const draw = (at: number) => {
    const own = `${text.slice(0, -3)}${100 + (at % 900)}`;
    return codeSvg(drawCode(symbolInStyle(own, STYLE), STYLE), { title: own }).length;
  };
  // As it runs once V8 has made its code.
  for (let at = 0; at < 500; at += 1) draw(at);
  const began = performance.now();
  for (let at = 0; at < count; at += 1) draw(at);
  return (count / (performance.now() - began)) * 1_000;
}

async function readBackASecond(): Promise<number> {
  const count = 60;
  const once = (at: number) => readsBack(`${LINK}${100 + at}`, STYLE, symbolInStyle(`${LINK}${100 + at}`, STYLE));
  await once(0);
  const began = performance.now();
  let read = 0;
  for (let at = 0; at < count; at += 1) if (await once(at)) read += 1;
  const rate = (count / (performance.now() - began)) * 1_000;
  // One that does not read back is none.
  return read === count ? rate : 0;
}

/** What a page's workers say is timed from where they are asked; long tasks of its own thread are kept (W3C Long Tasks: over 50 ms). */
const watchWorkers = (page: Page) =>
  page.addInitScript(() => {
    const kept = { quick: [] as number[], full: [] as number[], longest: 0 };
    Object.assign(window, { kept });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) kept.longest = Math.max(kept.longest, duration);
    }).observe({ type: 'longtask', buffered: true });
    const Real = window.Worker;
    window.Worker = class extends Real {
      asked = 0;
      constructor(...given: ConstructorParameters<typeof Worker>) {
        super(...given);
        this.addEventListener('message', ({ data }: MessageEvent<object>) => {
          if ('report' in data) kept.quick.push(performance.now() - this.asked);
          if ('full' in data) kept.full.push(performance.now() - this.asked);
        });
      }
      override postMessage(...given: [unknown]) {
        this.asked = performance.now();
        super.postMessage(...given);
      }
    };
  });

type Kept = { quick: number[]; full: number[]; longest: number };
const keptOn = (page: Page): Promise<Kept> => page.evaluate(() => (window as unknown as { kept: Kept }).kept);

/** Quick and full proof of a code of version 6 on its screen, as somebody styles it. */
async function onScreen(address: string, account: Account) {
  const session = await signedIn(address, account);
  const ask = asking(address, session);
  const { people } = await ask<{ people: { cards: { id: string; state: string }[] }[] }>('GET', '/api/people');
  const card = people.flatMap(({ cards }) => cards).find(({ state }) => state === 'published')!;
  const { id } = await ask<{ id: string }>('POST', '/api/hand-outs', {
    cardId: card.id,
    placement: 'Bench',
    content: { what: 'words', text: 'a curlew at dusk over peat '.repeat(4).slice(0, 100) },
  });
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const cookies = session.Cookie!.split('; ').map((cookie) => cookie.split('=') as [string, string]);
    await context.addCookies(cookies.map(([name, value]) => ({ name, value, url: address })));
    const page = await context.newPage();
    await watchWorkers(page);
    await page.goto(`${address}/cards/${card.id}/hand-outs/${id}`);
    await page.getByText(/pictures were read by both/).waitFor();
    // What loading the page takes is another figure.
    await page.evaluate(() => ((window as unknown as { kept: Kept }).kept.longest = 0));
    const before = (await keptOn(page)).quick.length;
    for (let round = 0; round < 12; round += 1) {
      const shape = ['tiles', 'round', 'soft', 'squares'][round % 4]!;
      await page.getByRole('button', { name: shape, exact: true }).first().click();
      await page.waitForFunction((at) => (window as unknown as { kept: Kept }).kept.quick.length > at, before + round);
    }
    const { quick, longest } = await keptOn(page);
    await page.getByRole('button', { name: 'Full proof' }).click();
    await page.waitForFunction(() => (window as unknown as { kept: Kept }).kept.full.length === 2, null, {
      timeout: 60_000,
    });
    const { full } = await keptOn(page);
    return { quick: quick.slice(before), longest, full: Math.max(...full) };
  } finally {
    await browser.close();
  }
}

/** From the tap to the painted code on a phone four times slower than this machine, out of what it keeps. */
async function heldUp(address: string, account: Account): Promise<{ times: number[]; shown: boolean }> {
  const session = await signedIn(address, account);
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const cookies = session.Cookie!.split('; ').map((cookie) => cookie.split('=') as [string, string]);
    await context.addCookies(cookies.map(([name, value]) => ({ name, value, url: address })));
    const page = await context.newPage();
    const client = await context.newCDPSession(page);
    await page.goto(`${address}/hand-over`);
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
      while (!(await (await caches.open('hand-over')).match('/hand-over')))
        await new Promise((resolve) => setTimeout(resolve, 50));
    });
    await context.setOffline(true);
    await client.send('Emulation.setCPUThrottlingRate', { rate: 4 });
    const times: number[] = [];
    let shown = true;
    for (let round = 0; round < 9; round += 1) {
      await page.goto(`${address}/hand-over`);
      shown &&= (await page.locator('#code svg').count()) === 1;
      await page.waitForFunction(() => performance.getEntriesByName('first-contentful-paint').length > 0);
      times.push(await page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0]!.startTime));
    }
    return { times, shown };
  } finally {
    await browser.close();
  }
}

/** Codes: how quickly they are drawn, proven and read back, and held up. */
export async function measureCodes(address: string, account: Account): Promise<Figure[]> {
  const [links, contacts] = [drawnASecond(LINK, 2_000), drawnASecond(CONTACT, 800)];
  await codePrograms();
  const back = await readBackASecond();
  const text = 'x'.repeat(100);
  const began = performance.now();
  const six = symbolFor(text, { version: 6, level: 'M' });
  await tryCode(baseOf(six, PLAIN_STYLE), text, fullTrials(), { readers: READERS, pixels: FULL_PIXELS });
  const oneCore = performance.now() - began;
  const { quick, longest, full } = await onScreen(address, account);
  const held = await heldUp(address, account);
  const round = (values: number[]) => values.map(Math.round).join(', ');
  return [
    {
      name: 'styled codes of links as SVG, one core',
      value: links,
      unit: 'a second',
      must: { atLeast: 1_000 },
      beside: 'round dots; its own text, symbol and drawing each',
    },
    {
      ...{
        name: 'styled codes of contacts as SVG, one core',
        value: contacts,
        unit: 'a second',
        must: { atLeast: 300 },
      },
      beside: `${CONTACT.length} bytes, version ${symbolInStyle(CONTACT, STYLE).version}, round dots`,
    },
    {
      name: 'codes of a proven style read back, one core',
      value: back,
      unit: 'a second',
      must: { atLeast: 15 },
      beside: 'each painted, and read at two scales by both main readers',
    },
    {
      ...{
        name: 'quick proof of a code of version 6 while it is styled',
        value: median(quick),
        unit: 'ms',
        must: { atMost: 700 },
      },
      beside: `median of ${quick.length}: ${round(quick)} ms; 24 pictures, zxing and qr, in a worker of Chromium`,
    },
    {
      name: 'longest task of the screen’s own thread meanwhile',
      value: longest,
      unit: 'ms',
      must: { atMost: 50 },
      beside: 'W3C Long Tasks; 0 where none took 50 ms',
    },
    {
      ...{ name: 'full proof of a code of version 6', value: full / 1_000, unit: 's', must: { atMost: 10 } },
      beside: `200 pictures, three readers, two workers; ${(oneCore / 1_000).toFixed(1)} s on one core of Node.js`,
    },
    {
      ...{
        name: 'a card held up from what the phone keeps, without a network',
        value: held.shown ? median(held.times) : NaN,
        unit: 'ms',
        must: { atMost: 500 },
      },
      beside: `first contentful paint with the code in it, processor four times slower, median of ${round(held.times)} ms`,
    },
  ];
}
