import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { heavyLines, WORST_INPUTS, type Ground, type Sent, type WorstInput } from '../../tests/fixtures/worst-inputs';
import { FIRST_OPTIONS } from '../../src/core/roster';
import { ROOT } from '../place';
import { say } from '../stop';
import { newcomer, type Newcomer } from './account';
import { rowsOf } from './database';
import type { Figure } from './figure';

/** So long each shape is sent again and again, by so many at a time. */
const ATTACK_MS = 2_500;
const AT_ONCE = 4;
/** Nobody who looks on waits longer than this because of it, in milliseconds. */
export const RECIPIENT_MS = 100;
export const SIGNED_IN_MS = 500;
/** What is over its limit is measured again, and a machine that was taken away meanwhile does not count as a try, so many times. */
const TRIES = 3;
const TRIES_TAKEN_AWAY = 6;
/** So much of the processors’ time may go to other machines of the same host in a try, in milliseconds. */
const TAKEN_AWAY_MS = 40;

/** A shape that was sent, and what came back; of those that `spends`, whoever sends it may be let in no longer. */
type Answered = { door: string; shape: string; spends: boolean; answers: string };
type Waited = { recipient: number; signedIn: number };
/** The slowest answers in milliseconds, and when they were asked for, in milliseconds since 1970. */
type Slowest = Waited & { since: Waited };
export type Attacked = Waited & { door: string; shape: string; answers: string };

