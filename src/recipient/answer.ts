import { Refusal } from '@/core/errors';
import { pickLanguage } from '@/core/messages';
import { judge, type EventKind } from '@/core/response';
import { VERSIONS } from '@/core/vcard';
import type { Clock } from '@/server/clock';
import { settings } from '@/server/env';
import type { EventRow } from '@/server/db/events';
import type { PublishedCard } from '@/server/services/load-published';
import type { Recorded } from '@/server/services/record-event';
import { askedBy } from './asked';
import { deliver } from './deliver';
import { away, gone, notFound, notAllowed } from './notices';
import { fileOutput, pageOutput, photoOutput, type Output } from './outputs';
import type { Asked, RecipientAnswer, RecipientRequest } from './request';

/** What answering needs from the services; tests pass their own. */
export type Services = {
  clock: Clock;
  load: (key: Asked['key']) => Promise<PublishedCard | null>;
  version: (cardId: string) => Promise<number | undefined>;
  record: (row: EventRow) => Promise<Recorded>;
  visitor: (
    who: { organisationId: string; timeZone: string; address: string; userAgent: string },
    at: number,
  ) => string | Promise<string>;
};

type Entry = { card: PublishedCard; outputs: Map<string, Output> };

/** Header that says whether the event of this answer was written down. */
export const RECORDED_HEADER = 'Heathland-Event';

/** Cards kept ready in a process: at about 60 KB each with their outputs. */
const MOST_CARDS = 2_000;

/**
 * Answers recipients' requests. Answers are kept ready by card version and hand-out; the version is checked in the same
 * statement that writes the event, so that a new revision shows at once in every process.
 */
export function createAnswerer(services: Services): (request: RecipientRequest) => Promise<RecipientAnswer> {
  const entries = new Map<string, Entry>();

  async function load(asked: Asked): Promise<Entry | null> {
    const card = await services.load(asked.key);
    if (!card) {
      entries.delete(asked.base);
      return null;
    }
    const entry: Entry = { card, outputs: new Map() };
    if (entries.size >= MOST_CARDS) entries.delete(entries.keys().next().value!);
    entries.set(asked.base, entry);
    return entry;
  }

  function outputOf(entry: Entry, asked: Asked, request: RecipientRequest): Output {
    const wanted = VERSIONS.find((version) => version === request.query.get('v')) ?? '3.0';
    const { output } = asked.what;
    const language = pickLanguage(entry.card.composition.language, request.header('accept-language'));
    const key = output === 'file' ? `file ${wanted}` : output === 'page' ? `page ${language}` : output;
    const known = entry.outputs.get(key);
    if (known) return known;
    const { PUBLIC_URL } = settings();
    const made =
      output === 'file'
        ? fileOutput(entry.card, wanted)
        : output === 'photo'
          ? photoOutput(entry.card.photo!.page)
          : pageOutput(entry.card, asked.base, PUBLIC_URL, language);
    entry.outputs.set(key, made);
    return made;
  }

  /** Writes the event of an answer, or asks for today's version where none is due. */
  async function record(
    entry: Entry,
    asked: Asked,
    request: RecipientRequest,
  ): Promise<{ header: string; version: number | undefined | 'unknown' }> {
    const { card } = entry;
    const userAgent = request.header('user-agent').slice(0, 500);
    const verdict = judge({
      method: request.method,
      userAgent,
      purpose: request.header('sec-purpose') || request.header('purpose'),
      range: request.header('range'),
    });
    if (verdict === 'none' || asked.what.output === 'photo') {
      return { header: 'none', version: await services.version(card.cardId).catch(() => 'unknown' as const) };
    }
    const at = services.clock.now();
    const kind: EventKind =
      verdict === 'bot' ? 'bot' : ({ page: 'view', file: 'save', tap: 'tap' } as const)[asked.what.output];
    // Global Privacy Control: the view counts, nothing tells the visitor.
    const hidden = request.header('sec-gpc') === '1' || kind === 'bot';
    try {
      const { organisationId, timeZone } = card;
      const hash = hidden
        ? null
        : services.visitor({ organisationId, timeZone, address: request.address, userAgent }, at);
      const visitor = typeof hash === 'object' ? await hash : hash;
      const line = kind === 'tap' ? request.body : null;
      const outcome = await services.record({
        organisationId,
        cardId: card.cardId,
        handOutId: card.handOutId,
        kind,
        line,
        visitor,
        at,
      });
      if (!outcome.recorded) return { header: 'not-recorded', version: 'unknown' };
      return { header: kind === 'bot' ? 'not-counted' : 'recorded', version: outcome.version };
    } catch {
      return { header: 'not-recorded', version: 'unknown' };
    }
  }

  return async (request) => {
    const asked = askedBy(request.path);
    if (!asked) return notFound(request);
    const tap = asked.what.output === 'tap';
    if (tap ? request.method !== 'POST' : request.method !== 'GET' && request.method !== 'HEAD')
      return notAllowed(tap ? 'POST' : 'GET, HEAD');
    try {
      let entry = entries.get(asked.base) ?? (await load(asked));
      if (!entry) return notFound(request);
      if (tap && !isTap(entry, request)) return { status: 204, headers: { [RECORDED_HEADER]: 'none' }, body: '' };
      const { header, version } = await record(entry, asked, request);
      if (version !== 'unknown' && version !== entry.card.version) entry = await load(asked);
      if (!entry) return notFound(request);
      if (tap) return { status: 204, headers: { [RECORDED_HEADER]: header, 'Cache-Control': 'no-store' }, body: '' };
      if (entry.card.state !== 'published') return gone(request);
      if (asked.what.output === 'photo' && entry.card.photo?.hash !== asked.what.hash) return notFound(request);
      return deliver(request, outputOf(entry, asked, request), cachingOf(asked), { [RECORDED_HEADER]: header });
    } catch (error) {
      if (error instanceof Refusal && error.problem.code === 'DATABASE_AWAY') return away(request);
      throw error;
    }
  };
}

/** A tap comes from our own page and names a line of it; anything else is not counted. */
function isTap(entry: Entry, request: RecipientRequest): boolean {
  const site = request.header('sec-fetch-site');
  return (
    (site === '' || site === 'same-origin') &&
    entry.card.composition.lines.some((line) => line.id === request.body && line.on.includes('page'))
  );
}

/** What is printed shows today's card, so nothing on the way may keep it; a picture's address holds its hash. */
function cachingOf({ what, key }: Asked): string {
  if (what.output === 'photo') return 'public, max-age=31536000, immutable';
  return 'code' in key ? 'no-store' : 'no-cache';
}
