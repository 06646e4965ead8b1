import { LRUCache } from 'lru-cache';
import { stripOf } from '@/server/services/hand-outs/signature-parts';
import { Refusal, type Problem } from '@/core/errors';
import type { Plates } from '@/core/look';
import type { Language } from '@/core/language';
import { dependsOnTime, type FirstScreen } from '@/core/page';
import { judge, type EventKind } from '@/core/response';
import { VERSIONS } from '@/core/vcard';
import { computeIsWarm } from '@/server/compute';
import { organisationOfHost, publicUrlOf } from '@/server/env';
import { log } from '@/server/log';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { askedBy, isLasting } from './asked';
import { asOpened, cachingOf } from './as-opened';
import { blockFile } from './block-file';
import { deliver } from './deliver';
import { firstScreen, NOTHING_YET, ROOM } from './first-screen';
import { keptOnceMade, ROOM_FOR } from './kept';
import { languageFor } from './language';
import { isMade, make, type Made } from './made';
import { mapAnswer } from './map';
import { platesOf } from './plates';
import { away, deleted, gone, notAllowed, notFound, notYet, previewGone } from './notices';
import {
  appOutput,
  codeOutput,
  fileOutput,
  pageOutput,
  pictureOutput,
  replyScript,
  weightOf,
  type Output,
} from './outputs';
import { emptyStrip, signatureOutput, stripAnswer } from './signature';
import { answerLasting } from './lasting';
import { answerReply } from './reply';
import type { Services } from './services';
import type { Asked, RecipientAnswer, RecipientRequest } from './request';

/** A card with what was made of it; `bytes` is what it takes, `until` when it is loaded again whatever its version (milliseconds, UTC). */
type Entry = { card: PublishedCard; outputs: Map<string, Output>; minute: number; bytes: number; until: number };

/** So long the first who asks for a page waits for its first screen to come along, in milliseconds. */
const LONGEST_WAIT_MS = 400;

/** So long a page whose first screen was not to be had stays without, in milliseconds. */
const RETRY_MS = 10_000;

/** So much coarser the next try is, in bytes. */
const STEP = 300;

/** Header that says whether the event of this answer was written down. */
const RECORDED_HEADER = 'Heathland-Event';

/** A card that was loaded while the file store was away is loaded again after so long, in milliseconds. */
const INCOMPLETE_MS = 5_000;

/** What a card itself takes, roughly: its composition and the pictures beside it, in bytes. */
function weightOfCard({ photo, logo, logoOnBand, logoByNight, inFile }: PublishedCard): number {
  const pictures = [photo?.page, logo?.page, logoOnBand?.page, logoByNight?.page, inFile.photo, inFile.logo];
  return pictures.reduce((sum, bytes) => sum + (bytes?.length ?? 0), 16_000);
}
/** An output and its compressed forms, of which one may still come. */
const heldBy = ({ body, gzip }: Output): number => body.length + 2 * (gzip?.length ?? 0) + 500;

/**
 * Answers recipients' requests. Answers are kept ready by card version and hand-out; the version is checked in the same
 * statement that writes the event, so that a new revision shows at once in every process.
 */
