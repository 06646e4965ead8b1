import { compute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { readPicture } from '@/server/services/media/pictures';

/** A picture that the member may see as the mark of a code. Errors: those of {@link readPicture}, TOO_BUSY, TOO_LABORIOUS. */
export async function markOfPicture(actor: Actor, hash: string): Promise<{ href: string; ratio: number }> {
  const bytes = await readPicture(actor, hash, 'whole');
  return compute('mark', { bytes }, { of: actor.organisationId, key: `mark ${hash}` });
}
