import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { RecordSchema, writtenName, type PersonRecord } from '@/core/record';
import type { CameBy } from '@/core/replies';
import type { ImportedContact } from '@/core/vcard';
import type { Clock } from '@/server/clock';
import { computeEach } from '@/server/compute';
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
export async function addLead(actor: Actor, typed: AddedLead, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'lead.keep');
  const [id] = await insertLeads(actor, [bodyOf(typed)], { occasion: typed.occasion, by: 'typed' }, clock);
  return { id: id! };
}

/** Writes down all of them or none. */
async function insertLeads(
  actor: Actor,
  bodies: PersonRecord[],
  { occasion: at, by }: { occasion: string | null; by: Exclude<CameBy, 'reply'> },
  clock: Clock,
): Promise<string[]> {
  const now = new Date(clock.now());
  return inTenant(actor, async (tx) => {
    if (at && !(await occasion(tx, at))) throw new Refusal({ code: 'NOT_FOUND' });
    if ((await countLeads(tx, LIMITS.leads)) + bodies.length > LIMITS.leads)
      throw new Refusal({ code: 'LEADS_FULL', limit: LIMITS.leads });
    const { leads } = await companyDefaults(tx, actor.organisationId);
    const ids: string[] = [];
    for (const body of bodies) {
      const id = randomUUID();
      await insertLead(tx, {
        ...{ id, organisation_id: actor.organisationId, user_id: actor.userId, written_name: writtenName(body.name) },
        ...{ body, lines: linesOfLead(body), updated_at: now, private: leads.private, state: 'new' },
        ...{ came_at: now, came_by: by, last_at: now, card_id: null, hand_out_id: null, occasion_id: at },
        ...{ topics: [], ...knownBy(body) },
      });
      await recordAudit(tx, actor, 'lead.added', { kind: 'contact', id }, clock);
      ids.push(id);
    }
    return ids;
  });
}

/** A contact as a lead keeps it; null of one that has no name or more than a lead holds. */
function leadFrom({ record }: ImportedContact): PersonRecord | null {
  const read = RecordSchema.safeParse(record);
  if (!read.success) return null;
  const { name, details } = read.data;
  try {
    return bodyOf({ name: writtenName(name), details });
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

/** Leads that came of a contact file, and how many of its contacts could not be kept. */
export type AddedLeads = { ids: string[]; left: number };

/**
 * The same from a contact file of one or of several. Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_EMPTY, TOO_MANY_CONTACTS with how many there are,
 * TOO_BUSY, TOO_LABORIOUS, and those of {@link addLead}.
 */
export async function addLeadFile(actor: Actor, bytes: Buffer, at: string | null, clock: Clock): Promise<AddedLeads> {
  authorise(actor, 'lead.keep');
  const bodies: PersonRecord[] = [];
  let [contacts, isEmpty] = [0, false];
  const file = { bytes, country: actor.organisation.country };
  for await (const { found, outside } of computeEach('contacts', file, { of: actor.organisationId })) {
    isEmpty ||= outside.some(({ code }) => code === 'CARD_EMPTY');
    contacts += found.length;
    // Beyond what comes in at once they are counted alone.
    if (contacts <= LIMITS.leadsAtOnce) bodies.push(...found.flatMap(({ contact }) => leadFrom(contact) ?? []));
  }
  if (contacts > LIMITS.leadsAtOnce)
    throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit: LIMITS.leadsAtOnce, found: contacts });
  if (bodies.length === 0)
    throw new Refusal({ code: isEmpty || contacts > 0 ? 'CONTACT_FILE_EMPTY' : 'NOT_A_CONTACT_FILE' });
  return { ids: await insertLeads(actor, bodies, { occasion: at, by: 'file' }, clock), left: contacts - bodies.length };
}
