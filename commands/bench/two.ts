import { createServer, request as ask, type Server } from 'node:http';
import { startApplication } from '../application';
import { freePort } from '../cluster/ports';
import { say } from '../stop';
import { signedIn, type Account } from './account';
import { asOwner } from '../cluster/databases';
import { countOf, pause, settled } from './database';
import type { Figure } from './figure';
import { PHONE_AGENT } from './load';

const VIEWS = 1_000;

/** A plain proxy that gives every request to the next process in turn. */
const proxyBetween = (ports: number[], port: number): Promise<Server> => {
  let turn = 0;
  const server = createServer((incoming, outgoing) => {
    const target = ports[(turn = (turn + 1) % ports.length)]!;
    const { method, url, headers } = incoming;
    const inner = ask({ port: target, host: '127.0.0.1', method, path: url, headers }, (answer) => {
      outgoing.writeHead(answer.statusCode!, answer.headers);
      answer.pipe(outgoing);
    });
    inner.on('error', () => outgoing.destroy());
    incoming.pipe(inner);
  });
  return new Promise((resolve) => server.listen(port, '127.0.0.1', () => resolve(server)));
};

/** Two processes on one database behind a plain proxy, against one: the same answers, the same figures, edits seen at once. */
export async function measureTwo(environment: Record<string, string>, account: Account): Promise<Figure[]> {
  say('  two processes behind a plain proxy …');
  const [onePort, otherPort, proxyPort] = [await freePort(), await freePort(), await freePort()];
  const start = (port: number) => startApplication({ ...environment, PORT: String(port) }, { dev: false });
  const one = await start(onePort);
  const direct = `http://127.0.0.1:${onePort}`;
  const address = `http://127.0.0.1:${proxyPort}`;
  const names = await asOwner(environment.DATABASE_URL!, async (client) =>
    (
      await client.query<{ name: string }>(
        // Some of the thousands that another part may have made.
        `SELECT name FROM directory_addresses WHERE is_current ORDER BY name = 'odile-clients' DESC, md5(name) LIMIT 60`,
      )
    ).rows.map(({ name }) => name),
  );
  const paths = names.flatMap((name) => [`/c/${name}`, `/c/${name}.vcf`]);
  const bytes = async (host: string, path: string, agent = 'curl/8') => {
    const answer = await fetch(`${host}${path}`, { headers: { 'User-Agent': agent, 'Accept-Encoding': 'identity' } });
    return { text: Buffer.from(await answer.arrayBuffer()).toString('base64'), etag: answer.headers.get('etag') };
  };
  // Whoever asks a process first may get a page without its first screen.
  const settledPages = async (host: string, paths: string[], processes: number) => {
    for (const path of paths.filter((each) => !each.endsWith('.vcf')))
      for (let whole = 0, tries = 0; whole < processes && tries < 40; tries += 1) {
        const { text } = await bytes(host, path);
        whole = Buffer.from(text, 'base64').includes('font/woff2;base64') ? whole + 1 : 0;
        if (whole === 0) await pause(100);
      }
  };
  await settledPages(direct, paths, 1);
  const alone = new Map<string, Awaited<ReturnType<typeof bytes>>>();
  for (const path of paths) alone.set(path, await bytes(direct, path));

  const other = await start(otherPort);
  const proxy = await proxyBetween([onePort, otherPort], proxyPort);
  try {
    let different = 0;
    await settledPages(address, paths, 2);
    for (const path of paths)
      for (let twice = 0; twice < 2; twice += 1) {
        const { text, etag } = await bytes(address, path);
        if (text !== alone.get(path)!.text || etag !== alone.get(path)!.etag) different += 1;
      }

    // A revision that is published by one and shown by the other at once.
    const session = await signedIn(direct, account);
    let stale = 0;
    const row = await asOwner(
      environment.DATABASE_URL!,
      async (client) =>
        (
          await client.query<{ id: string; version: number; lines: { detail: string; wording: string | null }[] }>(
            `SELECT c.id, c.version, c.lines FROM directory_addresses a JOIN cards c ON c.id = a.card_id WHERE a.name = 'odile-clients'`,
          )
        ).rows[0]!,
    );
    let version = row.version;
    const rounds = 10;
    for (let round = 0; round < rounds; round += 1) {
      const wording = `Odile Brandreth ${round}`;
      const lines = row.lines.map((line) => (line.detail === 'name' ? { ...line, wording } : line));
      const put = async (method: string, path: string, body: object) =>
        (
          await fetch(`${address}${path}`, {
            method,
            headers: { ...session, Origin: address, 'Content-Type': 'application/json' },
            body: JSON.stringify(body),
          })
        ).json() as Promise<{ version: number }>;
      version = (await put('PUT', `/api/cards/${row.id}`, { baseVersion: version, lines, audience: 'Clients' }))
        .version;
      await put('POST', `/api/cards/${row.id}/publish`, { baseVersion: version, address: 'odile-clients' });
      for (let twice = 0; twice < 2; twice += 1)
        if (
          !Buffer.from((await bytes(address, '/c/odile-clients')).text, 'base64')
            .toString()
            .includes(wording)
        )
          stale += 1;
    }

    const counted = () =>
      countOf(
        environment.DATABASE_URL!,
        `SELECT count(*) FROM events e JOIN directory_addresses a ON a.card_id = e.card_id WHERE a.name = 'odile-neighbours' AND kind = 'view'`,
      );
    await settled(environment.DATABASE_URL!);
    const before = await counted();
    await Promise.all(
      Array.from({ length: 20 }, async (_, at) => {
        for (let view = at; view < VIEWS; view += 20)
          await bytes(address, '/c/odile-neighbours', `${PHONE_AGENT} v${view}`);
      }),
    );
    await settled(environment.DATABASE_URL!);
    const views = (await counted()) - before;
    return [
      {
        name: 'answers of two processes that differ from those of one',
        value: different + stale,
        unit: 'answers',
        must: { atMost: 0 },
        beside: `${paths.length} pages and contact files, each asked twice through a plain proxy that takes turns, and ${rounds} revisions published through it and looked for in both (${stale} stale)`,
      },
      {
        name: 'views counted beyond or short of those given, two processes',
        value: Math.abs(views - VIEWS),
        unit: 'views',
        must: { atMost: 0 },
        beside: `${VIEWS.toLocaleString('en-GB')} views through the proxy by as many visitors, ${views.toLocaleString('en-GB')} counted`,
      },
    ];
  } finally {
    proxy.close();
    proxy.closeAllConnections();
    await Promise.all([one.stop(), other.stop()]);
  }
}
