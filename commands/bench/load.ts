import { spawn } from 'node:child_process';
import path from 'node:path';
import { ROOT } from '../place';

export type Load = {
  perSecond: number;
  p50: number;
  p99: number;
  answers: number;
  failures: number;
  /** Rate and 99th percentile of each turn by itself. */
  turns: { perSecond: number; p99: number }[];
};

export const CONNECTIONS = 50;
export const WARM_UP_S = 3;
/** A run of ten seconds in slices that take turns with what it is measured against, so that a machine whose speed wavers is fair to both. */
export const SLICES = 5;
export const SLICE_S = 2;

/** A phone of the day, which takes gzip; a program's name would be kept out of the figures. */
export const PHONE_AGENT =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';

type Slice = { answers: number; microseconds: number; failures: number; latencies: [number, number][] };

/** wrk (Debian's) on one thread: a load generator written in C leaves the machine's time to what is measured. */
/** wrk (Debian’s) on one thread: a load generator written in C leaves the machine’s time to what is measured. */
export async function slice(url: string, seconds: number): Promise<Slice> {
  const child = spawn(
    'wrk',
    [
      ...['-t', '1', '-c', String(CONNECTIONS), '-d', `${seconds}s`, '-H', `User-Agent: ${PHONE_AGENT}`],
      ...['-H', 'Accept-Encoding: gzip'],
      ...['-s', path.join(ROOT, 'commands/bench/report.lua'), url],
    ],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  );
  let output = '';
  for await (const chunk of child.stdout) output += String(chunk);
  const report = /^REPORT (.*)$/m.exec(output)?.[1];
  if (!report) throw new Error(`wrk reported something else than expected:\n${output}`);
  return JSON.parse(report) as Slice;
}

/** The latency that `share` of all answers stayed within, in milliseconds. */
function percentile(slices: Slice[], share: number): number {
  const all = slices.flatMap(({ latencies }) => latencies).sort(([a], [b]) => a - b);
  const wanted = share * all.reduce((sum, [, count]) => sum + count, 0);
  let passed = 0;
  return (all.find(([, count]) => (passed += count) >= wanted)?.[0] ?? NaN) / 1_000;
}

function together(slices: Slice[]): Load {
  const sum = (of: (slice: Slice) => number) => slices.reduce((total, each) => total + of(each), 0);
  return {
    perSecond: sum(({ answers }) => answers) / (sum(({ microseconds }) => microseconds) / 1e6),
    p50: percentile(slices, 0.5),
    p99: percentile(slices, 0.99),
    answers: sum(({ answers }) => answers),
    failures: sum(({ failures }) => failures),
    turns: slices.map((each) => ({
      perSecond: each.answers / (each.microseconds / 1e6),
      p99: percentile([each], 0.99),
    })),
  };
}

/** What is measured: its address, and what must have come to rest before the next one has its turn. */
export type Target = { url: string; settle?: () => Promise<void> };

/** Each target warmed up once, then one run of each, slice by slice in turns. */
export async function loads<K extends string>(
  targets: Record<K, Target>,
): Promise<Record<K, { warm: Load; run: Load }>> {
  const names = Object.keys(targets) as K[];
  const measure = async (name: K, seconds: number): Promise<Slice> => {
    const { url, settle } = targets[name];
    const measured = await slice(url, seconds);
    await settle?.();
    return measured;
  };
  const taken = new Map(names.map((name) => [name, { warm: [] as Slice[], run: [] as Slice[] }]));
  for (const name of names) taken.get(name)!.warm.push(await measure(name, WARM_UP_S));
  for (let round = 0; round < SLICES; round += 1)
    for (const name of names) taken.get(name)!.run.push(await measure(name, SLICE_S));
  const both = [...taken].map(([name, { warm, run }]) => [name, { warm: together(warm), run: together(run) }]);
  return Object.fromEntries(both) as Record<K, { warm: Load; run: Load }>;
}

/** The middle one of an odd number of figures. */
export const median = (figures: number[]): number => [...figures].sort((a, b) => a - b)[figures.length >> 1]!;
