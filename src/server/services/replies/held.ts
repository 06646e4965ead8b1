import type { Language } from '@/core/language';
import { Refusal } from '@/core/errors';
import { writtenName } from '@/core/record';
import { isConfirmingName, recordOfReply, withToldInstead, type Told } from '@/core/replies';
import type { Clock } from '@/server/clock';
import { recordAudit } from '@/server/services/accounts/audit';
import { organisation } from '@/server/db/accounts/accounts';
import { card } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { latestRevision } from '@/server/db/cards/revisions';
import {
  agreeToViews,
  correctReply,
  eraseReply,
  followReply,
  replyBy,
  replyOf,
  type FoundReply,
} from '@/server/db/contacts/replies';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { applyHouseStyle } from '@/core/house';
import type { Look } from '@/core/look';
import { houseOf } from '@/server/services/house/house-style';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { knownBy } from '@/server/services/contacts/contacts';
import { linesOfLead } from './lead-lines';
import { hashOfToken } from './tokens';

/** What a lasting link leads to: a card wherever it is by now, and what is held of whoever sent the reply. */
export type Held = {
  reply: string;
  organisationId: string;
  byMail: boolean;
  /** The short address of the card today, or null where it has none any more. */
  address: string | null;
  holder: string;
  look: Look | null;
  at: string;
  timeZone: string;
  language: Language;
  country: string;
  told: Told | null;
  consent: string;
  followed: boolean;
  agreed: boolean;
};

const found = (token: string): Promise<FoundReply | undefined> =>
  outsideTenants((db) => replyBy(db, hashOfToken(token)));

/** What a lasting link leads to; null where there never was one. */
export async function openLasting(token: string): Promise<Held | null> {
  const entry = await found(token);
  if (!entry) return null;
  return inTenant(entry.organisation_id, async (tx) => {
    const row = await replyOf(tx, entry.id);
    const owner = await organisation(tx, entry.organisation_id);
    if (!row || !owner) return null;
    const of = await card(tx, row.card_id);
    const revision = of && (await latestRevision(tx, row.card_id));
    const style = of ? ((await houseOf(tx, of))?.style ?? null) : null;
    return {
      ...{ reply: entry.id, organisationId: entry.organisation_id, byMail: entry.by_mail },
      address: (await currentAddress(tx, row.card_id)) ?? null,
      holder: revision ? writtenName(revision.composition.name) : owner.name,
      look: revision ? applyHouseStyle(revision.composition, style).look : null,
      ...{ at: row.at.toISOString(), timeZone: owner.time_zone, country: owner.country },
      language: row.consent?.language ?? revision?.composition.language ?? 'en',
      ...{ told: row.told, consent: row.consent?.sentence ?? '' },
      ...{ followed: row.followed_at !== null, agreed: row.views_agreed_at !== null },
    };
  });
}

/** A person followed the link: its address is theirs, and where they agreed the holder is told of the view. */
export const noteFollowed = (held: Held, clock: Clock): Promise<unknown> =>
  inTenant(held.organisationId, (tx) => followReply(tx, held.reply, new Date(clock.now())));

/** Whether somebody has said the name that was given: asked of whoever comes by a mail, since that may be anybody. Error: TOO_MANY_REQUESTS. */
export async function hasSaidName(held: Held, typed: string, clock: Clock): Promise<boolean> {
  if (!held.told) return false;
  if (!held.byMail) return true;
  await limitRate('held details', held.reply, clock);
  return isConfirmingName(held.told, typed);
}

/** Writes what was told anew. What the holder made of it changes where it still says what was told before. */
export async function correctHeld(
  { reply, organisationId, country, byMail }: Held,
  told: Told,
  email: string | null,
  clock: Clock,
): Promise<void> {
  await inTenant(organisationId, async (tx) => {
    const row = await replyOf(tx, reply);
    if (!row?.told) throw new Refusal({ code: 'NOT_FOUND' });
    const own = recordOfReply(told, country);
    const body = row.body ? withToldInstead(row.body, row.told, told, country) : own;
    await correctReply(
      tx,
      reply,
      {
        ...{
          at: new Date(clock.now()),
          told,
          address: email,
          body,
          name: writtenName(body.name),
          lines: linesOfLead(body),
        },
        ...knownBy(body),
      },
      byMail,
    );
  });
}

/** Takes the mail address out of what is told, as whoever gets mails there by mistake wants. */
export async function removeAddress(held: Held, clock: Clock): Promise<void> {
  if (!held.told) return;
  const { told } = held;
  const without = (text: string) => (text.includes('@') ? '' : text);
  await correctHeld(held, { ...told, reach: without(told.reach), other: without(told.other) }, null, clock);
}

/** Agrees that later views by the link are told to the holder, or no longer. */
export const agreeHeld = ({ reply, organisationId }: Held, agreed: boolean, clock: Clock): Promise<unknown> =>
  inTenant(organisationId, (tx) => agreeToViews(tx, reply, agreed, new Date(clock.now())));

/** Erases everything that is held of whoever sent the reply, what the holder noted with it; of somebody who was known before only to whom the mail went.  The audit trail keeps ids. */
export async function eraseHeld({ reply, organisationId, byMail }: Held, clock: Clock): Promise<void> {
  await inTenant(organisationId, async (tx) => {
    const gone = await eraseReply(tx, reply, byMail, new Date(clock.now()));
    if (gone)
      await recordAudit(tx, { organisationId, userId: null }, 'lead.erased', { kind: 'contact', id: gone }, clock);
  });
}
