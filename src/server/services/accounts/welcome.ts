import type { Device } from '@/core/access';
import { Refusal } from '@/core/errors';
import { writtenName } from '@/core/record';
import type { Clock } from '@/server/clock';
import { dropLinks } from '@/server/db/accounts/account-links';
import { member, memberForUpdate, organisation, updateMember } from '@/server/db/accounts/accounts';
import { updateInvitation } from '@/server/db/accounts/invitations';
import { record } from '@/server/db/cards/records';
import { inTenant } from '@/server/db/pool';
import { recordAudit } from './audit';
import { openLink } from './letters';
import { hashPassword } from './passwords';
import { beginSession } from './sessions';

export type Welcome = { firm: string; name: string };

/** Whom an invitation welcomes. Error: LINK_ENDED. */
export async function readWelcome(token: string, clock: Clock): Promise<Welcome> {
  const link = await openLink(token, ['welcome'], clock);
  return inTenant(link.organisation_id, async (tx) => {
    const user = await member(tx, link.user_id);
    const own = await organisation(tx, link.organisation_id);
    const person = user?.own_record ? await record(tx, user.own_record) : undefined;
    if (!user || !person || own?.deleted_at || user.email !== link.email) throw new Refusal({ code: 'LINK_ENDED' });
    return { firm: own?.name ?? '', name: writtenName(person.body.name) };
  });
}

/**
 * Takes an invitation, once: whoever has the link reads the address that it went to. `password` null of who signs in by codes. Answers with a
 * session's token. Errors: LINK_ENDED, PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK.
 */
export async function takeInvitation(
  { token, password, device }: { token: string; password: string | null; device: Device },
  clock: Clock,
): Promise<string> {
  await readWelcome(token, clock);
  const link = await openLink(token, ['welcome'], clock);
  const { organisation_id } = link;
  const [user, own] = await inTenant(organisation_id, async (tx) => [
    await member(tx, link.user_id),
    await organisation(tx, organisation_id),
  ]);
  if (!user || user.email !== link.email) throw new Refusal({ code: 'LINK_ENDED' });
  const password_hash =
    password === null ? user.password_hash : await hashPassword(password, { ...user, organisation: own?.name ?? '' });
  await inTenant(organisation_id, async (tx) => {
    const row = await memberForUpdate(tx, organisation_id, link.user_id);
    // Of two who take it at once one does.
    const held = (await dropLinks(tx, link.user_id, ['welcome'])) === 1;
    if (!row || !held) throw new Refusal({ code: 'LINK_ENDED' });
    const at = new Date(clock.now());
    await updateMember(tx, organisation_id, row.id, { password_hash, email_confirmed_at: at });
    await updateInvitation(tx, row.id, { accepted_at: at });
    const who = { organisationId: organisation_id, userId: row.id };
    await recordAudit(tx, who, 'member.came', { kind: 'member', id: row.id }, clock);
  });
  return beginSession(user, device, clock);
}
