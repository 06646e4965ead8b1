import { randomBytes } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import { migrationSource } from '../migrations';
import { organisationsOf } from '../src/server/db/schema/short-names';
import { fitnessOf } from '../src/server/db/schema/fitness';
import { files } from '../src/server/files';
import { mailDoor } from '../src/server/mail';
import {
  CHECK_HEADER,
  checkToken,
  isOrganisationId,
  settings,
  settingsProblems,
  type Arrived,
} from '../src/server/env';
import { systemClock } from '../src/server/clock';
import { sentenceOf } from './sentence';
import { say, Stop } from './stop';

/** Clocks that differ by more put days, sign-in codes and certificates wrong. */
const CLOCKS_S = 5;
/** Below this a disk is full before anybody looks. */
const LEAST_BYTES = 1_000_000_000;

type Told = { good: boolean; about: string; sentence: string };
const good = (about: string, sentence: string): Told => ({ good: true, about, sentence });
const wrong = (about: string, sentence: string): Told => ({ good: false, about, sentence });

/**
 * Tries what an installation stands on, and says each thing in words: settings, database and its rights, store of files, clock, and the
 * addresses as they are reached from here. Nothing is changed. Exit code 1 where something is wrong.
 */
export async function run(args: string[]): Promise<number> {
  if (args.length > 0) throw new Stop('Say ./heathland check; it takes no words.');
  const problems = settingsProblems(process.env);
  const told = problems.length > 0 ? problems.map((problem) => wrong('settings', problem)) : await all();
  for (const each of told) say(`${each.good ? 'good ' : 'WRONG'}  ${each.about}: ${each.sentence}`);
  return told.every((each) => each.good) ? 0 : 1;
}

async function all(): Promise<Told[]> {
  const checks = [
    [good('settings', 'nothing is missing, and nothing contradicts itself')],
    proxies(),
    await database(),
    await cardHosts(),
    await store(),
    ...(await mail()),
    ...(await Promise.all([address('BASE_URL'), address('PUBLIC_URL')])),
  ];
  return checks.flat();
}

/** Nothing here ends TLS: an address with it has something in front. */
function proxies(): Told[] {
  const { BASE_URL, PUBLIC_URL, TRUSTED_PROXIES } = settings();
  const https = [BASE_URL, PUBLIC_URL].some((url) => url.startsWith('https:'));
  if (https && TRUSTED_PROXIES === 0)
    return [wrong('proxies', 'TRUSTED_PROXIES is 0, though what ends TLS stands in front: all clients count as one.')];
  return [
    good('proxies', TRUSTED_PROXIES === 0 ? 'none, and none needed' : `${TRUSTED_PROXIES} in front are believed`),
  ];
}

async function database(): Promise<Told[]> {
  const { DATABASE_URL, SESSION_SECRET, DATABASE_CONNECTIONS } = settings();
  const asked = Date.now();
  try {
    const fit = await fitnessOf(DATABASE_URL, SESSION_SECRET, migrationSource);
    const away = Math.abs(fit.now.getTime() - (asked + Date.now()) / 2) / 1_000;
    // Listener, studio and jobs with their pools, recipients' acts and live updates, as the settings' table says.
    const needs = 2 * DATABASE_CONNECTIONS + Math.ceil(DATABASE_CONNECTIONS / 2) + 4 + 3;
    return [
      good('database', `PostgreSQL ${fit.version}, ${fit.state}`),
      fit.connections >= needs
        ? good('connections', `${fit.connections} are left; a process of Heathland takes up to ${needs}`)
        : wrong('connections', `${fit.connections} are left, and a process of Heathland takes up to ${needs}.`),
      away <= CLOCKS_S
        ? good('clock', 'the same here and at the database')
        : wrong('clock', `this machine’s and the database’s differ by ${Math.round(away)} seconds.`),
    ];
  } catch (error) {
    return [wrong('database', sentenceOf(error, 'database', 'It does not answer'))];
  }
}

