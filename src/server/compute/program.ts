import { Refusal } from '@/core/errors';
import type { Kind } from './deadlines';
import { endWithParent } from './end-with-parent';
import { unpacked } from './parcel';
import { KINDS, type Order, type Report } from './kinds';

/** A process of the pool: does one piece of work after the other, as its parent orders. */
const report = (told: Report) => process.send!(told);

const isStream = (value: unknown): value is Iterator<unknown> =>
  typeof value === 'object' && value !== null && 'next' in value && typeof value.next === 'function';

let stream: { id: number; items: Iterator<unknown> } | null = null;

async function begin(id: number, kind: Kind, input: object): Promise<void> {
  const run = (await KINDS[kind]()) as (input: unknown) => unknown;
  const made = run(unpacked(input));
  if (!isStream(made)) {
    const output = await made;
    return void report({ id, output, last: true, megabytes: process.memoryUsage.rss() / 1_048_576 });
  }
  stream = { id, items: made };
  next(id);
}

function next(id: number): void {
  if (stream?.id !== id) return;
  const { done, value } = stream.items.next();
  if (done) stream = null;
  report({ id, output: done ? undefined : value, last: done === true });
}

process.on('message', (order: Order) => {
  Promise.resolve()
    .then(() => ('more' in order ? next(order.id) : begin(order.id, order.kind, order.input)))
    .catch((error: unknown) => {
      stream = null;
      if (error instanceof Refusal) report({ id: order.id, problem: error.problem });
      else report({ id: order.id, failed: error instanceof Error ? error.name : 'unknown' });
    });
});
endWithParent();
report({ ready: true });
// What recipients wait for is loaded before the first of them asks.
setTimeout(() => void Promise.all([KINDS.face(), KINDS.lighter()]).catch(() => undefined), 50).unref();
