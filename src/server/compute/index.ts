import { fork } from 'node:child_process';
import { setPriority } from 'node:os';
import { Refusal } from '@/core/errors';
import { computeProgram, settings } from '@/server/env';
import { log } from '@/server/log';
import { metrics } from '@/server/metrics';
import { DEADLINES, type Kind } from './deadlines';
import type { Input, Output, StreamKind } from './kinds';
import { forgetParcels, packed } from './parcel';
import { createPool, type Pool } from './pool';

export { type Kind } from './deadlines';
export { createPool } from './pool';
export type { ProofOrder } from './tasks/proof';

/** So much lower than whatever answers people (nice levels). */
const LOWER = 10;
/** JavaScript's memory in a process of the pool, in megabytes: a contact file of 30 MB needs about a quarter of it. */
const HEAP_MB = 768;
const QUEUE = 60;
const QUEUE_OF_ONE = 25;
/** So long a piece of work that took too long is not tried again, in milliseconds. */
const REFUSED_MS = 60_000;
const MOST_REFUSED = 500;

export type Asked = {
  /** On whose behalf: an organisation’s id, or what else tells askers apart. */
  of: string;
  /** What the output depends on: who asks for the same meanwhile gets the same, and what took too long is not tried again soon. */
  key?: string;
};

type Shared = { pool: Pool; same: Map<string, Promise<unknown>>; refused: Map<string, number> };

/** A framework that bundles this file several times over still gets one pool a process. */
const PLACE = Symbol.for('heathland.compute');
const here = globalThis as { [PLACE]?: Shared };

function shared(): Shared {
  here[PLACE] ??= {
    same: new Map(),
    refused: new Map(),
    pool: createPool({
      size: settings().COMPUTE_PROCESSES,
      queue: QUEUE,
      queueOfOne: QUEUE_OF_ONE,
      start: () => {
        const { file, execArgv } = computeProgram();
        const child = fork(/* turbopackIgnore: true */ file, {
          execArgv: [...execArgv, `--max-old-space-size=${HEAP_MB}`],
          serialization: 'advanced',
          // What it writes of its own accord would not be in our log's form.
          stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
        });
        try {
          if (child.pid) setPriority(child.pid, LOWER);
        } catch (error) {
          log.error({ name: (error as Error).name }, 'a process of the compute pool keeps its priority');
        }
        return child;
      },
      lost: (kind, why) => {
        metrics().endedComputing.inc({ kind, why });
        log.error({ kind, why }, 'a process of the compute pool was lost');
      },
    }),
  };
  return here[PLACE];
}

/**
 * Does a piece of work in a process of the pool. Errors: those of the work itself, TOO_BUSY where too much waits already,
 * TOO_LABORIOUS where it takes longer than its kind may.
 */
export function compute<K extends Exclude<Kind, StreamKind>>(
  kind: K,
  input: Input<K>,
  asked: Asked,
): Promise<Output<K>> {
  const { same, refused } = shared();
  const run = () => byParcel(input, (packed) => shared().pool.run(workOf(kind, packed, asked)));
  if (asked.key === undefined) return run() as Promise<Output<K>>;
  const key = `${kind} ${asked.key}`;
  if ((refused.get(key) ?? 0) > performance.now()) return Promise.reject(new Refusal({ code: 'TOO_LABORIOUS' }));
  const known = same.get(key);
  if (known) return known as Promise<Output<K>>;
  const made = run();
  same.set(key, made);
  made
    .catch((error: unknown) => {
      if (!(error instanceof Refusal) || error.problem.code !== 'TOO_LABORIOUS') return;
      if (refused.size >= MOST_REFUSED) refused.clear();
      refused.set(key, performance.now() + REFUSED_MS);
    })
    .finally(() => same.delete(key));
  return made as Promise<Output<K>>;
}

/** The same for a kind of several outputs, each made when it is asked for. Errors as {@link compute}. */
export async function* computeEach<K extends StreamKind>(
  kind: K,
  input: Input<K>,
  asked: Asked,
): AsyncGenerator<Output<K>> {
  const { input: sent, forget } = await packed(input);
  try {
    yield* shared().pool.each(workOf(kind, sent, asked)) as AsyncGenerator<Output<K>>;
  } finally {
    await forget();
  }
}

/** From its source a program starts slower: its files are translated first. */
const FROM_SOURCE = 4;

const workOf = (kind: Kind, input: object, { of }: Asked) => ({
  ...{ kind, input, of },
  deadline: DEADLINES[kind] * (computeProgram().file.endsWith('.ts') ? FROM_SOURCE : 1),
});

async function byParcel<T>(input: object, work: (sent: object) => Promise<T>): Promise<T> {
  const { input: sent, forget } = await packed(input);
  try {
    return await work(sent);
  } finally {
    await forget();
  }
}

/** Whether a piece of work need not wait for a process to start. */
export const computeIsWarm = (): boolean => shared().pool.isWarm();
/** Starts one of the pool's processes. */
export const warmCompute = (): void => shared().pool.warm();

/** Ends the pool's processes; the next piece of work starts new ones. */
export function closeCompute(): void {
  here[PLACE]?.pool.stop();
  forgetParcels();
  delete here[PLACE];
}
