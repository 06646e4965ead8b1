import { randomBytes } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { writeLetter, type LetterParts } from '@/core/letter';
import { RATES } from '@/core/limits';
import { LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { keepLink, linkByToken, type FoundLink, type LinkPurpose } from '@/server/db/accounts/account-links';
import { organisation, type UserRow } from '@/server/db/accounts/accounts';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { settings } from '@/server/env';
import { mailIsOpen, postMail } from '@/server/services/mail/post-mail';
import type { Actor } from './actor';
import { countOf } from './limit-rate';
import { hashOf } from './sessions';

const [HOUR, DAY] = [3_600_000, 86_400_000];

/** So long a link holds, in milliseconds, and where it leads. */
const LINKS: Record<LinkPurpose, { holdsMs: number; place: string }> = {
  confirm: { holdsMs: 7 * DAY, place: 'confirm' },
  password: { holdsMs: HOUR, place: 'new-password' },
  'move-from': { holdsMs: DAY, place: 'move' },
  'move-to': { holdsMs: DAY, place: 'move' },
  welcome: { holdsMs: 7 * DAY, place: 'welcome' },
};
/** A notice of what has happened is of use for so long. */
const NOTICE_MS = 3 * DAY;

export type Holder = Pick<UserRow, 'id' | 'organisation_id'>;

/** A place of the studio, as it stands in letters. */
export const studioPlace = (place: string): string => `${settings().BASE_URL}/${place}`;

/** A link that lets whoever reads a letter do something once; only its hash is kept. */
export async function linkFor(tx: Tx, of: Holder, purpose: LinkPurpose, email: string, clock: Clock): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const [now, { holdsMs, place }] = [clock.now(), LINKS[purpose]];
  await keepLink(tx, {
    ...{ organisation_id: of.organisation_id, user_id: of.id, purpose, email, token_hash: hashOf(token) },
    ...{ created_at: new Date(now), expires_at: new Date(now + holdsMs), agreed_at: null },
  });
  return studioPlace(`${place}/${token}`);
}

/** The link by which somebody's address is confirmed, where whoever asks vouches for it and no letter is sent. */
export const confirmationFor = ({ userId, organisationId, email }: Actor, clock: Clock): Promise<string> =>
  inTenant(organisationId, (tx) =>
    linkFor(tx, { id: userId, organisation_id: organisationId }, 'confirm', email, clock),
  );

/** What a link is for. Error: LINK_ENDED, whether there ever was one or not. */
export async function openLink(token: string, purposes: readonly LinkPurpose[], clock: Clock): Promise<FoundLink> {
  const held = /^[\w-]{43}$/.test(token)
    ? await outsideTenants((db) => linkByToken(db, hashOf(token), new Date(clock.now())))
    : undefined;
  if (!held || !purposes.includes(held.purpose)) throw new Refusal({ code: 'LINK_ENDED' });
  return held;
}

/** Whether an address may be written to once more within this hour, whoever asks for it. Counted. */
export const mayWriteTo = async (
  email: string,
  clock: Clock,
  of: 'letter to an address' | 'way back in' = 'letter to an address',
): Promise<boolean> => !(await countOf(of, email, clock)).beyond;

/** Writes to somebody about their account, in the transaction of what it tells of. `purpose` of a letter with a link: it is of use as long as that holds. */
export const writeTo = (
  tx: Tx,
  { id, organisation_id }: Holder,
  to: { name: string; address: string },
  parts: LetterParts,
  purpose: LinkPurpose | null,
  clock: Clock,
): Promise<string> =>
  postMail(
    tx,
    {
      ...{ organisationId: organisation_id, userId: id, kind: purpose ?? 'notice', to, letter: writeLetter(parts) },
      ...{ urgent: true, holdsMs: purpose ? LINKS[purpose].holdsMs : NOTICE_MS },
    },
    clock,
  );

/** An instant as a letter tells it, in the time of whoever reads. */
export const toldInstant = (at: number, timeZone: string): string =>
  `${new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone }).format(at)} (${timeZone})`;

/** Tells somebody what has happened to their account, where mail leaves and they have said that their address is theirs. */
export async function notify(
  tx: Tx,
  user: Holder & Pick<UserRow, 'name' | 'email' | 'email_confirmed_at'>,
  parts: (told: { name: string; when: string; forgotten: string }) => LetterParts,
  clock: Clock,
): Promise<void> {
  if (!mailIsOpen() || user.email_confirmed_at === null) return;
  const own = await organisation(tx, user.organisation_id);
  const when = toldInstant(clock.now(), own?.time_zone ?? 'UTC');
  const to = { name: user.name, address: user.email };
  await writeTo(tx, user, to, parts({ name: user.name, when, forgotten: studioPlace('forgotten') }), null, clock);
}

/** Asks whoever reads an address to confirm it; of one that is another account's, tells that one. `mayWriteTo` was asked before. */
export async function askToConfirm(
  tx: Tx,
  user: Holder & { email: string; provisional: boolean },
  clock: Clock,
): Promise<void> {
  const to = { name: '', address: user.email };
  if (user.provisional) return void (await writeTo(tx, user, to, LETTERS.taken(studioPlace('sign-in')), null, clock));
  const link = await linkFor(tx, user, 'confirm', user.email, clock);
  await writeTo(tx, user, to, LETTERS.confirm(link), 'confirm', clock);
}

/** The seconds after which an address may be written to again. */
export const LETTER_SECONDS = RATES['letter to an address'].seconds;
