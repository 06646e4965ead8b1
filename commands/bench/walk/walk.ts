import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { needWrk } from '../../packages';
import { HOME, ROOT } from '../../place';
import { say, Stop } from '../../stop';
import type { Figure } from '../figure';

const GUIDE = path.join(ROOT, 'docs/running.md');

/** The commands of a section of a document of ours: its blocks marked as `sh`, in order. */
export function commandsIn(text: string, section: string): string[] {
  const [, of = ''] = text.split(new RegExp(`^## ${section}$`, 'm'));
  return [...of.split(/^## /m)[0]!.matchAll(/^```sh\n([^]*?)^```$/gm)].map(([, block]) => block!);
}

/*
 * A machine within this one, whose disk is this one's with changes of its own that are thrown away, and whose programs are all that is
 * running. What installs packages finds them there; a service manager, which needs to be a machine's first process, has a stand-in.
 */
const OVER = `
set -e
for folder in etc opt var usr/local; do
  mkdir -p "$W/$folder" "$W/aside/$folder"
  mount -t overlay overlay -o "lowerdir=/$folder,upperdir=$W/$folder,workdir=$W/aside/$folder" "/$folder"
done`;
const MACHINE = `${OVER}
mount -t tmpfs tmpfs /run
for folder in /etc/postgresql /var/lib/postgresql; do mount -t tmpfs -o mode=755 tmpfs "$folder"; done
rm -rf /var/lib/heathland
mkdir -p /run/postgresql && chown postgres:postgres /run/postgresql /var/lib/postgresql
printf '127.0.0.1 localhost studio.example c.example static.example\\n' >/etc/hosts
export PATH="$W/bin:$PATH" GIT_CONFIG_GLOBAL="$W/gitconfig"
# What the packages would have started.
pg_createcluster "$(ls /usr/lib/postgresql | sort -n | tail -n 1)" main >/dev/null
started=$(date +%s%N)
bash -e "$W/first.sh" >&2
export FIRST_MS=$((($(date +%s%N) - started) / 1000000))
exec unshare --net sh -c 'ip link set lo up && pg_ctlcluster "$(ls /usr/lib/postgresql | sort -n | tail -n 1)" main start && exec "$0" --import tsx commands/bench/walk/inside.ts' "$NODE"
`;

const SHIMS: Record<string, string> = {
  // Nothing is fetched: the packages are there, or it says which is not.
  'apt-get':
    '#!/bin/sh\nfor name in "$@"; do case $name in install|--yes) ;; *) dpkg -s "$name" >/dev/null || exit 1;; esac; done\n',
  systemctl: `#!/bin/sh\nexec "$NODE" "${path.join(ROOT, 'commands/bench/walk/systemctl.mjs')}" "$@"\n`,
};

const PROGRAMS = ['nginx', 'git', 'openssl', 'ip', 'unshare', 'pg_createcluster'];
const programs = (): string => `${process.env.PATH}:/usr/sbin:/sbin`;

/** What keeps a machine from being made within this one, in words; null when one can be. */
export function noMachine(): string | null {
  if (process.getuid?.() !== 0) return 'A machine within this one takes root.';
  const has = (name: string) => spawnSync('which', [name], { env: { ...process.env, PATH: programs() } }).status === 0;
  const missing = PROGRAMS.filter((name) => !has(name));
  if (missing.length > 0) return `Not on this machine: ${missing.join(', ')}.`;
  mkdirSync(HOME, { recursive: true });
  const folder = mkdtempSync(path.join(HOME, 'walk-'));
  const tried = spawnSync('unshare', ['--mount', '--pid', '--net', '--fork', 'sh', '-c', `${OVER}\ntouch /etc/hosts`], {
    env: { ...process.env, PATH: programs(), W: folder },
  });
  rmSync(folder, { recursive: true, force: true });
  return tried.status === 0 ? null : 'This machine’s kernel lets nobody lay folders over its own.';
}

/**
 * Follows `docs/running.md` word for word on a machine within this one, from `git clone` to a card published over https, and on: an upgrade
 * with both processes serving, another secret, last night's archive on another machine. As root, which mounting takes.
 */
export async function measureWalk(): Promise<Figure[]> {
  needWrk();
  say('  docs/running.md, word for word, on a machine within this one (about eight minutes) …');
  return walk(commandsIn(readFileSync(GUIDE, 'utf8'), 'Putting it up')[0]!, true);
}

/** The same with a release that is there, as far as the first card over https. */
export const measurePuttingUp = (release: string): Promise<Figure[]> =>
  walk(
    `mkdir -p /opt/heathland/releases
cp -a "${release}" /opt/heathland/releases/1
ln -sfn releases/1 /opt/heathland/current`,
    false,
  );

async function walk(first: string, whole: boolean): Promise<Figure[]> {
  const why = noMachine();
  if (why) throw new Stop(why);
  const folder = mkdtempSync(path.join(HOME, 'walk-'));
  try {
    mkdirSync(path.join(folder, 'bin'));
    for (const [name, text] of Object.entries(SHIMS))
      writeFileSync(path.join(folder, 'bin', name), text, { mode: 0o755 });
    const upstream = path.join(folder, 'upstream.git');
    if (whole) spawnSync('git', ['clone', '--quiet', '--bare', ROOT, upstream], { stdio: 'inherit' });
    writeFileSync(
      path.join(folder, 'gitconfig'),
      `[url "file://${upstream}"]\n  insteadOf = https://code.example/heathland.git\n[user]\n  name = nobody\n  email = nobody@heath.example\n[safe]\n  directory = *\n`,
    );
    writeFileSync(path.join(folder, 'first.sh'), first);
    const answer = path.join(folder, 'figures.json');
    let said = '';
    const code = await new Promise<number | null>((resolve) => {
      const machine = spawn(
        'unshare',
        ['--mount', '--pid', '--fork', '--kill-child', '--mount-proc', 'bash', '-c', MACHINE],
        {
          cwd: ROOT,
          env: {
            ...{ PATH: programs(), HOME: process.env.HOME, W: folder, NODE: process.execPath },
            ...{ WHOLE: whole ? 'yes' : '', NODE_ENV: undefined as never },
          },
          stdio: ['ignore', 'pipe', 'pipe'],
        },
      );
      for (const stream of [machine.stdout, machine.stderr])
        stream.on('data', (chunk: Buffer) => {
          said += chunk.toString();
          if (whole) process.stdout.write(chunk);
        });
      machine.once('close', resolve);
    });
    if (code !== 0 || !existsSync(answer))
      throw new Error(`the walk ended with ${code}${whole ? '; what failed stands above' : `:\n${said}`}`);
    return JSON.parse(readFileSync(answer, 'utf8')) as Figure[];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
