import { connect } from 'node:net';
import pg from 'pg';
import { openBrowser } from './browser';
import type { Figure } from './figure';
import { PHONE_AGENT } from './load';

/** RFC 6928: ten segments of 1,460 bytes. */
export const ONE_ROUND_TRIP = 14_600;

/** All bytes of an answer as they come over the wire, headers included. */
export const bytesOnTheWire = (address: string, path: string): Promise<number> =>
  new Promise((resolve, reject) => {
    const { hostname, port, host } = new URL(address);
    let bytes = 0;
    const socket = connect(Number(port), hostname, () =>
      socket.write(
        `GET ${path} HTTP/1.1\r\nHost: ${host}\r\nUser-Agent: ${PHONE_AGENT}\r\nAccept-Encoding: gzip\r\nConnection: close\r\n\r\n`,
      ),
    );
    socket.on('data', (chunk: Buffer) => (bytes += chunk.length));
    socket.on('end', () => resolve(bytes));
    socket.on('error', reject);
  });

/** The page of each demo card: weight, completeness without JavaScript, requests to other hosts. */
export async function measurePages(address: string, databaseUrl: string): Promise<Figure[]> {
  const client = new pg.Client(databaseUrl);
  await client.connect();
  const { rows } = await client.query<{ name: string; composition: { lines: { label: string; on: string[] }[] } }>(
    `SELECT a.name, r.composition FROM directory_addresses a JOIN LATERAL (SELECT composition FROM revisions WHERE card_id = a.card_id ORDER BY number DESC LIMIT 1) r ON true WHERE a.is_current`,
  );
  await client.end();
  const weights: { name: string; bytes: number }[] = [];
  for (const { name } of rows) weights.push({ name, bytes: await bytesOnTheWire(address, `/c/${name}`) });
  const heaviest = weights.reduce((most, each) => (each.bytes > most.bytes ? each : most));

  const browser = await openBrowser();
  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } });
  let foreign = 0;
  let incomplete = 0;
  for (const { name, composition } of rows) {
    const page = await context.newPage();
    page.on('request', (request) => (foreign += new URL(request.url()).origin === address ? 0 : 1));
    await page.goto(`${address}/c/${name}`, { waitUntil: 'networkidle' });
    const text = await page.locator('main').innerText();
    const labels = composition.lines.filter(
      ({ on, label }) =>
        on.includes('page') && label && !['Photo', 'Job title', 'Firm', 'Role', 'Pronouns'].includes(label),
    );
    if (!text.includes('Save contact') || labels.some(({ label }) => !text.includes(label))) incomplete += 1;
    await page.close();
  }
  await browser.close();
  const of = `${rows.length} demo cards`;
  return [
    {
      name: 'heaviest page of a demo card, HTML and CSS at gzip level 6 with headers',
      value: heaviest.bytes,
      unit: 'B',
      must: { atMost: ONE_ROUND_TRIP },
      beside: `${of}, counted on the socket; ${heaviest.name} is the heaviest`,
    },
    {
      name: 'pages incomplete without JavaScript',
      value: incomplete,
      unit: 'pages',
      must: { atMost: 0 },
      beside: `${of} in Chromium with JavaScript off: Save contact and every ticked label stand in the text`,
    },
    { name: 'requests of pages to another host', value: foreign, unit: 'requests', must: { atMost: 0 }, beside: of },
  ];
}