export function createAnswerer(services: Services): (request: RecipientRequest) => Promise<RecipientAnswer> {
  const entries = new LRUCache<string, Entry>({ maxSize: ROOM_FOR.cards, sizeCalculation: ({ bytes }) => bytes });
  /** Pictures that were drawn are named by what they depend on, so that those of a draft are as good. */
  const drawn = keptOnceMade<Output>(ROOM_FOR.drawn, heldBy);
  const loading = new Map<string, Promise<Entry | null>>();
  /** When a visitor was given a card's page, for a few seconds: replies that come sooner than anybody types are told by it. */
  const viewed = new LRUCache<string, number>({ max: 5_000, ttl: 10_000 });
  /** What was made of a draft while it stays the same, under the address that it was made for. */
  const drafts = new WeakMap<PublishedCard, { base: string; entry: Entry }>();

  async function madeFor({ card }: Entry, what: Made): Promise<Output | null> {
    const making = make(card, what);
    if (!making) return null;
    return drawn([card.organisationId, ...Object.values(what)].join(' '), making);
  }

  /** Keeps an output with its card, and the card for what it takes now. */
  function keep(entry: Entry, base: string, key: string, output: Output): void {
    const before = entry.outputs.get(key);
    entry.outputs.set(key, output);
    entry.bytes += heldBy(output) - (before ? heldBy(before) : 0);
    if (entries.peek(base) === entry) entries.set(base, entry);
  }

  /** The card as it is now, loaded once for all who wait for it; `least` is the version that somebody knows it has by now. */
  async function load(asked: Asked, least = 0): Promise<Entry | null> {
    if ('preview' in asked.key) return loadAnew(asked);
    for (let begun = loading.get(asked.base); begun; begun = loading.get(asked.base)) {
      const shared = await begun;
      // What was begun before a new version came may not show it.
      if (!shared || shared.card.version >= least) return shared;
    }
    const anew = loadAnew(asked).finally(() => {
      if (loading.get(asked.base) === anew) loading.delete(asked.base);
    });
    loading.set(asked.base, anew);
    return anew;
  }

  async function loadAnew(asked: Asked): Promise<Entry | null> {
    // A preview shows the draft as it stands at this moment, and is never counted.
    if ('preview' in asked.key) {
      const draft = await services.preview(asked.key.preview);
      if (!draft) return null;
      const known = drafts.get(draft);
      const entry =
        known?.base === asked.base
          ? known.entry
          : { card: draft, outputs: new Map<string, Output>(), minute: 0, bytes: 0, until: Infinity };
      drafts.set(draft, { base: asked.base, entry });
      return entry;
    }
    // What is deleted is forgotten here as well.
    const card = await services.load(asked.key).catch((error: unknown) => {
      if (error instanceof Refusal && error.problem.code === 'CARD_DELETED') entries.delete(asked.base);
      throw error;
    });
    if (!card) {
      entries.delete(asked.base);
      return null;
    }
    const until = card.incomplete ? services.clock.now() + INCOMPLETE_MS : Infinity;
    const entry: Entry = { card, outputs: new Map(), minute: 0, bytes: weightOfCard(card), until };
    entries.set(asked.base, entry);
    return entry;
  }

  /** The signature of a card, kept with it; null where the code is of something else. */
  function signatureOf(entry: Entry, { base }: Asked, what: Asked['what'] & { output: 'signature' }): Output | null {
    const now = services.clock.now();
    const strip = entry.card.signature && stripOf(entry.card.signature, what.variant, now);
    const key = `${Object.values(what).join(' ')} ${strip?.id ?? ''}`;
    const known = entry.outputs.get(key);
    const link = `${publicUrlOf(entry.card.organisationId)}${base}`;
    const made = known ?? signatureOutput(entry.card, link, what, strip);
    if (made && !known) keep(entry, base, key, made);
    return made;
  }

  function outputOf(entry: Entry, asked: Asked, request: RecipientRequest): Output | Promise<Output> {
    const wanted = VERSIONS.find((version) => version === request.query.get('v')) ?? '3.0';
    const { output } = asked.what;
    const language = languageFor(entry.card, request);
    const now = services.clock.now();
    // What an office's hours say holds for a minute.
    const minute = Math.floor(now / 60_000);
    if (output === 'page' && minute !== entry.minute) {
      entry.minute = minute;
      if (dependsOnTime(entry.card.composition.blocks))
        for (const key of entry.outputs.keys()) if (key.startsWith('page')) entry.outputs.delete(key);
    }
    const key = output === 'photo' || output === 'logo' ? output : `${output} ${language} ${wanted}`;
    const known = entry.outputs.get(key);
    if (known) return known;
    if (output === 'page') return pageOf(entry, key, asked.base, language, now);
    const made =
      output === 'file'
        ? fileOutput(entry.card, wanted, language)
        : output === 'photo' || output === 'logo'
          ? pictureOutput(entry.card, output)
          : output === 'code'
            ? codeOutput(entry.card, publicUrlOf(entry.card.organisationId))
            : appOutput(entry.card, output === 'worker' ? 'worker' : 'manifest', asked.base, language);
    keep(entry, asked.base, key, made);
    return made;
  }

  /** A page with its first screen; without, where that takes longer than a recipient should wait. Whoever comes meanwhile gets it without. */
  function pageOf(entry: Entry, key: string, base: string, language: Language, now: number): Promise<Output> {
    let plates: Plates | undefined;
    const make = (first: FirstScreen | null) =>
      pageOutput(entry.card, base, publicUrlOf(entry.card.organisationId), language, now, { first, plates });
    let plain = make(null);
    keep(entry, base, key, plain);
    const bring = async (): Promise<Output> => {
      // What both need is made at the same time; how much of it fits is known after the plates.
      const parts = firstScreen(entry.card, language, 0);
      parts.catch(() => {});
      plates = await platesOf(entry.card);
      if (plates?.day || plates?.night) {
        const known = entry.outputs.get(key) === plain;
        plain = make(null);
        if (known) keep(entry, base, key, plain);
      }
      // What a part weighs within the page is known once it is there: where it is too much, the next coarser ones are taken.
      let bytes = weightOf(make(NOTHING_YET));
      for (let tries = 0; tries < 3; tries += 1) {
        const first = await firstScreen(entry.card, language, bytes);
        if (!first) break;
        const made = make(first);
        const over = weightOf(made) - ROOM;
        if (over > 0) {
          bytes += over + STEP;
          continue;
        }
        if (entry.outputs.get(key) === plain) keep(entry, base, key, made);
        return made;
      }
      return plain;
    };
    const brought = bring().catch(() => {
      // The page is as good without; who asks after a while has it tried again.
      setTimeout(() => entry.outputs.get(key) === plain && entry.outputs.delete(key), RETRY_MS).unref();
      return plain;
    });
    // Just after the start nothing could be brought in time.
    if (!computeIsWarm()) return Promise.resolve(plain);
    return Promise.race([
      brought,
      new Promise<Output>((give) => setTimeout(() => give(plain), LONGEST_WAIT_MS).unref()),
    ]);
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
      destination: request.header('sec-fetch-dest'),
      site: request.header('sec-fetch-site'),
    });
    if (verdict === 'none' || !COUNTED.has(asked.what.output)) {
      return unchanged(entry);
    }
    const at = services.clock.now();
    const kind: EventKind =
      verdict === 'bot'
        ? 'bot'
        : ({ page: 'view', file: 'save', tap: 'tap' } as const)[asked.what.output as 'page' | 'file' | 'tap'];
    const mayTest = card.testUntil > at && (kind === 'view' || kind === 'save');
    if (mayTest && (await services.test?.(card).catch(() => false)))
      return { ...(await unchanged(entry)), header: 'not-counted' };
    // Global Privacy Control: the view counts, nothing tells the visitor.
    const hidden = request.header('sec-gpc') === '1' || kind === 'bot';
    try {
      const { organisationId, timeZone } = card;
      const hash = hidden
        ? null
        : services.visitor({ organisationId, timeZone, address: request.address, userAgent }, at);
      const visitor = typeof hash === 'object' ? await hash : hash;
      const line = kind === 'tap' ? lineTapped(request) : null;
      if (kind === 'view' && visitor) viewed.set(`${card.cardId} ${visitor}`, at);
      const outcome = await services.record({
        organisationId,
        cardId: card.cardId,
        handOutId: card.handOutId,
        revision: card.revision,
        kind,
        line,
        visitor,
        at,
      });
      if (!outcome.recorded) return { header: 'not-recorded', version: 'unknown' };
      return { header: kind === 'bot' ? 'not-counted' : 'recorded', version: outcome.version };
    } catch (error) {
      log.faultOfMany(error, {}, 'an event of a recipient could not be told');
      return { header: 'not-recorded', version: 'unknown' };
    }
  }

  /** Milliseconds since whoever sends this was given the page, where that is known and no longer ago than a moment. */
  async function sinceView({ cardId, organisationId, timeZone }: PublishedCard, request: RecipientRequest) {
    if (request.header('sec-gpc') === '1') return null;
    const at = services.clock.now();
    const userAgent = request.header('user-agent').slice(0, 500);
    const visitor = await services.visitor({ organisationId, timeZone, address: request.address, userAgent }, at);
    const then = viewed.get(`${cardId} ${visitor}`);
    return then === undefined ? null : at - then;
  }

  const unchanged = async ({ card }: Entry) => ({
    header: 'none',
    version: card.address ? await services.version(card.cardId).catch(() => 'unknown' as const) : card.version,
  });

  return async (request) => {
    try {
      if (isLasting(request.path)) return (await answerLasting(request, services.clock)) ?? notFound(request);
    } catch (error) {
      if (error instanceof Refusal && AWAY.has(error.problem.code)) return away(request);
      throw error;
    }
    const wanted = askedBy(request.path);
    if (!wanted) return notFound(request);
    let asked = wanted;
    const tap = asked.what.output === 'tap';
    const reply = asked.what.output === 'reply' && request.method === 'POST';
    if (tap ? request.method !== 'POST' : !reply && request.method !== 'GET' && request.method !== 'HEAD')
      return notAllowed(tap ? 'POST' : 'GET, HEAD');
    try {
      let entry = entries.get(asked.base) ?? (await load(asked));
      const now = services.clock.now();
      if (entry && (hasEnded(entry.card, now) || entry.until <= now)) entry = await load(asked);
      if (!entry) return notFound(request);
      // On an organisation's own host nobody else's cards are found.
      const only = organisationOfHost(request.header('host'));
      if (only && only !== entry.card.organisationId) return notFound(request);
      asked = asOpened(entry.card, wanted, request);
      if (tap && !isTap(entry, request)) return { status: 204, headers: { [RECORDED_HEADER]: 'none' }, body: '' };
      // What rests or is retired gives nothing out, so that nothing is counted either.
      const isOut = ({ card }: Entry) => card.state === 'published' && !('preview' in wanted.key);
      const out = isOut(entry);
      let told = out ? await record(entry, asked, request) : await unchanged(entry);
      if (told.version !== 'unknown' && told.version !== entry.card.version) {
        entry = await load(asked, told.version);
        // Out again since this process last looked: what is given now counts.
        if (entry && !out && isOut(entry)) told = await record(entry, asked, request);
      }
      if (!entry) return notFound(request);
      const { header } = told;
      asked = asOpened(entry.card, wanted, request);
      if (tap) return { status: 204, headers: { [RECORDED_HEADER]: header, 'Cache-Control': 'no-store' }, body: '' };
      const house = houseLogoOf(entry.card, asked);
      if (house) return deliver(request, house, cachingOf(asked), {});
      const { what } = asked;
      if (what.output === 'strip') return await stripAnswer(request, entry.card, what.id, now);
      if (entry.card.state !== 'published') return gone(request, entry.card);
      if (what.output === 'reply')
        return (
          (services.replies &&
            (await answerReply(request, entry.card, asked, await sinceView(entry.card, request), {
              clock: services.clock,
              ...services.replies,
            }))) ??
          notFound(request)
        );
      if (what.output === 'reply script')
        return deliver(request, replyScript(what.language), 'public, max-age=3600', {});
      if (what.output === 'map') return mapAnswer(request, entry.card, what.line);
      if ((what.output === 'photo' || what.output === 'logo') && entry.card[what.output]?.hash !== what.hash)
        return notFound(request);
      if (isMade(what)) {
        const made = await madeFor(entry, what);
        return made ? deliver(request, made, cachingOf(asked), {}) : notFound(request);
      }
      if (what.output === 'block file')
        return (await blockFile(request, entry.card, what.hash, cachingOf(asked))) ?? notFound(request);
      if (what.output === 'signature') {
        const signature = signatureOf(entry, asked, what);
        return signature ? deliver(request, signature, cachingOf(asked), {}) : notFound(request);
      }
      const output = outputOf(entry, asked, request);
      return deliver(request, output instanceof Promise ? await output : output, cachingOf(asked), {
        [RECORDED_HEADER]: header,
      });
    } catch (error) {
      if (error instanceof Refusal && AWAY.has(error.problem.code)) return away(request);
      if (error instanceof Refusal && error.problem.code === 'CODE_SPARE') return notYet(request);
      if (error instanceof Refusal && error.problem.code === 'PREVIEW_EXPIRED') return previewGone(request);
      if (error instanceof Refusal && error.problem.code === 'CARD_DELETED')
        return wanted.what.output === 'strip' ? emptyStrip(request) : deleted(request);
      throw error;
    }
  };
}

