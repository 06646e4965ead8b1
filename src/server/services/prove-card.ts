import { linesOn, withheldFrom } from '@/core/card';
import { Refusal } from '@/core/errors';
import { withoutHouse } from '@/core/house';
import { proveContactFile, type Proof } from '@/core/proof';
import { VERSIONS, writeContactFile, type VcardVersion } from '@/core/vcard';
import { card } from '@/server/db/cards';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/records';
import { organisation } from '@/server/db/accounts';
import { houseOf } from './house-style';
import { contactContext } from './contact-context';
import { loadPublished } from './load-published';

export type ProvenFile = { version: VcardVersion; bytes: number; lines: number; proof: Proof };

/**
 * Proves the contact file that an address gives out today, in each version: for whoever runs Heathland, at the command line.
 * Unticked values are those of today's record. Error: NOT_FOUND.
 */
export async function proveCardAt(address: string): Promise<ProvenFile[]> {
  const served = await loadPublished({ address });
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  const { composition, organisationId, cardId, publishedAt } = served;
  const withheld = await inTenant(organisationId, async (tx) => {
    const row = await card(tx, cardId);
    const person = row && (await record(tx, row.record_id));
    const owner = await organisation(tx, organisationId);
    if (!row || !person || !owner) throw new Refusal({ code: 'NOT_FOUND' });
    // What goes out is the revision; a line that was unticked since still goes out until the card is published again.
    const out = new Set(linesOn(composition, 'file').map(({ id }) => id));
    const lines = row.lines.map((line) => ({ ...line, ticks: { ...line.ticks, file: out.has(line.detail) } }));
    const house = (await houseOf(tx))?.style ?? null;
    return withoutHouse(withheldFrom(person.body, lines, 'file', owner.country), composition.look, house, 'file');
  });
  return VERSIONS.map((version) => {
    const context = contactContext(
      {
        cardId,
        organisationId,
        address: served.address,
        revised: publishedAt,
        photo: served.photo?.file ?? null,
        logo: served.logo?.file ?? null,
      },
      version,
    );
    const file = writeContactFile(composition, context);
    const proof = proveContactFile(file, composition, withheld, context);
    return { version, bytes: Buffer.byteLength(file), lines: linesOn(composition, 'file').length + 1, proof };
  });
}
