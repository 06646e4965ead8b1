/** Ends a command with one sentence that says what to do, without a stack. */
export class Stop extends Error {
  override name = 'Stop';
}

/** Says what a command is doing. */
export const say = (line: string): void => void process.stdout.write(`${line}\n`);
