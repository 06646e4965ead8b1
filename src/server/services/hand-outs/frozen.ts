import { reconcile, withheldFrom, type Composition } from '@/core/card';
import { contentText, readTagContent, tagOf, type Content } from '@/core/code';
import { orRefuse, Refusal } from '@/core/errors';
import type { Finding } from '@/core/findings';
import { withoutHouse, type HouseStyle } from '@/core/house';
import { TAG_ROOM } from '@/core/ndef';
import { leakedIn, proveFrozenContact } from '@/core/proof';
import { writeFrozenContact } from '@/core/vcard';
import { carriedInCode, carriedOn, type Carried } from '@/core/wild';
import type { CardRow } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import type { Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';

/** The channels of which a copy may leave as bytes. */
export type FrozenChannel = 'code' | 'tag';

/** What today's ticks keep from a copy, which can never be taken back. A line that is chosen by itself may be one of the page's as well. Error: NOT_FOUND. */
export async function withheldToday(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  channel: FrozenChannel,
  house: HouseStyle | null,
  content: Content,
): Promise<string[]> {
  const person = await record(tx, row.record_id);
  if (!person) throw new Refusal({ code: 'NOT_FOUND' });
  const { body } = person;
  const on = (each: FrozenChannel | 'page') =>
    withoutHouse(
      withheldFrom(body, reconcile(row.lines, body), each, actor.organisation.country),
      row.look,
      house,
      each,
    );
  const inChannel = on(channel);
  if (!('line' in content)) return inChannel;
  const onPage = on('page');
  return inChannel.filter((value) => onPage.includes(value));
}

type Freezing = {
  channel: FrozenChannel;
  content: Content;
  composition: Composition;
  link: string;
  withheld: string[];
};

/**
 * The bytes that a frozen hand-out carries: a code its text, a tag its memory. What was unticked or cut since the card was published does not go
 * out in it. Errors: CONTENT_TOO_LARGE, TAG_TOO_SMALL, PROOF_FAILED, INPUT, those of {@link contentText}.
 */
export function frozenBytes({ channel, content, composition, link, withheld }: Freezing): Buffer {
  const text =
    channel === 'tag' && content.what === 'contact'
      ? writeFrozenContact(composition, 'tag')
      : orRefuse(contentText(content, composition, { link }));
  const leaked = content.what === 'contact' || 'line' in content ? leakedIn(text, withheld) : [];
  if (leaked.length > 0) {
    const finding = { code: 'UNTICKED', still: leaked.length, of: withheld.length } as const;
    throw new Refusal({ code: 'PROOF_FAILED', channel, finding });
  }
  if (content.what === 'contact') refuseOther(text, composition, channel, content, link);
  if (channel === 'code') return Buffer.from(text);
  const memory = orRefuse(tagOf(orRefuse(readTagContent(content)), composition, { link }));
  const room = Math.max(...TAG_ROOM);
  if (memory.length > room) throw new Refusal({ code: 'TAG_TOO_SMALL', bytes: memory.length, room });
  return Buffer.from(memory);
}

/** A contact that does not read as its lines say does not leave. Error: PROOF_FAILED. */
function refuseOther(
  text: string,
  composition: Composition,
  channel: FrozenChannel,
  content: Extract<Content, { what: 'contact' }>,
  link: string,
): void {
  const isTag = channel === 'tag';
  const found = proveFrozenContact(text, composition, {
    channel,
    link: content.link && !isTag ? link : null,
    version: isTag ? '3.0' : VERSIONS[content.form],
  });
  const refuse = (finding: Finding) => {
    throw new Refusal({ code: 'PROOF_FAILED', channel, finding });
  };
  if (!found) return refuse({ code: 'UNREADABLE' });
  const of = composition.lines.filter(({ on }) => on.includes(channel)).length + 1;
  const { missing, more } = found;
  if (missing.length > 0) refuse({ code: 'LINES_READ', read: of - missing.length, of, missing });
  if (more.length > 0) refuse({ code: 'NOTHING_ELSE', more });
}
const VERSIONS = { 'vCard 3.0': '3.0', 'vCard 4.0': '4.0', MeCard: 'MeCard' } as const;

/** What a frozen code or tag carries of a card. */
export const carriedInFrozen = (
  channel: FrozenChannel,
  content: Content,
  composition: Composition,
  country: string,
): Carried[] =>
  content.what === 'contact' ? carriedOn(composition, channel, country) : carriedInCode(content, composition, country);
