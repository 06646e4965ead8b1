import { languagesOf, linesOn, reconcile, withheldFromAll, type Channel, type Line } from '@/core/card';
import { Refusal } from '@/core/errors';
import { withoutHouse } from '@/core/house';
import { proveContactFile, type Proof } from '@/core/proof';
import { VERSIONS, writeContactFile, type VcardVersion } from '@/core/vcard';
import type { PersonRecord } from '@/core/record';
import { card, type CardRow } from '@/server/db/cards/cards';
import { latestRevision, type RevisionRow } from '@/server/db/cards/revisions';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import { organisation } from '@/server/db/accounts/accounts';
import { houseOf } from '@/server/services/house/house-style';
import { contactContext } from './contact-context';
import { loadPublished, type PublishedCard } from './load-published';

/**
 * The lines of a card as its revision has them: what was ticked or unticked since goes out with the next one. Of revisions that
 * kept no draft only the ticks are known, by what they give out.
 */
export function linesOut(row: CardRow, { draft, composition }: RevisionRow, body: PersonRecord): Line[] {
  if (draft) return reconcile(draft.lines, body);
  const out = (channel: 'page' | 'file') => new Set(linesOn(composition, channel).map(({ id }) => id));
  const [page, file] = [out('page'), out('file')];
  return reconcile(row.lines, body).map((line) => ({
    ...line,
    ticks: { ...line.ticks, page: page.has(line.detail), file: file.has(line.detail) },
  }));
}

/** What must not leave on a channel of a card as it is served. Error: NOT_FOUND. */
export const withheldOf = (
  { composition, organisationId, cardId }: PublishedCard,
  channel: Channel,
): Promise<string[]> =>
  inTenant(organisationId, async (tx) => {
    const row = await card(tx, cardId);
    const person = row && (await record(tx, row.record_id));
    const owner = await organisation(tx, organisationId);
    const revision = await latestRevision(tx, cardId);
    if (!row || !person || !owner || !revision) throw new Refusal({ code: 'NOT_FOUND' });
    const lines = linesOut(row, revision, person.body);
    const house = (await houseOf(tx, row))?.style ?? null;
    const words = revision.draft?.words ?? row.words;
    const withheld = withheldFromAll(person.body, { lines, words }, languagesOf(composition), channel, owner.country);
    return withoutHouse(withheld, composition.look, house, channel);
  });

export type ProvenFile = { version: VcardVersion; bytes: number; lines: number; proof: Proof };

/**
 * Proves the contact file that an address gives out today, in each version: for whoever runs Heathland, at the command line.
 * Unticked values are those of today's record. Error: NOT_FOUND.
 */
export async function proveCardAt(address: string): Promise<ProvenFile[]> {
  const served = await loadPublished({ address });
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  const { composition, organisationId, cardId, publishedAt } = served;
  const withheld = await withheldOf(served, 'file');
  return VERSIONS.map((version) => {
    const context = contactContext(
      {
        cardId,
        organisationId,
        address: served.address,
        revised: publishedAt,
        ...served.inFile,
      },
      version,
    );
    const file = writeContactFile(composition, context);
    const proof = proveContactFile(file, composition, withheld, context);
    return { version, bytes: Buffer.byteLength(file), lines: linesOn(composition, 'file').length + 1, proof };
  });
}
