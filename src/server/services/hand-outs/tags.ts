import { Refusal } from '@/core/errors';
import { tagMemory } from '@/core/ndef';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { linkOf, ownHandOut } from './own';

/** The NDEF bytes of a tag as they lie in its memory. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function tagBytes(actor: Actor, id: string): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'hand-out.read');
  const { row } = await inTenant(actor.organisationId, (tx) => ownHandOut(tx, actor, id, 'hand-out.read'));
  if (row.channel !== 'tag') throw new Refusal({ code: 'NOT_FOUND' });
  const bytes = row.frozen !== null ? Buffer.from(row.frozen, 'base64') : Buffer.from(tagMemory(linkOf(row), null));
  return { bytes, fileName: `tag-${row.code}` };
}
