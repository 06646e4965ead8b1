import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { say, Stop } from './stop';

const isRoot = () => process.getuid?.() === 0;

/** The folder of Debian's newest programs of PostgreSQL that has this one, or null when there is none. */
export function postgresPrograms(program: 'initdb' | 'pg_dump' = 'initdb'): string | null {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root)
    ? readdirSync(root)
        .map(Number)
        .filter((version) => version >= 13)
    : [];
  const newest = versions.sort((a, b) => b - a).find((version) => existsSync(`${root}/${version}/bin/${program}`));
  return newest ? `${root}/${newest}/bin` : null;
}

/** Installs Debian's packages when root; otherwise stops with the one line that an administrator runs. */
function install(what: string, packages: string[]): void {
  const line = `apt-get update && apt-get -o DPkg::Lock::Timeout=300 install -y --no-install-recommends ${packages.join(' ')}`;
  if (!isRoot()) throw new Stop(`${what} is not installed. Run this line as root, then start again:\n  ${line}`);
  say(`Installing ${what} …`);
  const installed = () =>
    spawnSync('sh', ['-c', line], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, encoding: 'utf8' });
  let done = installed();
  // The lists' lock is not waited for by apt-get itself.
  for (let tries = 0; done.status !== 0 && /could not get lock/i.test(done.stderr) && tries < 30; tries += 1) {
    spawnSync('sleep', ['10']);
    done = installed();
  }
  if (done.status !== 0) throw new Stop(`${what} could not be installed by: ${line}\n${done.stderr.slice(-1_500)}`);
}

export function needPostgres(): string {
  const found = postgresPrograms();
  if (found) return found;
  install('Debian’s PostgreSQL', ['postgresql']);
  const now = postgresPrograms();
  if (!now) throw new Stop('PostgreSQL was installed, but its programs are not under /usr/lib/postgresql.');
  return now;
}

/** What writes and reads dumps, which a machine without a server of its own has by itself. */
export function needPostgresClient(): string {
  const found = postgresPrograms('pg_dump');
  if (found) return found;
  install('PostgreSQL’s client', ['postgresql-client']);
  const now = postgresPrograms('pg_dump');
  if (!now) throw new Stop('PostgreSQL’s client was installed, but its programs are not under /usr/lib/postgresql.');
  return now;
}

export const CHROMIUM = '/usr/bin/chromium';

export function needChromium(): void {
  if (!existsSync(CHROMIUM)) install('Debian’s Chromium', ['chromium']);
}

/** What tests hold contact files, typefaces, archives, codes and documents against: readers of vCard, of fonts and of tags in Python, unzip, zbar, poppler, qpdf, mutool, openssl, LibreOffice. */
export function needReaders(): void {
  const there = [
    '/usr/lib/python3/dist-packages/vobject',
    '/usr/lib/python3/dist-packages/fontTools',
    '/usr/lib/python3/dist-packages/PyQt6/QtNfc.abi3.so',
    ...[
      '/usr/bin/unzip',
      '/usr/bin/zbarimg',
      '/usr/bin/pdftoppm',
      '/usr/bin/qpdf',
      '/usr/bin/mutool',
      '/usr/bin/openssl',
      '/usr/bin/soffice',
    ],
    '/usr/lib/python3/dist-packages/uno.py',
  ];
  const packages = [
    'python3-vobject',
    'python3-fonttools',
    'python3-pyqt6.qtnfc',
    'unzip',
    'zbar-tools',
    'poppler-utils',
    'qpdf',
    'mupdf-tools',
    'openssl',
    'libreoffice-calc-nogui',
    'python3-uno',
  ];
  if (!there.every((each) => existsSync(each))) install(`Debian’s ${packages.join(', ')}`, packages);
}

/** What deploy/ is for: its files are tried with the programs themselves. */
export function needDeployed(): void {
  const there = ['/usr/sbin/nginx', '/usr/bin/systemd-analyze', '/usr/bin/openssl', '/usr/sbin/ip', '/usr/bin/git'];
  if (!there.every((each) => existsSync(each)))
    install('Debian’s nginx, systemd, openssl, iproute2 or git', [
      'nginx-light',
      'systemd',
      'openssl',
      'iproute2',
      'git',
    ]);
}

export function needWrk(): void {
  if (!existsSync('/usr/bin/wrk')) install('Debian’s load generator', ['wrk']);
}
