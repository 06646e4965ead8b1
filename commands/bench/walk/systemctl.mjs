/*
 * A stand-in for what a service manager does with the units of deploy/, where none can run: starts `ExecStart` as its user with its
 * environment, starts it again when it ends, tells it to end, and comes back when `ExecStartPost` has. Timers are only looked for.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';

const RUN = '/run/units';
mkdirSync(RUN, { recursive: true });
const words = process.argv.slice(2).filter((word) => word !== '--now');
const [verb, ...units] = words;

if (verb === '--supervise') supervise(units[0]);
else if (verb !== 'daemon-reload') for (const unit of units) act(unit);

function act(unit) {
  if (unit === 'nginx') {
    const running = existsSync('/run/nginx.pid');
    process.exitCode = spawnSync('nginx', running ? ['-s', 'reload'] : [], { stdio: 'inherit' }).status ?? 1;
    return;
  }
  const { text, instance } = fileOf(unit);
  if (unit.endsWith('.timer')) return;
  if (verb === 'stop' || verb === 'restart') stop(unit);
  if (verb === 'stop') return;
  spawn(process.execPath, [process.argv[1], '--supervise', unit], { detached: true, stdio: 'ignore' }).unref();
  const after = settingOf(text, 'ExecStartPost', instance);
  if (after) run(after.replace(/^-/, ''), text, instance, 'inherit', spawnSync);
}

function fileOf(unit) {
  const [, name, instance = '', kind = 'service'] = /^([a-z-]+@?)([^.]*?)(?:\.([a-z]+))?$/.exec(unit);
  return { text: readFileSync(`/etc/systemd/system/${name}.${kind}`, 'utf8'), instance };
}

/** The first setting of a name, with the instance's name in it. */
function settingOf(text, name, instance) {
  return new RegExp(`^${name}=(.*)$`, 'm').exec(text)?.[1].replaceAll('%i', instance);
}

function run(command, text, instance, stdio, how) {
  const environment = {};
  // Quotes around a value are not part of it (systemd.exec(5)).
  for (const line of readFileSync(settingOf(text, 'EnvironmentFile', instance), 'utf8').split('\n')) {
    const [, name, value] = /^([A-Z0-9_]+)='?(.*?)'?$/.exec(line) ?? [];
    if (name) environment[name] = value;
  }
  const [name, value] = settingOf(text, 'Environment', instance).split('=');
  environment[name] = value;
  const user = settingOf(text, 'User', instance);
  return how('setpriv', [`--reuid=${user}`, `--regid=${user}`, '--clear-groups', '--', ...command.split(' ')], {
    cwd: settingOf(text, 'WorkingDirectory', instance),
    env: { PATH: '/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin', ...environment },
    stdio,
  });
}

function supervise(unit) {
  const { text, instance } = fileOf(unit);
  const log = openSync(`/var/log/${unit}.log`, 'a');
  const start = () => {
    const child = run(settingOf(text, 'ExecStart', instance), text, instance, ['ignore', log, log], spawn);
    writeFileSync(`${RUN}/${unit}`, `${process.pid} ${child.pid}`);
    child.once('exit', () => setTimeout(start, 1_000));
  };
  start();
}

function stop(unit) {
  const kept = `${RUN}/${unit}`;
  if (!existsSync(kept)) return;
  const [supervisor, child] = readFileSync(kept, 'utf8').split(' ').map(Number);
  process.kill(supervisor, 'SIGKILL');
  rmSync(kept);
  // One that has ended and that nobody asked after is a zombie (proc(5)).
  const alive = (pid) => existsSync(`/proc/${pid}/stat`) && !/\) Z /.test(readFileSync(`/proc/${pid}/stat`, 'utf8'));
  spawnSync('kill', ['-TERM', String(child)]);
  const began = Date.now();
  while (alive(child) && Date.now() - began < 15_000) spawnSync('sleep', ['0.05']);
  if (alive(child)) throw new Error(`${unit} did not end`);
}
