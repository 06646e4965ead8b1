import { fork, type ChildProcess } from 'node:child_process';
import { ROOT } from './place';
import { buildDevListener } from './release/bundles';
import { listenerOf } from './release/listener';
import { builtRelease } from './release/make';
import { Stop } from './stop';

export type Application = { child: ChildProcess; stop: () => Promise<void>; ended: Promise<number> };

/** That of this process's beginning, whatever is edited meanwhile. */
let release: Promise<string> | undefined;

/** Starts the listener as a process of its own and waits until it answers. It ends when this process does. */
export async function startApplication(
  environment: Record<string, string>,
  options: { dev: boolean },
): Promise<Application> {
  const folder = options.dev ? ROOT : await (release ??= builtRelease());
  const program = options.dev ? await buildDevListener() : listenerOf(folder);
  const child = fork(program, options.dev ? ['--dev'] : [], {
    cwd: folder,
    execArgv: ['--enable-source-maps'],
    // Nobody spreads requests over this one.
    env: { ENDING_SECONDS: '0', ...process.env, NODE_ENV: options.dev ? 'development' : 'production', ...environment },
  });
  const ended = new Promise<number>((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
  const listening = new Promise<'listening'>((resolve) => child.once('message', () => resolve('listening')));
  if ((await Promise.race([listening, ended])) !== 'listening')
    throw new Stop('The application did not start; the reason stands above.');
  return {
    child,
    ended,
    stop: async () => {
      child.kill('SIGTERM');
      await ended;
    },
  };
}
