import { Agent, request } from 'node:http';
import { startApplication, type Application } from '../application';
import type { Cluster } from '../cluster/cluster';
import { asOwner } from '../cluster/databases';
import { say } from '../stop';
import { newcomer, type Newcomer } from './account';
import { repeated, slowest, timed } from './asked';
import { countOf, pause, rowsOf, settled } from './database';
import type { Figure } from './figure';
import { median, PHONE_AGENT } from './load';
import { startDatabase } from './survival';

const CONNECTIONS = 20;
const REPLIES = 2_000;
/** Rates are counted by card: sixty cards of five organisations take what a large fair sends. */
const ORGANISATIONS = 5;
const CARDS_OF_EACH = 12;
const ROUNDS = 20;
/** Work between two kills. */
const WORK_MS = 1_000;
/** A recipient at a time, each after a moment. */
const PACE_MS = 120;
const LEADS = 50_000;
const AGENT = new Agent({ keepAlive: true, maxSockets: CONNECTIONS });
const ASKED = 40;

/** Organisations whose cards carry a reply form, each with a confirmed address. */
async function ground(address: string, url: string): Promise<{ people: Newcomer[]; cards: string[] }> {
  const people: Newcomer[] = [];
  const cards: string[] = [];
  for (let at = 0; at < ORGANISATIONS; at += 1) {
    const who = await newcomer(address, `Replies-${at}`);
    people.push(who);
    for (let of = 0; of < CARDS_OF_EACH; of += 1) {
      const made = await who.ask<{ cardId: string }>('POST', '/api/records', {
        ...{ name: `Holder ${at} ${of}`, phone: '020 7946 0100', email: `holder-${at}-${of}@bench.example` },
      });
      type Opened = { version: number; lines: unknown[]; audience: string };
      const { version, lines, audience } = await who.ask<Opened>('GET', `/api/cards/${made.cardId}`);
      const blocks = [{ kind: 'reply form', id: 'reply' }];
      const saved = await who.ask<{ version: number }>('PUT', `/api/cards/${made.cardId}`, {
        ...{ baseVersion: version, lines, audience, blocks },
      });
      const name = `replies-${at}-${of}`;
      await who.ask('POST', `/api/cards/${made.cardId}/publish`, { baseVersion: saved.version, address: name });
      cards.push(name);
    }
  }
  await asOwner(url, (client) =>
    client.query(`UPDATE users SET email_confirmed_at = now() WHERE email LIKE 'replies-%'`),
  );
  return { people, cards };
}

/** One recipient's reply, whom nobody else is like; answers whether it was taken. */
async function reply(address: string, card: string, at: number): Promise<boolean> {
  const body = new URLSearchParams({
    ...{ name: `Recipient ${at}`, reach: `recipient-${at}@away.example`, note: 'Send the report.', took: '9000' },
  });
  const status = await new Promise<number>((resolve, reject) => {
    const asked = request(`${address}/c/${card}/reply`, {
      ...{ method: 'POST', agent: AGENT, timeout: 10_000 },
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', 'User-Agent': `${PHONE_AGENT} r${at}` },
    });
    asked.on('response', (answer) => answer.resume().on('end', () => resolve(answer.statusCode ?? 0)));
    asked.on('timeout', () => asked.destroy(new Error('no answer')));
    asked.on('error', reject);
    asked.end(body.toString());
  });
  return status === 303;
}

/** Replies from many sides, each sent again until it is acknowledged. */
function replyOn(address: string, cards: string[], first: number): { sent: number[]; stop: () => Promise<void> } {
  const sent: number[] = [];
  let [going, next] = [true, first];
  const loops = Array.from({ length: CONNECTIONS }, async () => {
    while (going) {
      const at = next++;
      while (!(await reply(address, cards[at % cards.length]!, at).catch(() => false))) await pause(100);
      sent.push(at);
      await pause(PACE_MS);
    }
  });
  return {
    sent,
    stop: async () => {
      going = false;
      await Promise.all(loops);
    },
  };
}

/** Replies that are there, how often each, and mails that say so. */
async function found(url: string, from: number) {
  const named = `(r.told->>'name') LIKE 'Recipient %' AND substr(r.told->>'name', 11)::integer >= ${from}`;
  return {
    replies: await countOf(url, `SELECT count(*) FROM replies r WHERE ${named}`),
    different: await countOf(url, `SELECT count(DISTINCT r.told->>'name') FROM replies r WHERE ${named}`),
    mails: await countOf(url, `SELECT count(*) FROM outbox o JOIN replies r ON o.id = ANY (r.mails) WHERE ${named}`),
    leads: await countOf(url, `SELECT count(DISTINCT r.contact_id) FROM replies r WHERE ${named}`),
  };
}

