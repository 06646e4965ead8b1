import { fork } from 'node:child_process';
import { writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { closeCompute, compute, createPool, type Kind } from '@/server/compute';
import '../integration/place';

/** A program that does as it is told, in place of the real one: sleeps, loops for ever, dies. */
const program = path.join(mkdtempSync(path.join(tmpdir(), 'heathland-pool-')), 'program.cjs');
writeFileSync(
  program,
  `process.on('message', ({ id, input, more }) => {
     if (more) return process.send({ id, output: 'next', last: Math.random() < 0.2 });
     if (input.say === 'loop') for (;;);
     if (input.say === 'die') process.exit(1);
     if (input.say === 'several') return process.send({ id, output: 'first', last: false });
     setTimeout(() => process.send({ id, output: process.pid, last: true }), input.ms ?? 0);
   });
   process.send({ ready: true });`,
);
const lost: string[] = [];
const poolOf = (size: number) =>
  createPool({
    size,
    queue: 6,
    queueOfOne: 4,
    start: () => fork(program, { serialization: 'advanced', stdio: ['ignore', 'ignore', 'ignore', 'ipc'] }),
    lost: (kind, why) => lost.push(`${kind} ${why}`),
  });
const work = (of: string, input: object, deadline = 2_000) => ({ kind: 'face' as Kind, input, deadline, of });
const code = (made: Promise<unknown>) =>
  made.then(
    () => 'done',
    (error: { problem?: { code: string } }) => error.problem?.code ?? String(error),
  );

afterAll(closeCompute);

test('work that loops or dies ends with its process, is told so, and the next piece has another process', async () => {
  const pool = poolOf(1);
  const first = await pool.run(work('a', {}));
  expect(await code(pool.run(work('a', { say: 'loop' }, 300)))).toBe('TOO_LABORIOUS');
  expect(await code(pool.run(work('a', { say: 'die' })))).toBe('TOO_LABORIOUS');
  const later = await pool.run(work('a', {}));
  expect(later).not.toBe(first);
  expect(lost).toEqual(['face deadline', 'face died']);
  pool.stop();
});

test('one asker fills neither the processes nor the queue; what is too much is refused at once', async () => {
  const pool = poolOf(2);
  const slow = Array.from({ length: 8 }, () => code(pool.run(work('one', { ms: 400 }))));
  const began = performance.now();
  const other = await code(pool.run(work('another', {})));
  expect(other).toBe('done');
  // The other one waited for a process to start at most, not for those eight.
  expect(performance.now() - began).toBeLessThan(1_200);
  const outcomes = await Promise.all(slow);
  expect(outcomes.filter((each) => each === 'TOO_BUSY').length).toBeGreaterThan(0);
  expect(outcomes.filter((each) => each === 'done').length).toBe(5);
  pool.stop();
});

test('several outputs come one by one, and their taker may have other work done in between, with one process too', async () => {
  const pool = poolOf(1);
  let seen = 0;
  for await (const _ of pool.each(work('a', { say: 'several' }))) {
    seen += 1;
    expect(await code(pool.run(work('a', {})))).toBe('done');
    if (seen === 3) break;
  }
  expect(seen).toBeGreaterThan(0);
  pool.stop();
});

test('many who ask for the same share one run; a deep drawing is refused before anything parses it', async () => {
  const bytes = Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">${'<g>'.repeat(20_000)}`);
  const asked = Array.from({ length: 40 }, () => code(compute('logo', { bytes }, { of: 'x', key: 'the same' })));
  expect(new Set(await Promise.all(asked))).toEqual(new Set(['DRAWING_TOO_COMPLEX']));
});
