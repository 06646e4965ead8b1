import { EventEmitter } from 'node:events';
import type { ChildProcess } from 'node:child_process';
import fc from 'fast-check';
import { createPool, type Pool, type PoolOptions, type Work } from './pool';
import type { Order, Report } from './kinds';

/*
 * The pool with processes that do what they are told here and now: what real ones do, and how they are ended in the middle of their work, is in
 * the tests of the whole (`tests/integration/compute.test.ts`).
 */
class Child extends EventEmitter {
  channel = { ref: () => undefined, unref: () => undefined };
  pid: number | undefined = undefined;
  at: Extract<Order, { kind: string }> | null = null;
  more: number[] = [];
  ended = false;
  send(order: Order) {
    if ('more' in order) return void this.more.push(order.id);
    expect(this.at).toBeNull();
    this.at = order;
  }
  kill() {
    this.ended = true;
    return true;
  }
  ref() {}
  unref() {}
  tell(report: Report) {
    if ('output' in report && !report.last) return void this.emit('message', report);
    this.at = null;
    this.emit('message', report);
  }
  done(output: unknown, megabytes = 80) {
    this.tell({ id: this.at!.id, output, last: true, megabytes });
  }
  die() {
    this.ended = true;
    this.emit('exit', 1);
  }
}

type Bench = { pool: Pool; children: Child[]; working: () => Child[]; lost: string[] };
function bench({
  size = 2,
  queue = 20,
  queueOfOne = 10,
  ready = true,
}: Partial<PoolOptions & { ready: boolean }> = {}): Bench {
  const children: Child[] = [];
  const lost: string[] = [];
  const pool = createPool({
    ...{ size, queue, queueOfOne },
    start: () => {
      const child = new Child();
      children.push(child);
      if (ready) queueMicrotask(() => child.tell({ ready: true }));
      return child as unknown as ChildProcess;
    },
    lost: (kind, why) => lost.push(`${kind} ${why}`),
  });
  return { pool, children, lost, working: () => children.filter(({ at, ended }) => at && !ended) };
}
const work = (of: string, input: object = {}): Work => ({ kind: 'face', input, deadline: 60_000, of });
const codeOf = (error: unknown) => (error as { problem?: { code: string } }).problem?.code;
const settled = async (promise: Promise<unknown>) =>
  promise.then(
    (value) => value,
    (error: unknown) => codeOf(error) ?? (error as Error).name,
  );
const turn = () => new Promise<void>((resolve) => setImmediate(resolve));
const opened: Pool[] = [];
afterEach(() => opened.splice(0).forEach((pool) => pool.stop()));
const open = (options: Parameters<typeof bench>[0] = {}): Bench => {
  const made = bench(options);
  opened.push(made.pool);
  return made;
};

test('whoever asks, in whatever order and however many die: each gets their own answer or is told, once; nobody keeps every process', async () => {
  const step = fc.oneof(
    { weight: 5, arbitrary: fc.record({ do: fc.constant('ask' as const), of: fc.constantFrom('a', 'b', 'c') }) },
    {
      weight: 5,
      arbitrary: fc.record({
        do: fc.constant('answer' as const),
        which: fc.nat(),
        megabytes: fc.constantFrom(80, 400),
      }),
    },
    { weight: 1, arbitrary: fc.record({ do: fc.constantFrom('die' as const, 'fail' as const), which: fc.nat() }) },
  );
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 60 }), fc.integer({ min: 1, max: 4 }), async (steps, size) => {
      const { pool, children, working, lost } = bench({ size, queue: 12, queueOfOne: 6 });
      const answers: { of: string; number: number; promise: Promise<unknown> }[] = [];
      let [number, died] = [0, 0];
      for (const each of steps) {
        const at = working();
        const child = 'which' in each ? at[each.which % Math.max(1, at.length)] : undefined;
        if (each.do === 'ask') {
          number += 1;
          answers.push({ of: each.of, number, promise: settled(pool.run(work(each.of, { number }))) });
        } else if (each.do === 'answer') child?.done((child.at!.input as { number: number }).number, each.megabytes);
        else if (each.do === 'fail') child?.tell({ id: child.at!.id, failed: 'RangeError' });
        else if (child) {
          died += 1;
          child.die();
        }
        await turn();
        // One of several processes is always left for somebody else.
        const busy = working();
        expect(busy.length).toBeLessThanOrEqual(size);
        const asker = (each: Child) => answers[(each.at!.input as { number: number }).number - 1]!.of;
        for (const one of ['a', 'b', 'c'])
          expect(busy.filter((each) => asker(each) === one).length).toBeLessThanOrEqual(Math.max(1, size - 1));
      }
      for (let left = working(); left.length > 0; left = working()) {
        for (const child of left) child.done((child.at!.input as { number: number }).number);
        await turn();
      }
      const told = await Promise.all(answers.map(({ promise }) => promise));
      told.forEach((answer, at) => {
        if (typeof answer === 'number') expect(answer).toBe(at + 1);
        else expect(['TOO_BUSY', 'TOO_LABORIOUS', 'RangeError']).toContain(answer);
      });
      expect(lost).toEqual(Array.from({ length: died }, () => 'face died'));
      expect(told.filter((answer) => answer === 'TOO_LABORIOUS')).toHaveLength(died);
      // What is heavy was ended; what stands is no more than there may be.
      expect(children.filter(({ ended }) => !ended).length).toBeLessThanOrEqual(size);
      pool.stop();
    }),
    { numRuns: 60 },
  );
});