/** Leads of one person, made by the database itself. */
const manyLeads = (organisation: string, user: string) => `
  INSERT INTO contacts (id, organisation_id, user_id, written_name, body, lines, updated_at, private, state, came_at, came_by, last_at, due_on, topics, marks, words)
  SELECT gen_random_uuid(), '${organisation}', '${user}', 'Lead ' || n || ' Ferrand',
    jsonb_build_object('name', jsonb_build_object('given', 'Lead', 'family', n || ' Ferrand'), 'details', jsonb_build_array(
      jsonb_build_object('kind', 'email', 'id', 'e', 'address', 'lead-' || n || '@away.example'),
      jsonb_build_object('kind', 'organisation', 'id', 'o', 'name', 'Firm ' || n % 900, 'units', '[]'::jsonb))),
    '[]', now(), n % 3 = 0, (ARRAY['new', 'in touch', 'later', 'done', 'not wanted'])[1 + n % 5], now(), 'reply', now() - n * interval '1 minute',
    CASE WHEN n % 40 = 0 THEN current_date END, ARRAY['topic ' || n % 20], ARRAY['mail lead-' || n || '@away.example'],
    searched('Lead ' || n || ' Ferrand', 'lead-' || n || '@away.example', 'Firm ' || n % 900)
  FROM generate_series(1, ${LEADS}) n`;

const LISTS: [name: string, query: string][] = [
  ['the first fifty', ''],
  ['everybody’s that may be seen', '?whose=all'],
  ['one state', '?state=later'],
  ['one topic', '?topic=topic+7'],
  ['due by today', '?due=1'],
  ['a search that finds one', '?q=lead-31337'],
  ['a search that finds all', '?q=ferrand'],
  ['a search of two words', '?q=ferrand+firm%20899&state=done'],
  ['a search that finds nothing', '?q=qqzzx'],
];

/** What the studio's members are answered with fifty thousand leads, over loopback. */
async function lists(address: string, url: string, who: Newcomer): Promise<Figure[]> {
  const [user] = await rowsOf<{ id: string; organisation_id: string }>(
    url,
    'SELECT id, organisation_id FROM users WHERE email = $1',
    [who.email],
  );
  await asOwner(url, async (client) => {
    await client.query(manyLeads(user!.organisation_id, user!.id));
    await client.query('ANALYZE contacts');
  });
  const figures: Figure[] = [];
  for (const [name, query] of LISTS) {
    const times = await repeated(ASKED, () => timed(address, who, `/api/leads${query}`));
    figures.push(slowest(`leads: ${name}`, times, 100, `of ${LEADS.toLocaleString('en-GB')}, over loopback`));
  }
  return figures;
}

/** Replies at twenty connections, under twenty kills each of application and database, and fifty thousand leads. */
export async function measureReplies(environment: Record<string, string>, cluster: Cluster): Promise<Figure[]> {
  const address = environment.BASE_URL!;
  const url = () => cluster.url('heathland_bench');
  // Mails are queued, and wait for a server that never comes.
  const settings = { ...environment, MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@bench.example' };
  let application: Application = await startApplication(settings, { dev: false });
  const { people, cards } = await ground(address, url());
  say(`  ${REPLIES.toLocaleString('en-GB')} replies at ${CONNECTIONS} connections …`);
  const times: number[] = [];
  let next = 0;
  const began = performance.now();
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async () => {
      for (let at = next++; at < REPLIES; at = next++) {
        const asked = performance.now();
        if (!(await reply(address, cards[at % cards.length]!, at))) throw new Error('a reply was not taken');
        times.push(performance.now() - asked);
      }
    }),
  );
  const seconds = (performance.now() - began) / 1_000;
  const quiet = await found(url(), 0);
  const listed = await lists(address, url(), people[0]!);
  say(`  ${ROUNDS} rounds of kill -9 on the application and on the database, under replies …`);
  const first = 1_000_000;
  const load = replyOn(address, cards, first);
  for (let round = 0; round < ROUNDS; round += 1) {
    await pause(WORK_MS);
    application.child.kill('SIGKILL');
    await application.ended;
    application = await startApplication(settings, { dev: false });
    await pause(WORK_MS);
    cluster.crash();
    await pause(50);
    await startDatabase(cluster);
    await settled(url());
  }
  await load.stop();
  const after = await found(url(), first);
  await application.stop();
  const sent = load.sent.length;
  const both = `of ${REPLIES.toLocaleString('en-GB')} replies, ${seconds.toFixed(0)} s in all`;
  const kills = `${sent.toLocaleString('en-GB')} replies acknowledged under ${ROUNDS} kills of the application and ${ROUNDS} of the database, each sent again until it was`;
  return [
    {
      ...{ name: 'a reply, durable, with both mails queued, median', value: median(times), unit: 'ms' },
      ...{ must: { atMost: 150 }, beside: `${CONNECTIONS} connections, over loopback; ${both}` },
    },
    {
      ...{ name: 'mails that wait for them', value: quiet.mails, unit: '', must: { atLeast: 2 * REPLIES } },
      beside: `two each; ${quiet.replies} replies, ${quiet.leads} leads`,
    },
    { name: 'replies lost under kills', value: sent - after.different, unit: '', must: { atMost: 0 }, beside: kills },
    {
      ...{ name: 'replies doubled under kills', value: after.replies - after.different, unit: '', must: { atMost: 0 } },
      beside: `${after.leads.toLocaleString('en-GB')} leads`,
    },
    {
      ...{ name: 'mails lost or doubled under kills', value: Math.abs(after.mails - 2 * after.different), unit: '' },
      ...{ must: { atMost: 0 }, beside: `${after.mails.toLocaleString('en-GB')} mails, two for each reply` },
    },
    ...listed,
  ];
}
