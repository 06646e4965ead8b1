import { format, stripVTControlCharacters } from 'node:util';
import type { Problem } from '@/core/errors';
import { log } from '@/server/log';

/** What a library says in words may go on with what somebody typed: up to here it is its own. */
const OWN_WORDS = /^[^:"“'`\n]{1,120}/;

/** A refusal by its name: pages come in bundles of their own, with a class of their own. */
const refusalIn = (error: Error): Problem['code'] | undefined =>
  error.name === 'Refusal' && 'problem' in error ? (error.problem as Problem).code : undefined;

/**
 * Has what a library (the framework, the queue) writes on the console stand in our log, a line each: of an error its code and where it
 * came from, of words what comes before anything quoted. A page that refused is no fault: whoever asked was told why.
 */
export function toOurLog(from: 'framework' | 'queue'): void {
  const take =
    (level: 'info' | 'warn' | 'error') =>
    (...told: unknown[]): void => {
      const error = told.find((each) => each instanceof Error);
      const code = error && refusalIn(error);
      if (code) return log.info({ from, code }, 'a page refused');
      if (error) return log.fault(error, { from }, from === 'queue' ? 'the queue failed' : 'a page failed');
      const words = OWN_WORDS.exec(stripVTControlCharacters(format(...told)).trim())?.[0].trim();
      if (words) log[level]({ from }, words);
    };
  Object.assign(console, { log: take('info'), info: take('info'), debug: take('info') });
  Object.assign(console, { warn: take('warn'), error: take('error'), trace: take('error') });
}
