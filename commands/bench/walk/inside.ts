import { spawn } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { say } from '../../stop';
import { pause } from '../database';
import type { Figure } from '../figure';
import { slice } from '../load';
import { client, over, scriptsOf, type Ask } from './client';
import { commandsIn } from './walk';

/* What is done on the machine that `walk.ts` makes: the commands of the guide, and what its reader and recipients would do meanwhile. */
const { W: FOLDER = '', FIRST_MS = '', WHOLE = '' } = process.env;
const GUIDE = readFileSync('docs/running.md', 'utf8');
const CERTIFICATE = '/etc/ssl/heathland/fullchain.pem';
const [STUDIO, CARD] = ['https://studio.example', 'https://c.example/c/maud'];
/** Until caches, pools and garbage have come to rest. */
const REST_MS = 20_000;
const PASSWORD = 'a funicular in the morning fog';

/** Commands in one shell that ends at the first one that fails; answers what they said. */
async function follow(commands: string): Promise<string> {
  let said = '';
  const shell = spawn('bash', ['-e', '-c', commands], { cwd: '/', stdio: ['ignore', 'pipe', 'pipe'] });
  for (const stream of [shell.stdout, shell.stderr]) stream.on('data', (chunk) => (said += String(chunk)));
  const code = await new Promise<number | null>((resolve) => shell.once('close', resolve));
  if (code !== 0) throw new Error(`these ended with ${code}:\n${commands}\n${said}\n${surprises().join('\n')}`);
  return said;
}

const logs = (): string =>
  readdirSync('/var/log')
    .filter((name) => name.startsWith('heathland@'))
    .map((name) => readFileSync(path.join('/var/log', name), 'utf8'))
    // A line that is being written has no end yet.
    .map((text) => text.slice(0, text.lastIndexOf('\n') + 1))
    .join('');

/** What somebody who reads the log would stop at: lines that are none of ours, warnings and faults. */
const surprises = (): string[] =>
  logs()
    .split('\n')
    .filter((line) => line !== '' && (!line.startsWith('{') || (JSON.parse(line) as { level: number }).level >= 40));

/** Signs in with the first password, chooses one of their own, publishes a card: as the screens do. Answers with the session. */
async function publishFirst(ask: Ask, first: string): Promise<Record<string, string>> {
  const must = async (url: string, headers: object, body: object) => {
    const answer = await ask(url, { method: 'POST', headers, body });
    if (answer.status !== 200) throw new Error(`${url} was answered with ${answer.status}: ${answer.text}`);
    return answer;
  };
  const signIn = async (password: string) => {
    const answer = await must(
      `${STUDIO}/api/sign-in`,
      { Origin: STUDIO },
      { email: 'maud@tarnhope.example', password },
    );
    return { Origin: STUDIO, Cookie: answer.cookies.join('; ') };
  };
  const changing = await signIn(first);
  await must(`${STUDIO}/api/password`, changing, { present: first, next: PASSWORD });
  const session = await signIn(PASSWORD);
  const person = { name: 'Maud Aldercott', phone: '020 7946 0182', email: 'maud@tarnhope.example' };
  const { cardId } = JSON.parse((await must(`${STUDIO}/api/records`, session, person)).text) as { cardId: string };
  await must(`${STUDIO}/api/cards/${cardId}/publish`, session, { baseVersion: 1, address: 'maud' });
  return session;
}

const wanted = async (ask: Ask, url: string, text: string): Promise<string | null> => {
  const answer = await ask(url);
  return answer.status === 200 && answer.text.includes(text) ? null : `${answer.status}`;
};

/** Resident memory of the processes whose command line has this, in MB. */
function residentOf(program: RegExp): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
        const [, kb] = /^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
        return program.test(command) && !command.includes('setpriv') && kb ? [Number(kb) / 1_024] : [];
      } catch {
        return [];
      }
    });
}

