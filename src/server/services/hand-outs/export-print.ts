import { Refusal } from '@/core/errors';
import { FIRST_PIECE, type SizeName } from '@/core/print';
import type { Proof } from '@/core/proof';
import type { Clock } from '@/server/clock';
import { inTenant } from '@/server/db/pool';
import { loadPublished } from '@/server/services/publishing/load-published';
import { liveHandOut } from './export-parts';
import { printed } from './print';

/**
 * The printed piece of the card at an address as a file with its proof, of another size where one is asked for: for whoever runs Heathland,
 * at the command line. One that is missing is made. Errors: NOT_FOUND, CARD_NOT_PUBLISHED, those of {@link printed}.
 */
export async function exportPrint(
  address: string,
  size: SizeName | null,
  clock: Clock,
): Promise<{ pdf: Buffer; proof: Proof }> {
  const served = await loadPublished({ address }, clock);
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const row = await inTenant(served.organisationId, (tx) => liveHandOut(tx, served, 'print', clock));
  const kept = row.print ?? FIRST_PIECE;
  return printed({ row, served, piece: size ? { ...kept, size, codeMm: null } : kept });
}
