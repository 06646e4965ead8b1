import { Refusal } from '@/core/errors';
import type { SizeName } from '@/core/print';
import type { Proof } from '@/core/proof';
import type { Clock } from '@/server/clock';
import { handOutByCode, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import { liveHandOut } from '@/server/services/hand-outs/export-parts';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { drawnBackdrop } from './backdrop';
import type { PieceChannel } from './parts';
import { keptPass, madePass } from './pass';
import { pieceOf, printed } from './print';

/** A file of a card with its proof, and the name that an export gives it. */
export type ExportedPiece = { file: string; bytes: Buffer; proof: Proof };

/**
 * A piece of the card at an address as a file with its proof, a printed one of another size where one is asked for: for whoever runs Heathland,
 * at the command line. One that is missing is made. Errors: NOT_FOUND, CARD_NOT_PUBLISHED, PASS_UNSIGNED, STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS.
 */
export async function exportPiece(
  address: string,
  channel: PieceChannel,
  size: SizeName | null,
  clock: Clock,
): Promise<ExportedPiece> {
  const served = await loadPublished({ address }, clock);
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const row = await inTenant(served.organisationId, (tx) => liveHandOut(tx, served, channel, clock));
  return madeFrom(row, served, size, clock);
}

/** The file of a piece by the code of its hand-out, with its proof. Errors: as {@link exportPiece}. */
export async function pieceByCode(code: string, clock: Clock): Promise<ExportedPiece> {
  const served = await loadPublished({ code }, clock);
  const row = served && (await inTenant(served.organisationId, (tx) => handOutByCode(tx, { code })));
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  return madeFrom(row, served, null, clock);
}

async function madeFrom(
  row: HandOutRow,
  served: PublishedCard,
  size: SizeName | null,
  clock: Clock,
): Promise<ExportedPiece> {
  if (row.channel === 'backdrop') return { file: 'backdrop.png', ...(await drawnBackdrop(row, served, 'png')) };
  if (row.channel === 'pass') return { file: 'card.pkpass', ...(await madePass(keptPass(row), served, clock)) };
  const piece = pieceOf(row);
  const { pdf, proof } = await printed({ row, served, piece: size ? { ...piece, size, codeMm: null } : piece });
  return { file: 'print.pdf', bytes: pdf, proof };
}
