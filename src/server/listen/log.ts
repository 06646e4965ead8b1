import pino from 'pino';
import { settings } from '@/server/env';

/** Structured logs. Nothing that a person typed and no address of a client goes into them. */
export const log = pino({ level: settings().LOG_LEVEL, base: undefined });
