import { recordsWithin } from '@/core/access';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { PersonRecord } from '@/core/record';
import { contactFileName, writeContactFile, writeRecord, type VcardVersion } from '@/core/vcard';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { inTenant, type Tx } from '@/server/db/pool';
import { listedIds, record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { contactContext } from '@/server/services/publishing/contact-context';
import { refuseStale } from '@/server/services/accounts/fresh';
import { composeCard } from '@/server/services/publishing/compose-card';
import { findIn, picturesForFile, picturesOf, type Later } from '@/server/services/media/pictures';

export type ExportedContact = { fileName: string; text: string };

/** Records whole and cards as their ledger says; `everybody` for all records that the member sees. */
export type ExportChoice = { records: string[] | 'everybody'; cards: string[]; version: VcardVersion };

/** So many records go out without the password being typed lately; more is an address book. */
export const WITHOUT_PASSWORD = 25;

/**
 * The contacts of a choice, one after the other, so that thousands are never held at once. A record goes out whole, with
 * what came with it and is not understood; a card goes out with the lines ticked for its contact file, as they stand on
 * its table. Errors: NOT_ALLOWED, NOT_FOUND, NOTHING_CHOSEN, TOO_MANY_CHOSEN.
 */
export async function exportContacts(
  actor: Actor,
  choice: ExportChoice,
  clock: Clock,
): Promise<{ count: number; contacts: AsyncGenerator<ExportedContact> }> {
  // What a card gives out anyway, whoever sees it may take along; a record whole is more than its cards say.
  const wantsRecords = choice.records === 'everybody' || choice.records.length > 0;
  authorise(actor, wantsRecords ? 'record.export' : 'card.read');
  const { organisationId } = actor;
  if (choice.records === 'everybody' || choice.records.length > WITHOUT_PASSWORD) refuseStale(actor, clock);
  const records =
    choice.records !== 'everybody'
      ? choice.records
      : await inTenant(organisationId, (tx) =>
          listedIds(tx, { within: recordsWithin(actor, 'record.export'), words: [] }),
        );
  const count = records.length + choice.cards.length;
  if (count === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
  if (count > LIMITS.contactsAtOnce) throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.contactsAtOnce });
  // Everything is looked up before the first byte leaves: an answer that has begun can no longer refuse.
  await inTenant(organisationId, async (tx) => {
    for (const id of records) {
      authoriseFor(actor, 'record.export', id);
      await recordFor(tx, id);
    }
    for (const id of choice.cards) await cardFor(tx, actor, id);
    const subject = { kind: 'organisation' as const, id: organisationId };
    const data = { records: records.length, cards: choice.cards.length };
    await recordAudit(tx, actor, 'contacts.exported', subject, clock, data);
  });
  async function* contacts(): AsyncGenerator<ExportedContact> {
    for (const id of records)
      yield await (
        await inTenant(organisationId, (tx) => recordAsFile(tx, actor, id, choice.version))
      )();
    for (const id of choice.cards)
      yield await (
        await inTenant(organisationId, (tx) => cardAsFile(tx, actor, id, choice.version, clock))
      )();
  }
  return { count, contacts: contacts() };
}

async function recordFor(tx: Tx, id: string): Promise<{ body: PersonRecord; updatedAt: Date }> {
  const row = await record(tx, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  return { body: row.body, updatedAt: row.updated_at };
}

async function cardFor(tx: Tx, actor: Actor, id: string) {
  authorise(actor, 'card.read');
  const row = await card(tx, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'card.read', row.record_id);
  const { body } = await recordFor(tx, row.record_id);
  return { row, body };
}

async function recordAsFile(tx: Tx, actor: Actor, id: string, version: VcardVersion): Promise<Later<ExportedContact>> {
  authoriseFor(actor, 'record.export', id);
  const { body, updatedAt } = await recordFor(tx, id);
  const pictures = await picturesForFile(tx, body.details);
  const served = { cardId: id, organisationId: actor.organisationId, address: null, revised: updatedAt.toISOString() };
  return async () => ({
    fileName: contactFileName(body),
    text: writeRecord(body, contactContext({ ...served, ...(await pictures()) }, version)),
  });
}

async function cardAsFile(
  tx: Tx,
  actor: Actor,
  id: string,
  version: VcardVersion,
  clock: Clock,
): Promise<Later<ExportedContact>> {
  const { row, body } = await cardFor(tx, actor, id);
  const { shown: composition } = await composeCard(tx, row, body, actor.organisation.country);
  const address = (await currentAddress(tx, id)) ?? null;
  const revised = new Date(clock.now()).toISOString();
  const pictures = await picturesOf(findIn(tx), composition);
  const served = { cardId: id, organisationId: actor.organisationId, address, revised };
  return async () => ({
    fileName: contactFileName(composition),
    text: writeContactFile(composition, contactContext({ ...served, ...(await pictures()) }, version)),
  });
}
