import type { ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Refusal, type Problem } from '@/core/errors';
import type { Kind } from './deadlines';
import type { Order, Report } from './kinds';

/** A process is given so long to start, in milliseconds. */
const START_MS = 20_000;

/** On a machine that is busy with something else a process mostly waits for its turn: by the clock it has so many times its deadline. */
const PATIENCE = 8;

/** Milliseconds that a process has had on processors (proc(5), utime and stime, in hundredths of a second); null where that is not told. */
function processorMs(pid: number | undefined): number | null {
  try {
    const told = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const [user, system] = told
      .slice(told.lastIndexOf(')') + 2)
      .split(' ')
      .slice(11, 13)
      .map(Number) as [number, number];
    return (user + system) * 10;
  } catch {
    return null;
  }
}

/** Megabytes that a process has in memory (proc(5), resident pages of 4 KiB); 0 where that is not told. */
function megabytesOf(pid: number | undefined): number {
  try {
    return (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4_096) / 1e6;
  } catch {
    return 0;
  }
}

/** Packed into little, a file may unfold into any amount: a process that has taken more than so many megabytes is ended in the middle of its work. It is looked at so often, in milliseconds. */
const MOST_MB = 1_200;
const LOOK_MS = 300;

/** A process that takes more than so many megabytes is ended after its work, and another one is started: memory of native code grows and is not given back. */
const HEAVY_MB = 330;

export type Work = {
  kind: Kind;
  input: object;
  /** Milliseconds on a processor that one output may take; then its process is ended. */
  deadline: number;
  /** On whose behalf: nobody keeps every process busy, or the whole queue full, while somebody else waits. */
  of: string;
};

type Waiting = Work & {
  id: number;
  /** It hands over one output after the other, and whoever takes them may ask for other work in between. */
  several: boolean;
  take: (output: unknown, last: boolean) => void;
  fail: (error: unknown) => void;
  /** Who asked has turned away. */
  dropped: boolean;
};

type Member = { child: ChildProcess; ready: boolean; at: Waiting | null; timer?: NodeJS.Timeout };

export type PoolOptions = {
  size: number;
  /** Pieces of work that may wait, of all and of one; more are refused at once. */
  queue: number;
  queueOfOne: number;
  start: () => ChildProcess;
  /** Hears of a process that was ended or died with work in hand. */
  lost: (kind: Kind, why: 'deadline' | 'died') => void;
};

export type Pool = {
  /** One output. Errors: those of the work, TOO_BUSY, TOO_LABORIOUS. */
  run: (work: Work) => Promise<unknown>;
  /** One output after the other, made as they are taken. */
  each: (work: Work) => AsyncGenerator<unknown>;
  /** Whether a process stands that has started. */
  isWarm: () => boolean;
  /** Starts a process, so that the first piece of work need not wait for one. */
  warm: () => void;
  stop: () => void;
};

/**
 * A few child processes that do pieces of work one at a time each. Native code can take its process with it and a loop can hold it
 * for ever: whoever waited is told so, and another process is started for the next one.
 */
