import { fork, type ChildProcess } from 'node:child_process';
import { setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { log } from '@/server/log';

/** A process is asked for a heartbeat this often, and is ended where it gives none for so long, in milliseconds. */
const ASK_MS = 1_000;
const SILENT_MS = 10_000;
/** Next.js compiles on its own thread while one edits. */
const SILENT_IN_DEV_MS = 60_000;
/** Without a sign for so long it is not ready for anybody. */
const SLOW_MS = 3_000;
const RESTART_MS = 1_000;
/** What it has counted is waited for so long. */
const COUNTED_MS = 1_000;

export type WatchedProcess = {
  /** Kept when it says for the first time that it works. */
  ready: Promise<void>;
  /** Whether it works and has given a heartbeat lately. */
  alive: () => boolean;
  /** What it has counted; nothing where it does not say so soon. */
  counted: () => Promise<object[]>;
  /** Asks it to end, and ends it where it has not after so many milliseconds. */
  stop: (ms: number) => Promise<void>;
};

/**
 * Starts a program of ours as a process of its own and keeps it running: one that ends by itself, or whose thread gives no heartbeat
 * any more, is started again. It says `working` once it works, answers `alive?` with `alive` and `counted?` with what it has counted, and ends when told `stop`.
 */
export function keepRunning(
  name: 'studio' | 'jobs',
  options: { data?: object; dev?: boolean; nice?: number; before?: () => void; after?: Promise<void> } = {},
): WatchedProcess {
  const program = fileURLToPath(new URL(`./${name}-process.mjs`, import.meta.url));
  const silent = options.dev ? SILENT_IN_DEV_MS : SILENT_MS;
  let child: ChildProcess | undefined;
  let ending = false;
  let works = false;
  let seen = performance.now();
  let restart: NodeJS.Timeout | undefined;
  const asked = new Set<(counted: object[]) => void>();
  let tellReady: () => void;
  const ready = new Promise<void>((resolve) => (tellReady = resolve));

  function start() {
    options.before?.();
    works = false;
    seen = performance.now();
    child = fork(program, [JSON.stringify(options.data ?? {})], { execArgv: ['--enable-source-maps'] });
    if (options.nice && child.pid)
      try {
        setPriority(child.pid, options.nice);
      } catch (error) {
        log.error({ name: (error as Error).name, process: name }, 'a process keeps its priority');
      }
    child.on('message', (message: string | { counted: object[] }) => {
      seen = performance.now();
      if (typeof message === 'object') {
        for (const tell of asked) tell(message.counted);
        asked.clear();
      }
      if (message !== 'working') return;
      works = true;
      tellReady();
    });
    child.once('error', (error) => log.error({ name: error.name, process: name }, 'a process could not be started'));
    child.once('exit', (code, signal) => {
      works = false;
      if (ending) return;
      log.error({ process: name, code, signal }, 'a process ended by itself and is started again');
      restart = setTimeout(start, RESTART_MS);
    });
  }

  const watch = setInterval(() => {
    if (!child?.connected) return;
    // While it starts it may be busy for longer than when it works.
    if (works && performance.now() - seen > silent) {
      log.error({ process: name }, 'a process gives no heartbeat and is ended');
      // From now on it is not there, though it takes a moment to end.
      works = false;
      child.kill('SIGKILL');
      return;
    }
    child.send('alive?', () => undefined);
  }, ASK_MS);

  void (options.after ?? Promise.resolve()).then(() => (ending ? undefined : start()));

  return {
    ready,
    alive: () => works && performance.now() - seen < SLOW_MS,
    counted: () =>
      new Promise((tell) => {
        if (!works || !child?.connected) return tell([]);
        const late = setTimeout(() => told([]), COUNTED_MS);
        const told = (counted: object[]) => {
          clearTimeout(late);
          asked.delete(told);
          tell(counted);
        };
        asked.add(told);
        child.send('counted?', () => undefined);
      }),
    async stop(ms) {
      ending = true;
      clearInterval(watch);
      clearTimeout(restart);
      const last = child;
      if (!last || last.exitCode !== null || last.signalCode !== null) return;
      const ended = new Promise((resolve) => last.once('exit', resolve));
      if (last.connected) last.send('stop', () => undefined);
      const patience = setTimeout(() => last.kill('SIGKILL'), ms);
      await ended;
      clearTimeout(patience);
    },
  };
}
