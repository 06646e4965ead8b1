import { readFileSync } from 'node:fs';

/** The share of processor time that a host gave to others while this machine wanted it: `steal` of proc(5), over all processors. */
function processorTimes(): { stolen: number; all: number } {
  const times = /^cpu +(.*)$/m.exec(readFileSync('/proc/stat', 'utf8'))![1]!.split(' ').slice(0, 8).map(Number);
  return { stolen: times[7]!, all: times.reduce((sum, each) => sum + each, 0) };
}

/** Above this share a turn measures the host and not the application. */
const MOST_STOLEN = 0.03;
const MOST_TURNS = 3;

export type Turn<T> = { value: T; stolen: number };

/**
 * So many turns of a measurement in which the machine had its processors to itself. A turn during which the host took more
 * than 3 % is measured again, up to three times as many in all; the steadiest count.
 */
export async function steadyTurns<T>(turns: number, measure: () => Promise<T>): Promise<Turn<T>[]> {
  const done: Turn<T>[] = [];
  while (done.length < turns * MOST_TURNS && done.filter(({ stolen }) => stolen <= MOST_STOLEN).length < turns) {
    const before = processorTimes();
    const value = await measure();
    const after = processorTimes();
    done.push({ value, stolen: (after.stolen - before.stolen) / (after.all - before.all) });
  }
  return [...done].sort((a, b) => a.stolen - b.stolen).slice(0, turns);
}

/** How steady the machine was in the turns that count, for a person. */
export const stolenIn = (turns: Turn<unknown>[]): string =>
  `host took up to ${(100 * Math.max(...turns.map(({ stolen }) => stolen))).toFixed(1)} % of the processors`;
