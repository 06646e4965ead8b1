import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { freshBlock, type Block, type BlockKind } from '../../src/core/card';
import { drawScenery } from '../../demo/scenery';
import { startApplication } from '../application';
import { freePort } from '../cluster/ports';
import { ROOT } from '../place';
import { say } from '../stop';
import { asking, signedIn, type Account, type Asking } from './account';
import { openSlowPhone, shiftedOn } from './browser';
import type { Figure } from './figure';
import { bytesOnTheWire, ONE_ROUND_TRIP } from './pages';
import { steadyTurns, stolenIn } from './steady';

const ROUNDS = 15;
const ADDRESS = 'bench-blocks';
const MOST_PICTURES = 12;

/** A card of forty lines with every block, made as a browser makes it; answers with what saving it again needs. */
async function cardOfBlocks(ask: Asking) {
  let at = 0;
  const id = () => `b${(at += 1)}`;
  const { recordId } = await ask('POST', '/api/records', {
    name: 'Odile Brandreth',
    phone: '020 7946 0182',
    email: 'odile@brandreth.example',
  });
  const common = { label: 'Studio', preferred: false };
  const days = Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '09:00', until: '17:00' }] : []));
  const details = [
    { kind: 'phone', id: 'd0', ...common, number: '+442079460182', uses: ['work'] },
    { kind: 'email', id: 'd1', ...common, address: 'odile@brandreth.example', uses: ['work'] },
    { kind: 'hours', id: 'd2', ...common, days, zone: 'Europe/London' },
    {
      kind: 'address',
      id: 'd3',
      ...common,
      street: '4 Curlew Lane',
      locality: 'Skell Bridge',
      map: 'https://maps.example/4',
      uses: ['work'],
    },
    { kind: 'credential', id: 'd4', ...common, text: 'Guild of field recordists' },
    ...Array.from({ length: 34 }, (_, line) => ({
      kind: 'own',
      id: `o${line}`,
      ...common,
      text: `What stands in line ${line}`,
    })),
  ];
  await ask('PUT', `/api/records/${recordId}`, {
    baseVersion: 1,
    body: { name: { given: 'Odile', family: 'Brandreth' }, details, kept: [] },
  });
  const { cardId } = await ask('POST', '/api/cards', { recordId, audience: 'Bench', isPrivate: true });
  const pictures: object[] = [];
  for (let seed = 0; seed < MOST_PICTURES; seed += 1) {
    const { picture: hash, width, height } = await ask('POST', '/api/block-pictures', await drawScenery(70 + seed));
    pictures.push({ hash, width, height });
  }
  const film = await ask('POST', '/api/films', await readFile(path.join(ROOT, 'demo/media/ropeway.mp4')));
  const captions = await ask('POST', '/api/captions', await readFile(path.join(ROOT, 'demo/media/ropeway.vtt')));
  const item = (picture: object) => ({
    id: id(),
    picture,
    alt: 'A drawing',
    title: `Title ${at}`,
    text: 'Words below it',
    url: 'https://brandreth.example/',
  });
  const block = (kind: BlockKind, part: object) => ({ ...freshBlock(kind, id), ...part }) as Block;
  const blocks = [
    block('action bar', {}),
    block('about', { text: 'Round 0' }),
    block('gallery', { items: pictures.map(item) }),
    block('video', {
      videos: [
        {
          id: id(),
          title: 'A ride',
          film,
          player: '',
          poster: pictures[0],
          captions: { hash: captions.hash, language: 'en' },
        },
      ],
    }),
    ...(['onward links', 'credentials', 'products'] as const).map((kind) =>
      block(kind, { items: pictures.slice(0, 4).map(item) }),
    ),
    block('hours', {}),
    block('offices', {}),
  ];
  const { lines, version } = await (ask('GET', `/api/cards/${cardId}`) as Promise<unknown> as Promise<{
    lines: unknown[];
    version: number;
  }>);
  return { cardId: String(cardId), lines, version, blocks };
}

