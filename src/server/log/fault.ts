import { Refusal } from '@/core/errors';

/** What may be told of an error: the code of a problem, the database's or the system's own code, or the error's name; never its text. */
export function codeOfError(error: unknown): string {
  if (error instanceof Refusal) return error.problem.code;
  const { code, name } = (error ?? {}) as { code?: unknown; name?: unknown };
  return String(typeof code === 'string' && code ? code : (name ?? 'unknown')).slice(0, 60);
}

const MOST_FRAMES = 12;
/** A frame as V8 writes it: a function's name and a place. */
const FRAME = /^ {4}at (?:(?:async |new )*([\w$.<>[\] ]{1,80}) )?\(?(?:file:\/\/)?(.{1,300}):(\d+):\d+\)?$/;
const ROOT = `${process.cwd()}/`;

/** A place in our own files or in the platform's; any other line is one of the message, which may look like a frame. */
const placeOf = (place: string): string | null =>
  place.startsWith(ROOT) ? place.slice(ROOT.length) : /^node:[\w/]+$/.test(place) ? place : null;

/** Where an error came from, its message left out: functions, files and lines, the innermost first. */
export function framesOf(error: unknown): string[] {
  if (!(error instanceof Error) || typeof error.stack !== 'string') return [];
  return error.stack
    .split('\n')
    .flatMap((line) => {
      const [, name = '', place = '', at] = FRAME.exec(line) ?? [];
      const known = placeOf(place);
      return known ? [`${name} ${known}:${at}`.trim()] : [];
    })
    .slice(0, MOST_FRAMES);
}