/** What passes, or never comes: the recipient is asked to try again in a moment. */
const AWAY = new Set<Problem['code']>(['DATABASE_UNAVAILABLE', 'STORE_UNAVAILABLE', 'TOO_BUSY', 'TOO_LABORIOUS']);

const COUNTED = new Set<Asked['what']['output']>(['page', 'file', 'tap']);

const hasEnded = ({ endsAt, state }: PublishedCard, now: number): boolean =>
  state === 'published' && endsAt !== null && endsAt <= now;

/** The picture of the house's logo where that is asked for: it may be seen on what rests too. */
function houseLogoOf(card: PublishedCard, { what }: Asked): Output | null {
  if (what.output !== 'logo' || !card.isHouseLogo) return null;
  const which = (['logo', 'logoOnBand', 'logoByNight'] as const).find((each) => card[each]?.hash === what.hash);
  return which ? pictureOutput(card, which) : null;
}

const lineTapped = ({ body }: RecipientRequest): string => (body ?? '').toString();

/** A tap comes from our own page and names a line of it; anything else is not counted. */
function isTap(entry: Entry, request: RecipientRequest): boolean {
  const site = request.header('sec-fetch-site');
  const tapped = lineTapped(request);
  return (
    (site === '' || site === 'same-origin') &&
    entry.card.composition.lines.some((line) => line.id === tapped && line.on.includes('page'))
  );
}