/** Both processes take the new release while recipients look at a card and somebody has the studio open. */
async function upgraded(ask: Ask): Promise<Figure[]> {
  const seen = new Set<string>();
  const views = [1, 2, 3, 4].map(() => over(() => wanted(ask, CARD, 'Maud Aldercott'), 10));
  const pages = over(async () => {
    const page = await ask(`${STUDIO}/sign-in`);
    if (page.status !== 200) return `sign-in ${page.status}`;
    const scripts = scriptsOf(page.text);
    scripts.forEach((script) => seen.add(script));
    // Those of the page as it is now, and of all that somebody may still have open.
    for (const script of seen) {
      const { status } = await ask(STUDIO + script);
      if (status !== 200) return `script ${status}`;
    }
    return null;
  }, 100);
  await pause(2_000);
  const old = new Set(seen);
  await follow(commandsIn(GUIDE, 'Upgrading')[0]!);
  await pause(4_000);
  const told = await Promise.all(views.map((end) => end()));
  const opened = await pages();
  const added = [...seen].filter((script) => !old.has(script)).length;
  const wrong = [...told, opened].flatMap((each) => Object.entries(each.wrong));
  const lost = told.reduce((sum, each) => sum + Object.values(each.wrong).reduce((a, b) => a + b, 0), 0);
  const proxy =
    lost > 0 ? readFileSync('/var/log/nginx/error.log', 'utf8').trim().split('\n').slice(-20).join(' | ') : '';
  const missing = Object.values(opened.wrong).reduce((a, b) => a + b, 0);
  return [
    {
      name: 'answers to recipients lost while both processes take a new release',
      value: lost,
      unit: 'answers',
      must: { atMost: 0 },
      beside:
        `${told.reduce((sum, each) => sum + each.done, 0).toLocaleString('en-GB')} views through the proxy by four recipients, the build beside them; ${wrong.map((each) => each.join(' ')).join(', ') || 'nothing went wrong'} ${proxy}`.trim(),
    },
    {
      name: 'pages of the studio that did not open, or lacked a script of either release, meanwhile',
      // A release without a script of its own would prove nothing.
      value: added > 0 ? missing : 1,
      unit: 'pages',
      must: { atMost: 0 },
      beside: `${opened.done} times all scripts of the release before and of the new one, which had ${added} others`,
    },
  ];
}

/** From the release to a published card; answers with how long that took, and somebody's session. */
async function putUp() {
  const [, ...rest] = commandsIn(GUIDE, 'Putting it up');
  const began = performance.now();
  const said = await follow(rest.join('\n'));
  const ask = client(CERTIFICATE);
  const [, first = ''] = /first password is (\S+);/.exec(said) ?? [];
  const session = await publishFirst(ask, first);
  if (await wanted(ask, CARD, 'Maud Aldercott')) throw new Error('the card does not stand at its address');
  if (await wanted(ask, `${CARD}.vcf`, 'FN:Maud Aldercott')) throw new Error('the contact file is not given');
  const seconds = (Number(FIRST_MS) + performance.now() - began) / 1_000;
  const size = (await follow('du -sm /opt/heathland/releases/1 | cut -f1')).trim();
  const published: Figure = {
    name: 'from git clone to the first card published over https, by the commands of docs/running.md alone',
    value: seconds,
    unit: 's',
    must: { atMost: 600 },
    beside: `${(Number(FIRST_MS) / 1_000).toFixed(0)} s of it clone, npm packages and build; the release takes ${size} MB; the service manager is a stand-in that starts the units of deploy/`,
  };
  return { ask, session, published };
}

function memoryAtRest(): Figure {
  const [listeners, studios] = [residentOf(/commands\/main\.mjs serve/), residentOf(/studio-process/)];
  const all = { listeners, studios, jobs: residentOf(/jobs-process/), compute: residentOf(/compute\.mjs/) };
  return {
    name: 'memory at rest of one application: its listener and its studio',
    value: Math.max(...listeners) + Math.max(...studios),
    unit: 'MB',
    must: { atMost: 300 },
    beside: `${Object.entries(all)
      .map(([name, each]) => `${name} ${each.map(Math.round).join(', ')}`)
      .join('; ')} MB resident`,
  };
}