/** Whether the organisations are there that CARD_HOSTS gives hosts of their own. */
async function cardHosts(): Promise<Told[]> {
  const { CARD_HOSTS, DATABASE_URL } = settings();
  const names = Object.values(CARD_HOSTS).filter((name) => !isOrganisationId(name));
  try {
    const found = await organisationsOf(DATABASE_URL, names);
    return names
      .filter((name) => !found.has(name))
      .map((name) => wrong('CARD_HOSTS', `No organisation’s addresses begin with “${name}”: see ./heathland prefix.`));
  } catch {
    // What is wrong with the database stands above.
    return [];
  }
}

/** Whether the mail server greets and lets this installation in. */
async function mail(): Promise<Told[]> {
  const door = mailDoor();
  if (!door) return [good('mail', 'no MAIL_SERVER, and so none is sent')];
  try {
    await door.greet();
    return [good('mail', 'the mail server greets, and takes what MAIL_SERVER says of this installation')];
  } catch (error) {
    return [wrong('mail', sentenceOf(error, 'elsewhere', 'The mail server does not let this installation in'))];
  }
}

async function store(): Promise<Told[]> {
  const { FILES_DIR, S3_ENDPOINT } = settings();
  try {
    const bytes = randomBytes(64);
    const hash = await files().put(bytes);
    const back = await files().get(hash);
    await files().forget(hash);
    if (!back?.equals(bytes)) return [wrong('store of files', 'what was put in did not come back')];
    if (S3_ENDPOINT) return [good('store of files', 'written, read and removed, by S3')];
    const { bavail, bsize } = await statfs(FILES_DIR!);
    const free = bavail * bsize;
    const room = `${Math.round(free / 1e9)} GB are free`;
    return [
      free < LEAST_BYTES
        ? wrong('store of files', `${room}.`)
        : good('store of files', `written, read and removed; ${room}`),
    ];
  } catch (error) {
    return [wrong('store of files', sentenceOf(error, 'elsewhere', 'It cannot be used'))];
  }
}

/** What has to be changed of what stands in front, by how our own request arrived behind it. */
function arrivedWrong(url: URL, { forwarded, protocol, host }: Arrived): string | null {
  const { TRUSTED_PROXIES } = settings();
  if (host.toLowerCase() !== url.host)
    return `leads here, but as “${host}”: what stands in front must hand on the Host that was asked for.`;
  if (url.protocol === 'https:' && TRUSTED_PROXIES > 0 && protocol !== 'https')
    return 'leads here, but what stands in front does not say X-Forwarded-Proto: https.';
  if (forwarded !== TRUSTED_PROXIES)
    return `leads here through ${forwarded} that add to X-Forwarded-For, and TRUSTED_PROXIES is ${TRUSTED_PROXIES}.`;
  return null;
}

/** Whether an address leads here, and what of a request arrives, as far as this machine can tell. */
async function address(name: 'BASE_URL' | 'PUBLIC_URL'): Promise<Told[]> {
  try {
    const url = new URL('/healthz', settings()[name]);
    const answer = await fetch(url, {
      headers: { [CHECK_HEADER]: checkToken(systemClock.now()) },
      redirect: 'manual',
      signal: AbortSignal.timeout(5_000),
    });
    const text = await answer.text();
    if (answer.status === 200 && text === 'ok')
      return [wrong(name, 'leads to a process of Heathland that has another SESSION_SECRET, or a clock minutes off.')];
    if (answer.status === 200 && text.startsWith('{')) {
      const sentence = arrivedWrong(url, JSON.parse(text) as Arrived);
      return [
        sentence ? wrong(name, sentence) : good(name, 'leads to a process of Heathland, and arrives as it should'),
      ];
    }
    return [wrong(name, `something answers there with ${answer.status}, and it is no process of Heathland.`)];
  } catch (error) {
    const { cause } = error as { cause?: { code?: string } };
    if (cause?.code === 'ECONNREFUSED')
      return [good(name, 'nothing answers there yet: start Heathland, then ask again')];
    return [wrong(name, sentenceOf(cause ?? error, 'elsewhere', 'It cannot be reached'))];
  }
}
