import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { composeDraft, withheldFrom, type Draft } from '../../src/core/card';
import type { PersonRecord } from '../../src/core/record';
import { loadWords } from '../../src/core/messages';
import { proveSignature, SIGNATURE_ROOM } from '../../src/core/proof/signature';
import { FIRST_SIGNATURE, writeSignature } from '../../src/core/signature';
import { keptMails, messageIdOf, writeMail } from '../../src/server/mail';
import { startApplication, type Application } from '../application';
import { asOwner } from '../cluster/databases';
import { freePort } from '../cluster/ports';
import { ROOT } from '../place';
import { say } from '../stop';
import { asking, signedIn, type Account, type Asking } from './account';
import { pause } from './database';
import type { Figure } from './figure';
import { loads, median } from './load';

const FROM = 'cards@heath.example';
const ROUNDS = 20;
const A_ROUND = 30;
/** Mails wait longer and longer for a tray that is away; after so long nothing more is waited for. */
const LONGEST_MS = 180_000;

type Opened = { record: PersonRecord } & Draft;

/** Signatures of every published card of an account, through its own screens: pictures linked and inside, in bytes. */
async function sizes(
  ask: Asking,
): Promise<{ linked: number; inside: number; passed: number; of: number; compositions: Opened[]; link: string }> {
  const { people } = await ask<{ people: { cards: { id: string; state: string }[] }[] }>('GET', '/api/people');
  const cards = people.flatMap(({ cards: own }) => own).filter(({ state }) => state === 'published');
  const found = { linked: 0, inside: 0, passed: 0, of: 0, compositions: [] as Opened[], link: '' };
  for (const { id: cardId } of cards) {
    const { id } = await ask<{ id: string }>('POST', '/api/hand-outs', {
      cardId,
      placement: 'Mail',
      channel: 'signature',
    });
    for (const pictures of ['inside', 'linked'] as const) {
      type Told = {
        link: string;
        variants: Record<string, { signature: { html: string }; proof: { passed: boolean } }>;
      };
      const told = await ask<Told>('PUT', `/api/hand-outs/${id}/signature`, { ...FIRST_SIGNATURE, pictures });
      for (const { signature, proof } of Object.values(told.variants)) {
        found[pictures] = Math.max(found[pictures], Buffer.byteLength(signature.html));
        found.of += 1;
        found.passed += proof.passed ? 1 : 0;
      }
      found.link = told.link;
    }
    found.compositions.push(await ask<Opened>('GET', `/api/cards/${cardId}`));
  }
  return found;
}

/** Seconds for five hundred signatures, each written and proven, on one core. */
async function fiveHundred(cards: Opened[], link: string): Promise<number> {
  await loadWords('en');
  const out = cards.flatMap((draft) => {
    const composed = composeDraft(draft.record, draft, 'GB');
    return composed.ok ? [{ ...draft, composition: composed.value }] : [];
  });
  const began = performance.now();
  for (let at = 0; at < 500; at += 1) {
    const { composition, record, lines } = out[at % out.length]!;
    const context = { language: 'en', link, photo: null, logo: null };
    const signature = writeSignature(composition, { layout: 'beside', parts: FIRST_SIGNATURE.message }, context);
    const withheld = withheldFrom(record, lines, 'signature', 'GB');
    proveSignature(signature, { composition, withheld, link, pictures: 'linked', pictureBytes: 0 });
  }
  return (performance.now() - began) / 1_000;
}

/** Sizes and rates of signatures, and how fast a script is given one. */
export async function measureSignatures(address: string, account: Account): Promise<Figure[]> {
  const session = await signedIn(address, account);
  const { linked, inside, passed, of, compositions, link } = await sizes(asking(address, session));
  const seconds = await fiveHundred(compositions, link);
  const { page, signature } = await loads({ page: { url: link }, signature: { url: `${link}/signature.html` } });
  const share = median(signature.run.turns.map((turn, at) => turn.perSecond / page.run.turns[at]!.perSecond));
  return [
    {
      name: 'HTML of a signature, pictures linked',
      value: linked,
      unit: 'bytes',
      must: { atMost: SIGNATURE_ROOM.linked },
      beside: `the largest of ${of / 2}`,
    },
    {
      name: 'HTML of a signature, pictures inside',
      value: inside,
      unit: 'bytes',
      must: { atMost: SIGNATURE_ROOM.inside },
      beside: `the largest of ${of / 2}, as it is copied`,
    },
    {
      name: 'signatures of the demo that pass their proof',
      value: passed / of,
      unit: 'of all',
      must: { atLeast: 1 },
      beside: `${passed} of ${of}: every published card, both variants, both ways of pictures`,
    },
    {
      name: 'five hundred signatures made and proven, one core',
      value: seconds,
      unit: 's',
      must: { atMost: 20 },
      beside: `${(500 / seconds).toFixed(0)} a second`,
    },
    {
      name: 'address for scripts, against the card’s page',
      value: share,
      unit: 'of its rate',
      must: { atLeast: 0.25 },
      beside: `${signature.run.perSecond.toFixed(0)} a second against ${page.run.perSecond.toFixed(0)}, slices in turns; ${signature.run.failures + page.run.failures} failures`,
    },
  ];
}

