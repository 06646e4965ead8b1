import { recordsWithin } from '@/core/access';
import { NAME_LINE, PRIVACIES, type Privacy } from '@/core/card';
import { Refusal } from '@/core/errors';
import { defaultLabel, writtenName } from '@/core/record';
import {
  PUBLIC_CHANNELS,
  type ExposedPerson,
  type PrivacyMap,
  type PublicAbout,
  type PublicChannel,
  type ShownPublic,
} from '@/core/shown';
import { valueShown } from '@/core/wild';
import { cardIdsOf } from '@/server/db/cards/cards';
import { wordsOf } from '@/server/db/cards/find';
import { countListed, record } from '@/server/db/cards/records';
import { sortInbox } from '@/server/db/response/events';
import { inTenant, outsideTenants } from '@/server/db/pool';
import {
  countExposed,
  countUnjudged,
  exposedPeople,
  publicOf,
  type ExposedBy,
  type ExposedCount,
  type PublicRow,
} from '@/server/db/wild/exposed';
import { savedContacts, sentContacts } from '@/server/db/wild/wild';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { placeOf, readPlace } from '@/server/services/records/name-place';
import { judgeOlder } from './judge';

const PAGE = 50;

/** What is asked of the map: one kind or any, one form or any, people found by what is typed. */
export type MapAsked = {
  privacy?: Privacy | null;
  channel?: PublicChannel | null;
  typed?: string;
  after?: string | null;
};

/** What rows of a map look for. */
export const soughtBy = (actor: Actor, { privacy = null, channel = null, typed = '' }: MapAsked): ExposedBy => ({
  ...{ within: recordsWithin(actor, 'privacy.read'), privacy, channel },
  words: wordsOf(typed),
});

/** Rows of one person as values: what one line says in several cards and forms stands once. */
export function valuesOf(rows: PublicRow[]): ShownPublic[] {
  const found = new Map<string, ShownPublic>();
  for (const { line, kind, source, label, detail, privacy, card_id, audience, channel } of rows) {
    const value = valueShown(detail);
    const inside = source === 'inside';
    const key = JSON.stringify([privacy, line, kind, inside, value]);
    const plain = label || (line === NAME_LINE || detail.kind === 'name' ? '' : defaultLabel(detail));
    const known = found.get(key) ?? { line, privacy, label: plain, value, inside, cards: [], on: [] };
    if (!known.cards.some(({ id }) => id === card_id)) known.cards.push({ id: card_id, audience });
    if (!known.on.includes(channel)) known.on.push(channel);
    found.set(key, known);
  }
  const order = (on: PublicChannel) => PUBLIC_CHANNELS.indexOf(on as (typeof PUBLIC_CHANNELS)[number]);
  return [...found.values()].map((each) => ({ ...each, on: each.on.sort((a, b) => order(a) - order(b)) }));
}

function countsOf(rows: ExposedCount[]): Pick<PrivacyMap, 'counts' | 'exposed'> {
  const of = (privacy: Privacy | null, channel: PublicChannel | null) =>
    rows.find((row) => row.privacy === privacy && row.channel === channel)?.people ?? 0;
  const counts = PRIVACIES.filter((privacy) => of(privacy, null) > 0).map((privacy) => ({
    ...{ privacy, people: of(privacy, null) },
    on: Object.fromEntries(
      PUBLIC_CHANNELS.flatMap((channel) => (of(privacy, channel) > 0 ? [[channel, of(privacy, channel)]] : [])),
    ),
  }));
  return { counts, exposed: of(null, null) };
}

/** Who has something private in public, by kind and by form; of those whom the member reaches. Errors: NOT_ALLOWED, INPUT. */
export async function privacyMap(actor: Actor, asked: MapAsked): Promise<PrivacyMap> {
  authorise(actor, 'privacy.read');
  const after = asked.after ? readPlace(asked.after) : null;
  const of = soughtBy(actor, asked);
  const all: ExposedBy = { ...of, privacy: null, channel: null, words: [] };
  // First and by itself: what was looked at stays so, whatever becomes of the list.
  const { organisationId, organisation } = actor;
  await inTenant(organisationId, (tx) => judgeOlder(tx, { organisationId, country: organisation.country }));
  return inTenant(organisationId, async (tx) => {
    const found = await exposedPeople(tx, of, { after, most: PAGE + 1 });
    const shown = found.slice(0, PAGE);
    const byPerson = new Map<string, PublicRow[]>(shown.map(({ id }) => [id, []]));
    for (const row of await publicOf(tx, [...byPerson.keys()], 'private')) byPerson.get(row.record_id)!.push(row);
    const people: ExposedPerson[] = shown.map(({ id, written_name: name }) => ({
      ...{ id, name },
      values: valuesOf(byPerson.get(id)!).filter(
        ({ privacy, on }) =>
          (of.privacy === null || of.privacy === privacy) && (of.channel === null || on.includes(of.channel)),
      ),
    }));
    const counted = countsOf(await countExposed(tx, all));
    const narrow = of.privacy !== null || of.channel !== null || of.words.length > 0;
    const matching = narrow
      ? ((await countExposed(tx, of)).find(({ privacy, channel }) => privacy === null && channel === null)?.people ?? 0)
      : counted.exposed;
    const { within } = of;
    return {
      ...{ people, ...counted, matching },
      next: found.length > PAGE ? placeOf(shown.at(-1)!) : null,
      of: await countListed(tx, { within, words: [] }),
      waiting: await countUnjudged(tx),
    };
  });
}

/** Everything that is public about one person, private or not. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function publicAbout(actor: Actor, recordId: string): Promise<PublicAbout> {
  authorise(actor, 'privacy.read');
  authoriseFor(actor, 'privacy.read', recordId);
  await outsideTenants(sortInbox);
  return inTenant(actor, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const rows = await publicOf(tx, [recordId], 'all');
    // What is the house style's, or within words that stand here as a whole, is nothing of their own.
    const own = rows.filter(({ source, privacy }) => source !== 'house' && (source !== 'inside' || privacy !== null));
    const cards = await cardIdsOf(tx, [recordId]);
    const saved = (await savedContacts(tx, cards)).reduce((sum, { count }) => sum + count, 0);
    const sent = await sentContacts(tx, cards);
    return { id: recordId, name: writtenName(person.body.name), values: valuesOf(own), saved, sent };
  });
}