/** What an attacker makes first: a card at its limits, out and as a preview, and the largest picture. */
async function prepare(address: string, { ask, session }: Newcomer): Promise<Ground> {
  const made = await ask<{ recordId: string; cardId: string }>('POST', '/api/records', {
    name: 'Attacker',
    phone: '',
    email: '',
  });
  const other = await ask<{ recordId: string; cardId: string }>('POST', '/api/records', {
    name: 'Heavy Card',
    phone: '',
    email: '',
  });
  const { lines, version, audience } = await ask<{ lines: object[]; version: number; audience: string }>(
    'GET',
    `/api/cards/${other.cardId}`,
  );
  const blocks = [{ kind: 'reply form', id: 'reply', fields: ['firm', 'title', 'other'] }];
  await ask('PUT', `/api/cards/${other.cardId}`, { baseVersion: version, audience, lines: heavyLines(lines), blocks });
  const name = `heavy-${Date.now()}`;
  await ask('POST', `/api/cards/${other.cardId}/publish`, { baseVersion: version + 1, address: name });
  const { url } = await ask<{ url: string }>('POST', `/api/cards/${other.cardId}/preview`);
  const preview = new URL(url).pathname;
  const pages = await Promise.all(
    [`/c/${name}`, preview].map(async (page) => (await fetch(`${address}${page}`)).text()),
  );
  const links = pages.flatMap((html) => html.match(/\/[cp]\/[^"'\s/]+\/(?:link|icon)-[a-z0-9-]+\.(?:jpg|png)/g) ?? []);
  const drawn = [...new Set(links)].flatMap((each) =>
    each.includes('/link-')
      ? ['link', 'picture'].flatMap((face) =>
          ['jpg', 'webp'].map((format) => each.replace('/link-', `/${face}-`).replace(/jpg$/, format)),
        )
      : each,
  );
  if (drawn.length < 5) throw new Error('the heavy card names no drawn pictures');
  const photo = WORST_INPUTS.find(({ door }) => door === 'POST /api/photos')!.make({} as Ground)[0]!;
  const answer = await fetch(`${address}/api/photos`, {
    method: 'POST',
    headers: session,
    body: new Uint8Array(photo.body as Buffer),
  });
  if (!answer.ok) throw new Error(`the largest picture was answered with ${answer.status}`);
  const { picture } = (await answer.json()) as { picture: string };
  const { id: handOut } = await ask<{ id: string }>('POST', '/api/hand-outs', {
    cardId: other.cardId,
    placement: 'Banner',
    content: { what: 'words', text: 'heath '.repeat(380) },
  });
  const { id: signature } = await ask<{ id: string }>('POST', '/api/hand-outs', {
    ...{ cardId: other.cardId, placement: 'Mail', channel: 'signature' },
  });
  const piece = async (channel: 'print' | 'backdrop' | 'pass') =>
    (await ask<{ id: string }>('POST', '/api/hand-outs', { cardId: other.cardId, placement: channel, channel })).id;
  const [paper, backdrop, pass] = [await piece('print'), await piece('backdrop'), await piece('pass')];
  const roster = async () =>
    (
      await ask<{ id: string }>('POST', '/api/roster', {
        ...{ name: 'Attack', cardId: made.cardId, columns: [{ heading: 'Email', field: 'email' }] },
        ...{ place: { sheet: 0, headingRow: 1 }, options: FIRST_OPTIONS, keepAs: null },
      })
    ).id;
  const [run, pictured] = [await roster(), await roster()];
  const heavy = { id: other.cardId, address: name, preview, drawn };
  return { ...made, heavy, picture, handOut, signature, paper, backdrop, pass, run, pictured };
}

/** Asks as a recipient and as somebody signed in, in a process of its own, until told; answers with the slowest of each in milliseconds. */
async function lookingOn<T>(
  urls: { recipient: string; signedIn: string; cookie: string },
  work: () => Promise<T>,
): Promise<{ slowest: Slowest; value: T }> {
  const child = spawn(process.execPath, [path.join(ROOT, 'commands/bench/probe.mjs'), JSON.stringify(urls)], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  let output = '';
  child.stdout.on('data', (chunk) => (output += String(chunk)));
  const ended = new Promise((resolve) => child.once('close', resolve));
  await new Promise((resolve) => child.stdout.once('data', resolve));
  const value = await work();
  child.stdin.end();
  await ended;
  return { slowest: JSON.parse(output.split('\n')[1]!) as Slowest, value };
}

/** Milliseconds that a host kept this virtual machine’s processors for others since it started (proc(5), `steal`); 0 where none is told. */
function takenAway(): number {
  try {
    const [, ...ticks] = readFileSync('/proc/stat', 'utf8').split('\n')[0]!.split(/ +/);
    return Number(ticks[7] ?? 0) * 10;
  } catch {
    return 0;
  }
}

/** Sends a shape again and again, from a process of its own; answers with the statuses that came back. */
async function attack(
  address: string,
  session: Record<string, string>,
  sent: Sent[],
  { ms, atOnce }: { ms: number; atOnce: number },
): Promise<string> {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-attack-'));
  try {
    const told = sent.map(({ body, ...rest }, at) => {
      if (body === undefined) return rest;
      const file = path.join(folder, String(at));
      writeFileSync(file, body);
      return { ...rest, body: file };
    });
    const { stdout } = await promisify(execFile)(process.execPath, [
      path.join(ROOT, 'commands/bench/attacker.mjs'),
      JSON.stringify({ address, session, sent: told, ms, atOnce }),
    ]);
    return Object.entries(JSON.parse(stdout) as Record<string, number>)
      .map(([status, count]) => `${count} × ${status}`)
      .join(', ');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Who attacks, who spends what he has, and who looks on; and what they need. */
async function stage(address: string, databaseUrl: string) {
  const attacker = await newcomer(address, 'Attacker');
  const spender = await newcomer(address, 'Spender');
  const bystander = await newcomer(address, 'Bystander');
  const unlimited = () => rowsOf(databaseUrl, 'DELETE FROM rate_counts');
  const ground = await prepare(address, attacker);
  const { cardId } = await bystander.ask<{ cardId: string }>('POST', '/api/records', {
    name: 'Ilse Varrow',
    phone: '020 7946 0182',
    email: 'ilse@tarnhope.example',
  });
  const card = `bystander-${Date.now()}`;
  await bystander.ask('POST', `/api/cards/${cardId}/publish`, { baseVersion: 1, address: card });
  const urls = {
    recipient: `${address}/c/${card}`,
    signedIn: `${address}/api/cards/${cardId}`,
    cookie: bystander.session.Cookie!,
  };
  return { attacker, spender, ground, urls, unlimited };
}

/** Sends inputs once each, so many of them at a time; answers with what came back of each and when, and how long others waited at most. */
async function sendOnce(
  address: string,
  staged: Awaited<ReturnType<typeof stage>>,
  inputs: WorstInput[],
  together: number,
) {
  const { attacker, spender, ground, urls, unlimited } = staged;
  const left = [...inputs];
  return lookingOn(urls, async () => {
    const all: (Answered & { input: WorstInput; from: number; to: number })[] = [];
    const one = async () => {
      for (let input = left.pop(); input; input = left.pop()) {
        const { door, shape, spends = false, make } = input;
        await unlimited();
        const from = Date.now();
        const { session } = spends ? spender : attacker;
        const answers = await attack(address, session, make(ground), { ms: 1, atOnce: 1 });
        all.push({ door, shape, spends, answers, input, from, to: Date.now() });
      }
    };
    await Promise.all(Array.from({ length: together }, one));
    return all;
  });
}

/**
 * Sends every worst input once, `together` of them at a time; answers with what came back of each, and how long others waited at most.
 * Where that was more than `atMost`, what was under way then is sent again, and counts if it makes them wait again: a busy machine has
 * stood still before.
 */
export async function sendEach(
  address: string,
  databaseUrl: string,
  together: number,
  atMost: Waited,
): Promise<{ all: Answered[]; slowest: Waited; suspects: string[] }> {
  const staged = await stage(address, databaseUrl);
  const { slowest: first, value: all } = await sendOnce(address, staged, WORST_INPUTS, together);
  let slowest = first;
  const over = () => (['recipient', 'signedIn'] as const).filter((who) => slowest[who] > atMost[who]);
  const suspects = all.filter(({ from, to }) =>
    over().some((who) => from < first.since[who] + first[who] && to > first.since[who]),
  );
  for (let tries = 1; suspects.length && over().length && tries < TRIES; tries += 1)
    slowest = (
      await sendOnce(
        address,
        staged,
        suspects.map(({ input }) => input),
        together,
      )
    ).slowest;
  await staged.unlimited();
  const { recipient, signedIn } = slowest;
  return { all, slowest: { recipient, signedIn }, suspects: suspects.map(({ door, shape }) => `${door}, ${shape}`) };
}

/**
 * Sends every worst input to a running application and measures how much longer somebody else's recipient and somebody else who is
 * signed in wait meanwhile than without. `told` hears of each as it is done; each is sent for {@link ATTACK_MS}, and again where somebody
 * waited too long, since a machine has other things to do as well.
 */
async function attackAll(
  address: string,
  databaseUrl: string,
  told: (attacked: Attacked) => void,
): Promise<Attacked[]> {
  const { attacker, spender, ground, urls, unlimited } = await stage(address, databaseUrl);
  const quiet = await lookingOn(urls, () => new Promise((resolve) => setTimeout(resolve, 4_000)));
  const done: Attacked[] = [];
  for (const { door, shape, spends, make } of WORST_INPUTS) {
    const sent = make(ground);
    let best: Attacked | null = null;
    for (let tries = 0, away = 0; tries < TRIES;) {
      await unlimited();
      const before = takenAway();
      const { slowest, value } = await lookingOn(urls, () =>
        attack(address, (spends ? spender : attacker).session, sent, { ms: ATTACK_MS, atOnce: AT_ONCE }),
      );
      const measured = {
        door,
        shape,
        answers: value,
        recipient: Math.max(0, slowest.recipient - quiet.slowest.recipient),
        signedIn: Math.max(0, slowest.signedIn - quiet.slowest.signedIn),
      };
      if (
        !best ||
        measured.recipient / RECIPIENT_MS + measured.signedIn / SIGNED_IN_MS <
          best.recipient / RECIPIENT_MS + best.signedIn / SIGNED_IN_MS
      )
        best = measured;
      if (best.recipient <= RECIPIENT_MS && best.signedIn <= SIGNED_IN_MS) break;
      if (takenAway() - before > TAKEN_AWAY_MS && away < TRIES_TAKEN_AWAY) away += 1;
      else tries += 1;
    }
    // Who is not let in has tried nothing.
    if (!spends && /× 401/.test(best!.answers)) throw new Error(`${door}, ${shape}: the attacker is signed out`);
    done.push(best!);
    told(best!);
  }
  await unlimited();
  return done;
}

/** The worst of each way in, for whoever looks on. */
export async function measureAttack(address: string, databaseUrl: string): Promise<Figure[]> {
  say('  the worst of everything that anybody can send …');
  const all = await attackAll(address, databaseUrl, ({ door, shape, recipient, signedIn, answers }) =>
    say(
      `    ${door}, ${shape}: a recipient waits ${recipient.toFixed(0)} ms longer, somebody signed in ${signedIn.toFixed(0)} ms (${answers})`,
    ),
  );
  const worst = (by: keyof Waited) => all.reduce((most, each) => (each[by] > most[by] ? each : most));
  const figure = (by: keyof Waited, who: string, atMost: number): Figure => ({
    name: `the longest that ${who} waits more, whatever anybody sends`,
    value: worst(by)[by],
    unit: 'ms',
    must: { atMost },
    beside: `${all.length} shapes, ${AT_ONCE} at a time for ${ATTACK_MS / 1_000} s each, the slowest answer against the slowest in quiet; worst: ${worst(by).door}, ${worst(by).shape}`,
  });
  return [figure('recipient', 'a recipient', RECIPIENT_MS), figure('signedIn', 'somebody signed in', SIGNED_IN_MS)];
}
