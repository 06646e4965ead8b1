import { writeFrozenContact } from '@/core/vcard';
import { publicUrlOf } from '@/server/env';
import { loadPublished } from './load-published';

/**
 * What a code of the card at an address holds, for whoever runs Heathland, at the command line: its link, or the contact that its ticks let into a
 * code. Null where no card is published there.
 */
export async function codeTextAt(address: string, frozen: boolean): Promise<string | null> {
  const served = await loadPublished({ address });
  if (!served || served.state !== 'published' || served.address === null) return null;
  if (frozen) return writeFrozenContact(served.composition, 'code');
  return `${publicUrlOf(served.organisationId)}/c/${served.address}`;
}