test('a queue has room for so many, and for so many of one; who is refused is told when to come again', async () => {
  const { pool, working } = open({ size: 1, queue: 4, queueOfOne: 2 });
  const first = settled(pool.run(work('a')));
  await turn();
  const told = ['a', 'a', 'a', 'b', 'b', 'c'].map((of) => settled(pool.run(work(of))));
  expect(await Promise.all([told[2], told[5]])).toEqual(['TOO_BUSY', 'TOO_BUSY']);
  for (let left = working(); left.length > 0; left = working()) {
    left[0]!.done('done');
    await turn();
  }
  expect(await Promise.all([first, told[0], told[1], told[3], told[4]])).toEqual(Array(5).fill('done'));
});

test('a process that does not start in twenty seconds, or cannot, is given up; the next piece of work gets another one', async () => {
  jest.useFakeTimers();
  try {
    const { pool, children } = open({ ready: false });
    const first = settled(pool.run(work('a')));
    expect(pool.isWarm()).toBe(false);
    await jest.advanceTimersByTimeAsync(20_001);
    expect(await first).toBe('TOO_BUSY');
    expect(children[0]!.ended).toBe(true);
    const second = settled(pool.run(work('a')));
    children[1]!.emit('error', new Error('no memory'));
    expect(await second).toBe('TOO_BUSY');
    const third = settled(pool.run(work('a')));
    children[2]!.tell({ ready: true });
    expect(pool.isWarm()).toBe(true);
    children[2]!.done('there');
    expect(await third).toBe('there');
  } finally {
    jest.useRealTimers();
  }
});

test('work that takes longer than its deadline ends with its process, and the one behind it goes on in another', async () => {
  jest.useFakeTimers();
  try {
    const { pool, children, lost } = open({ size: 1 });
    const [endless, next] = [
      settled(pool.run({ ...work('a'), deadline: 1_000 })),
      settled(pool.run({ ...work('b'), deadline: 1_000 })),
    ];
    await jest.advanceTimersByTimeAsync(900);
    expect(children[0]!.ended).toBe(false);
    await jest.advanceTimersByTimeAsync(400);
    expect(await endless).toBe('TOO_LABORIOUS');
    expect([children[0]!.ended, lost]).toEqual([true, ['face deadline']]);
    await jest.advanceTimersByTimeAsync(10);
    children[1]!.done('there');
    expect(await next).toBe('there');
    // What it says after its end is for nobody.
    children[0]!.emit('message', { id: 1, output: 'late', last: true });
  } finally {
    jest.useRealTimers();
  }
});

test('one output after the other: each is made when the one before was taken; who turns away ends it, and others have their processes meanwhile', async () => {
  const { pool, children, working } = open({ size: 1 });
  const outputs = pool.each(work('a'));
  const first = outputs.next();
  await turn();
  const [child] = children;
  const { id } = child!.at!;
  child!.tell({ id, output: 1, last: false });
  expect(await first).toEqual({ value: 1, done: false });
  // It stands still while its taker is busy, and somebody else is served.
  const other = settled(pool.run(work('b')));
  await turn();
  expect([child!.more, working().length]).toEqual([[], 2]);
  children[1]!.done('other');
  expect(await other).toBe('other');
  const second = outputs.next();
  await turn();
  expect(child!.more).toEqual([id]);
  child!.tell({ id, output: 2, last: false });
  expect(await second).toEqual({ value: 2, done: false });
  await outputs.return(undefined);
  expect(child!.ended).toBe(true);
  // One that comes to its end leaves its process standing.
  const whole = pool.each(work('a'));
  const all = (async () => {
    const taken: unknown[] = [];
    for await (const each of whole) taken.push(each);
    return taken;
  })();
  await turn();
  const [again] = working();
  again!.tell({ id: again!.at!.id, output: 'x', last: false });
  await turn();
  again!.done(undefined);
  expect([await all, again!.ended]).toEqual([['x'], false]);
});

test('a refusal of the work itself reaches whoever asked; a process is warm before anybody asks', async () => {
  const { pool, children } = open();
  pool.warm();
  pool.warm();
  await turn();
  expect([children.length, pool.isWarm()]).toEqual([1, true]);
  const told = settled(pool.run(work('a')));
  await turn();
  children[0]!.tell({ id: children[0]!.at!.id, problem: { code: 'PICTURE_UNREADABLE' } });
  expect(await told).toBe('PICTURE_UNREADABLE');
  const lost = settled(pool.run(work('a')));
  await turn();
  pool.stop();
  expect([await lost, children.every(({ ended }) => ended)]).toEqual(['TOO_BUSY', true]);
});