/** Views through the proxy, beside the same page as a file of the proxy's own. */
async function viewsBesideFile(ask: Ask): Promise<Figure> {
  mkdirSync('/srv/static', { recursive: true });
  writeFileSync('/srv/static/page.html', (await ask(CARD)).text);
  writeFileSync(
    '/etc/nginx/conf.d/static.conf',
    `server { listen 443 ssl http2; server_name static.example; gzip off; root /srv/static; ssl_certificate ${CERTIFICATE}; ssl_certificate_key /etc/ssl/heathland/privkey.pem; }`,
  );
  await follow('systemctl reload nginx');
  const measured = async (url: string) => {
    await slice(url, 3);
    const { answers, microseconds, failures } = await slice(url, 6);
    return { rate: answers / (microseconds / 1e6), failures };
  };
  const [views, file] = [await measured(CARD), await measured('https://static.example/page.html')];
  const shown = (rate: number) => Math.round(rate).toLocaleString('en-GB');
  return {
    name: 'views over https through nginx with two processes, against nginx’s own file of the same page',
    value: views.rate / file.rate,
    unit: 'of its rate',
    must: { atLeast: 0.05 },
    beside: `${shown(views.rate)} against ${shown(file.rate)} a second, 50 connections, ${views.failures} failures`,
  };
}

/** Back to the release before, forth again, another secret, another machine: each by the guide, and each time the card is there. */
async function whatAnOperatorDoes(ask: Ask, session: Record<string, string>): Promise<string> {
  const shown = async (after: string) => {
    if (await wanted(ask, CARD, 'Maud Aldercott')) throw new Error(`${after} the card is not shown`);
  };
  await follow(commandsIn(GUIDE, 'Upgrading')[1]!);
  await shown('after the way back');
  await follow('ln -sfn releases/2 /opt/heathland/current; systemctl restart heathland@4600 heathland@4601');
  await follow(commandsIn(GUIDE, 'Another secret')[0]!);
  await shown('with another secret');
  const people = await ask(`${STUDIO}/people`, { headers: session });
  if (people.status !== 200) throw new Error(`with another secret the session ended: ${people.status}`);
  // Another machine has nothing of the first one but the archive: its database, files and secret are others.
  await follow(`systemctl stop heathland@4600 heathland@4601; rm -rf /var/lib/heathland/files
    su postgres -c "dropdb heathland"; su postgres -c "createdb --owner heathland --encoding UTF8 --template template0 heathland"
    sed -i "s|^SESSION_SECRET=.*|SESSION_SECRET='$(openssl rand -base64 32)'|" /etc/heathland/settings`);
  const drilled = await follow('heathland restore --drill /var/lib/heathland/before-2.tar');
  await follow(commandsIn(GUIDE, 'On another machine')[0]!);
  await follow('systemctl start heathland@4600 heathland@4601');
  await shown('on another machine');
  return drilled.split('\n')[1] ?? '';
}

const surprised = (drilled = ''): Figure => {
  const odd = [...new Set(surprises())];
  return {
    name: 'lines in the log that somebody who reads it would stop at',
    value: odd.length,
    unit: 'lines',
    must: { atMost: 0 },
    beside: odd.slice(0, 5).join(' | ') || `of ${logs().split('\n').length}; the drill: ${drilled}`,
  };
};

async function main() {
  const { ask, session, published } = await putUp();
  const figures = [published];
  if (WHOLE) {
    say(`  published after ${published.value.toFixed(0)} s`);
    await pause(REST_MS);
    figures.push(memoryAtRest(), await viewsBesideFile(ask));
    await pause(3_000);
    // What a next release changes: a class and a rule.
    await follow(`cd ${FOLDER} && git clone --quiet upstream.git next && cd next
      sed -i "s/main className=\\"entry\\"/main className=\\"entry again\\"/" src/ui/entry/sign-in.tsx && echo ".another-release { color: inherit; }" >>src/ui/theme/theme.scss
      git commit --quiet --all --message "Another release" && git push --quiet`);
    figures.push(...(await upgraded(ask)));
    say('  upgraded');
  }
  figures.push(surprised(WHOLE && (await whatAnOperatorDoes(ask, session))));
  writeFileSync(path.join(FOLDER, 'figures.json'), JSON.stringify(figures));
}

main().then(
  () => process.exit(0),
  (error: unknown) => {
    process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
    process.exit(1);
  },
);
