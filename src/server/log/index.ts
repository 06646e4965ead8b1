import pino from 'pino';
import { settings } from '@/server/env';
import { metrics } from '@/server/metrics';
import { codeOfError, framesOf } from './fault';

export { codeOfError } from './fault';

let logger: pino.Logger | undefined;

/** Structured logs. Nothing that a person typed and no address of a client goes into them. Made when first needed: a build has no settings. */
const made = (): pino.Logger => (logger ??= pino({ level: settings().LOG_LEVEL, base: undefined }));

type Facts = Record<string, unknown>;

const SELDOM_MS = 1_000;
const seldom = new Map<string, { at: number; more: number }>();

export const log = {
  info: (facts: Facts, text: string) => made().info(facts, text),
  /** What whoever runs Heathland should look at, and works all the same. */
  warn: (facts: Facts, text: string) => made().warn(facts, text),
  error: (facts: Facts, text: string) => made().error(facts, text),
  /** Something that nobody foresaw, or that is wrong outside of us: its code and where it came from, not what it says. */
  fault: (error: unknown, facts: Facts, text: string) => {
    const code = codeOfError(error);
    metrics().faults.inc({ code });
    made().error({ ...facts, code, frames: framesOf(error) }, text);
  },
  /** The same of what comes by the thousand, as while a database is away: one line a second, with how many there were before it. */
  faultOfMany: (error: unknown, facts: Facts, text: string) => {
    const kept = seldom.get(text);
    const now = performance.now();
    if (kept && now - kept.at < SELDOM_MS) {
      metrics().faults.inc({ code: codeOfError(error) });
      return void (kept.more += 1);
    }
    seldom.set(text, { at: now, more: 0 });
    log.fault(error, { ...facts, ...(kept?.more ? { more: kept.more } : {}) }, text);
  },
};

/** The header by which listener, studio and log speak of one request. */
export const REQUEST_ID = 'x-request-id';

/** Words as our own routes and files have them; whatever else stands between slashes is somebody's id, code, hash or secret. */
const OWN_WORD = /^(_next|[a-z][a-z-]{0,23}(\.[a-z]{2,12})?)$/;

/** A path as the log may have it: no query, and of each segment that is no word of ours nothing. Public addresses are known by their kind. */
export const pathForLog = (url: string): string => {
  const segments = (url.split(/[?#]/)[0] ?? '/').split('/').slice(1, 12);
  if (/^[chpr]$/i.test(segments[0] ?? '')) return `/${segments[0]!.toLowerCase()}/:name`;
  return `/${segments.map((segment) => (segment === '' || OWN_WORD.test(segment) ? segment : ':id')).join('/')}`;
};