export function createPool(options: PoolOptions): Pool {
  const { size, queue, queueOfOne } = options;
  const members: Member[] = [];
  let waiting: Waiting[] = [];
  let last = 0;

  const running = (several: boolean, of?: string) =>
    members.filter(({ at }) => at?.several === several && (of === undefined || at.of === of)).length;
  // What hands over several outputs has processes of its own: it stands still while its taker waits for something else.
  const mayRun = ({ of, several }: Waiting) =>
    several ? running(true) < size : running(false) < size && (size === 1 || running(false, of) < size - 1);

  function pump() {
    waiting = waiting.filter(({ dropped }) => !dropped);
    for (;;) {
      const next = waiting.find(mayRun);
      if (!next) return;
      const free = members.find(({ at }) => at === null) ?? added();
      waiting.splice(waiting.indexOf(next), 1);
      free.at = next;
      free.child.ref();
      free.child.channel?.ref();
      if (free.ready) order(free);
    }
  }

  function order(member: Member) {
    const { id, kind, input } = member.at!;
    watch(member);
    member.child.send({ id, kind, input } satisfies Order);
  }

  /** Ends a process that has had its deadline's time on a processor and by the clock, has taken `PATIENCE` times as long by the clock, or too much memory. */
  function watch(member: Member) {
    clearTimeout(member.timer);
    const { deadline } = member.at!;
    const began = Date.now();
    const before = processorMs(member.child.pid);
    const look = () => {
      const now = processorMs(member.child.pid);
      const passed = Date.now() - began;
      const spent = before === null || now === null ? deadline : now - before;
      // Several threads spend more than the clock tells: nobody is ended before that has told it too.
      const late = passed >= deadline && (spent >= deadline || passed >= deadline * PATIENCE);
      if (!late && megabytesOf(member.child.pid) < MOST_MB) {
        member.timer = setTimeout(look, LOOK_MS);
        return;
      }
      if (member.at) options.lost(member.at.kind, 'deadline');
      lose(member, new Refusal({ code: 'TOO_LABORIOUS' }));
    };
    member.timer = setTimeout(look, LOOK_MS);
  }

  /** Ends a process and tells whoever waited for it. */
  function lose(member: Member, error: unknown) {
    const { at } = member;
    if (!members.includes(member)) return;
    members.splice(members.indexOf(member), 1);
    clearTimeout(member.timer);
    member.at = null;
    member.child.kill('SIGKILL');
    at?.fail(error);
    pump();
  }

  function free(member: Member, megabytes = 0) {
    clearTimeout(member.timer);
    member.at = null;
    const heavy = megabytes > HEAVY_MB;
    if (members.length > size || heavy) {
      members.splice(members.indexOf(member), 1);
      member.child.kill('SIGKILL');
    }
    member.child.unref();
    member.child.channel?.unref();
    pump();
    // Whoever comes next finds one that has started.
    if (heavy && members.length < size) start();
  }

  /** Starts a process that nobody waits for yet. */
  function start() {
    const { child } = added();
    child.unref();
    child.channel?.unref();
  }

  function added(): Member {
    const child = options.start();
    const member: Member = { child, ready: false, at: null };
    members.push(member);
    member.timer = setTimeout(() => lose(member, new Refusal({ code: 'TOO_BUSY', seconds: 5 })), START_MS);
    child.on('message', (told: Report) => {
      if ('ready' in told) {
        member.ready = true;
        clearTimeout(member.timer);
        if (member.at) order(member);
        return;
      }
      const { at } = member;
      if (!at || at.id !== told.id) return;
      if ('output' in told && !told.last) {
        clearTimeout(member.timer);
        return at.take(told.output, false);
      }
      free(member, 'output' in told ? told.megabytes : 0);
      if ('output' in told) at.take(told.output, true);
      else if ('problem' in told) at.fail(new Refusal(told.problem as Problem));
      else at.fail(Object.assign(new Error('a piece of work failed'), { name: told.failed }));
    });
    child.once('error', () => lose(member, new Refusal({ code: 'TOO_BUSY', seconds: 5 })));
    child.once('exit', () => {
      if (member.at && members.includes(member)) options.lost(member.at.kind, 'died');
      lose(member, new Refusal({ code: 'TOO_LABORIOUS' }));
    });
    return member;
  }

  function begin(work: Work, several: boolean, take: Waiting['take'], fail: Waiting['fail']): Waiting {
    if (waiting.length >= queue || waiting.filter(({ of }) => of === work.of).length >= queueOfOne)
      throw new Refusal({ code: 'TOO_BUSY', seconds: 5 });
    const entry: Waiting = { ...work, several, id: (last += 1), take, fail, dropped: false };
    waiting.push(entry);
    pump();
    return entry;
  }

  return {
    run: (work) => new Promise((resolve, reject) => begin(work, false, resolve, reject)),
    async *each(work) {
      let told: ((item: { output: unknown; last: boolean }) => void) | undefined;
      let failed: ((error: unknown) => void) | undefined;
      const next = () =>
        new Promise<{ output: unknown; last: boolean }>((resolve, reject) => ([told, failed] = [resolve, reject]));
      let item = next();
      // It may be refused before anybody waits for it.
      item.catch(() => undefined);
      const entry = begin(
        work,
        true,
        (output, isLast) => told!({ output, last: isLast }),
        (error) => failed!(error),
      );
      let ended = false;
      try {
        for (;;) {
          const { output, last: isLast } = await item;
          if (isLast) {
            ended = true;
            return;
          }
          yield output;
          item = next();
          item.catch(() => undefined);
          const member = members.find(({ at }) => at === entry);
          if (!member) throw new Refusal({ code: 'TOO_LABORIOUS' });
          watch(member);
          member.child.send({ id: entry.id, more: true } satisfies Order);
        }
      } finally {
        entry.dropped = true;
        const member = members.find(({ at }) => at === entry);
        // What has begun and is wanted no more ends with its process.
        if (!ended && member) lose(member, new Refusal({ code: 'TOO_BUSY', seconds: 1 }));
      }
    },
    isWarm: () => members.some(({ ready }) => ready),
    warm() {
      if (members.length === 0) start();
    },
    stop() {
      for (const member of [...members]) lose(member, new Refusal({ code: 'TOO_BUSY', seconds: 5 }));
    },
  };
}
