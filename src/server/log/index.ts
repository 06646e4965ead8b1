import pino from 'pino';
import { settings } from '@/server/env';

let logger: pino.Logger | undefined;

/** Structured logs. Nothing that a person typed and no address of a client goes into them. Made when first needed: a build has no settings. */
const made = (): pino.Logger => (logger ??= pino({ level: settings().LOG_LEVEL, base: undefined }));

type Facts = Record<string, unknown>;
export const log = {
  info: (facts: Facts, text: string) => made().info(facts, text),
  error: (facts: Facts, text: string) => made().error(facts, text),
};

/** The header by which listener, studio and log speak of one request. */
export const REQUEST_ID = 'x-request-id';

/** A path as the log may have it: no query, and ids, hashes, codes and short addresses as their kind. */
export const pathForLog = (url: string): string =>
  (url.split('?')[0] ?? '/')
    .replace(/\/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/gi, '/:id')
    .replace(/[0-9a-f]{64}/gi, ':hash')
    .replace(/^\/([chp])\/.*/i, (_, room: string) => `/${room.toLowerCase()}/:name`)
    .slice(0, 200);
