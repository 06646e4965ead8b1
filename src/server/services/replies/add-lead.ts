import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { RecordSchema, writtenName } from '@/core/record';
import type { CameBy } from '@/core/replies';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { countLeads, insertLead } from '@/server/db/contacts/leads';
import { occasion } from '@/server/db/hand-outs/placements';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { bodyOf, knownBy, type TypedContact } from '@/server/services/contacts/contacts';
import { companyDefaults } from '@/server/services/organisation/company-defaults';
import { linesOfLead } from './lead-lines';

export type AddedLead = TypedContact & { occasion: string | null };

/** Notes somebody whom the member met. Errors: NOT_ALLOWED, NOT_FOUND, LEADS_FULL, and those of what was typed. */
export async function addLead(
  actor: Actor,
  typed: AddedLead,
  clock: Clock,
  by: Exclude<CameBy, 'reply'> = 'typed',
): Promise<{ id: string }> {
  authorise(actor, 'lead.keep');
  const body = bodyOf(typed);
  const id = randomUUID();
  const now = new Date(clock.now());
  await inTenant(actor, async (tx) => {
    if (typed.occasion && !(await occasion(tx, typed.occasion))) throw new Refusal({ code: 'NOT_FOUND' });
    if ((await countLeads(tx, LIMITS.leads)) >= LIMITS.leads)
      throw new Refusal({ code: 'LEADS_FULL', limit: LIMITS.leads });
    const { leads } = await companyDefaults(tx, actor.organisationId);
    await insertLead(tx, {
      ...{ id, organisation_id: actor.organisationId, user_id: actor.userId, written_name: writtenName(body.name) },
      ...{ body, lines: linesOfLead(body), updated_at: now, private: leads.private, state: 'new' },
      ...{ came_at: now, came_by: by, last_at: now, card_id: null, hand_out_id: null, occasion_id: typed.occasion },
      ...{ topics: [], ...knownBy(body) },
    });
    await recordAudit(tx, actor, 'lead.added', { kind: 'contact', id }, clock);
  });
  return { id };
}

/** The same from a contact file of one contact. Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_EMPTY, TOO_MANY_CONTACTS, TOO_BUSY, and those of {@link addLead}. */
export async function addLeadFile(
  actor: Actor,
  bytes: Buffer,
  at: string | null,
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'lead.keep');
  const contact = await compute(
    'single contact',
    { bytes, country: actor.organisation.country },
    { of: actor.organisationId },
  );
  if (!contact) throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit: 1, found: 2 });
  const read = RecordSchema.safeParse(contact.record);
  if (!read.success) throw new Refusal({ code: 'INPUT', field: 'record' });
  const { name, details } = read.data;
  return addLead(actor, { name: writtenName(name), details, occasion: at }, clock, 'file');
}