/** How far things move on a phone while pictures and film come over a slow line: the sum of layout shifts (W3C Layout Instability). */
async function layoutShift(url: string): Promise<number> {
  const { browser, page } = await openSlowPhone();
  await page.goto(url);
  const height = await page.evaluate(() => document.documentElement.scrollHeight);
  for (let top = 0; top <= height; top += 300) {
    await page.mouse.wheel(0, 300);
    await page.waitForTimeout(400);
  }
  await page.locator('video').evaluate((video: HTMLVideoElement) => ((video.muted = true), video.play()));
  await page.waitForTimeout(3_000);
  const shifted = await shiftedOn(page);
  await browser.close();
  return shifted;
}

/** A card with every block: from the click on Publish until two processes serve it, its weight, and what moves while it opens. */
export async function measureBlocks(environment: Record<string, string>, account: Account): Promise<Figure[]> {
  say('  a card with every block, two processes …');
  const ports = [await freePort(), await freePort()];
  const hosts = ports.map((port) => `http://127.0.0.1:${port}`);
  const processes = [];
  for (const port of ports)
    processes.push(
      await startApplication(
        {
          ...environment,
          PORT: String(port),
          BASE_URL: `http://127.0.0.1:${port}`,
          PUBLIC_URL: `http://127.0.0.1:${port}`,
        },
        { dev: false },
      ),
    );
  try {
    const [first] = hosts as [string];
    const ask = asking(first, await signedIn(first, account));
    const { cardId, lines, version, blocks } = await cardOfBlocks(ask);
    let baseVersion = version;
    let round = 0;
    const publish = async (): Promise<number> => {
      const text = `Round ${(round += 1)} of the bench`;
      const changed = blocks.map((each) => (each.kind === 'about' ? { ...each, text } : each));
      baseVersion = (
        await ask('PUT', `/api/cards/${cardId}`, { baseVersion, lines, audience: 'Bench', blocks: changed })
      ).version!;
      const began = performance.now();
      await ask('POST', `/api/cards/${cardId}/publish`, { baseVersion, address: ADDRESS });
      await Promise.all(
        hosts.map(async (host) => {
          while (!(await (await fetch(`${host}/c/${ADDRESS}`)).text()).includes(text))
            await new Promise((resume) => setTimeout(resume, 2));
        }),
      );
      return performance.now() - began;
    };
    // The first ones load what publishing needs.
    for (let warm = 0; warm < 3; warm += 1) await publish();
    const turns = await steadyTurns(ROUNDS, publish);
    const times = turns.map(({ value }) => value).sort((a, b) => a - b);
    const weight = await bytesOnTheWire(first, `/c/${ADDRESS}`);
    const shifted = await layoutShift(`${first}/c/${ADDRESS}`);
    return [
      {
        name: 'publishing a card of 40 lines and all blocks until every process serves it, median',
        value: times[Math.floor(times.length / 2)]!,
        unit: 'ms',
        must: { atMost: 300 },
        beside: `${times.length} publishings at one of two processes, asked for at both; slowest ${times.at(-1)!.toFixed(0)} ms; ${stolenIn(turns)}`,
      },
      {
        name: 'page with all blocks, HTML and CSS at gzip level 6 with headers',
        value: weight,
        unit: 'B',
        must: { atMost: ONE_ROUND_TRIP },
        beside: `40 lines, 9 blocks, ${MOST_PICTURES} pictures in the gallery and a film, counted on the socket`,
      },
      {
        name: 'cumulative layout shift of that page, scrolled from top to bottom and the film played',
        value: shifted,
        unit: '',
        must: { atMost: 0.02 },
        beside: 'headless Chromium, 390 by 844, 150 ms and 1.6 Mbit/s; shifts after a person’s act count as well',
      },
    ];
  } finally {
    for (const process of processes) await process.stop();
  }
}