/** Every hand-out of the demo, from the bytes that recipients get: of its codes and tags, signatures and mails, pages and contact files. */
export async function measureHandOuts(environment: Record<string, string>): Promise<Figure[]> {
  const child = spawn(process.execPath, ['--import', 'tsx', path.join(ROOT, 'commands/main.ts'), 'prove', '--json'], {
    cwd: ROOT,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const told: Buffer[] = [];
  child.stdout.on('data', (more: Buffer) => told.push(more));
  await new Promise((ended) => child.once('close', ended));
  const last = Buffer.concat(told).toString('utf8').trim().split('\n').at(-1) ?? '';
  const { proofs, failing } = JSON.parse(last) as { proofs: number; failing: number };
  return [
    {
      name: 'hand-outs of the demo that pass their proof',
      value: (proofs - failing) / proofs,
      unit: 'of all',
      must: { atLeast: 1 },
      beside: `${proofs - failing} of ${proofs} outputs of every hand-out of every card that is out, from the served bytes`,
    },
  ];
}

/** A tray in a process of its own, once it takes mail. */
async function startedTray(folder: string, port: number): Promise<ChildProcess> {
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', path.join(ROOT, 'commands/main.ts'), 'mail', 'tray', String(port)],
    {
      cwd: ROOT,
      env: { ...process.env, MAIL_TRAY: folder },
      stdio: ['ignore', 'pipe', 'ignore'],
    },
  );
  await new Promise<void>((resolve, reject) => {
    child.stdout!.once('data', () => resolve());
    child.once('exit', () => reject(new Error('the tray ended by itself')));
  });
  return child;
}

/** Mails as acts of members leave them in the outbox; answers with their Message-IDs. */
async function post(databaseUrl: string, count: number): Promise<string[]> {
  const ids = Array.from({ length: count }, () => randomUUID());
  await asOwner(databaseUrl, async (client) => {
    const { rows } = await client.query<{ id: string; organisation_id: string }>(
      'SELECT id, organisation_id FROM users WHERE left_at IS NULL',
    );
    for (const [at, id] of ids.entries()) {
      const user = rows[at % rows.length]!;
      const to = { name: '', address: `somebody-${at}@heath.example` };
      const message = await writeMail({
        id: messageIdOf(id, FROM),
        date: new Date(),
        from: { name: 'Bench', address: FROM },
        to,
        subject: 'A mail',
        text: 'Words',
      });
      await client.query(
        `INSERT INTO outbox (id, organisation_id, user_id, kind, sender, recipient, message, created_at, due_at, until)
         VALUES ($1, $2, $3, 'bench', $4, $5, $6, now(), now(), now() + interval '1 day')`,
        [id, user.organisation_id, user.id, FROM, to.address, message],
      );
    }
  });
  return ids.map((id) => messageIdOf(id, FROM));
}

/** Application and tray are killed again and again while mail is sent: what arrives in the end, and how often twice. */
export async function measureMailKills(environment: Record<string, string>): Promise<Figure[]> {
  say(`  application and tray killed ${ROUNDS} times while mail is sent …`);
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-bench-mail-'));
  const port = await freePort();
  const own = { ...environment, MAIL_SERVER: `smtp://127.0.0.1:${port}`, MAIL_FROM: FROM };
  const wanted: string[] = [];
  let [tray, application]: [ChildProcess, Application] = [
    await startedTray(folder, port),
    await startApplication(own, { dev: false }),
  ];
  try {
    for (let round = 0; round < ROUNDS; round += 1) {
      wanted.push(...(await post(environment.DATABASE_URL!, A_ROUND)));
      // Anywhere between the first look at the outbox and the last mail.
      await pause(300 + ((round * 137) % 900));
      if (round % 2 === 0) {
        tray.removeAllListeners('exit');
        tray.kill('SIGKILL');
        await pause(400);
        tray = await startedTray(folder, port);
      } else {
        application.child.kill('SIGKILL');
        await application.ended;
        application = await startApplication(own, { dev: false });
      }
    }
    const began = performance.now();
    const waiting = () =>
      asOwner(environment.DATABASE_URL!, async (client) => {
        // What a process had that was killed is another's after its lease: the clock is turned on for it here.
        await client.query(
          `UPDATE outbox SET leased_until = now(), due_at = now() WHERE message IS NOT NULL AND leased_until > now() + interval '20 seconds'`,
        );
        const { rows } = await client.query<{ count: string }>('SELECT count(*) FROM outbox WHERE message IS NOT NULL');
        return Number(rows[0]!.count);
      });
    while ((await waiting()) > 0 && performance.now() - began < LONGEST_MS) await pause(1_000);
    const kept = (await keptMails(folder)).map(({ id }) => id);
    const arrived = wanted.filter((id) => kept.includes(id)).length;
    const twice = kept.length - new Set(kept).size;
    return [
      {
        name: 'mails that arrive though application and tray are killed',
        value: arrived / wanted.length,
        unit: 'of all',
        must: { atLeast: 1 },
        beside: `${arrived} of ${wanted.length} in ${ROUNDS} rounds of kill -9; ${twice} arrived twice, with the same Message-ID`,
      },
    ];
  } finally {
    tray.removeAllListeners('exit');
    tray.kill('SIGKILL');
    await application.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
