import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { countAlone } from '@/server/db/locks';
import { inTenant, type Tx } from '@/server/db/pool';
import { bytesKept, type BytesKept } from '@/server/db/media/pictures';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

const sumOf = ({ pictures, films, imports, artworks }: BytesKept): number => pictures + films + imports + artworks;

/** Refuses bytes beyond what an organisation may keep; whoever else adds some waits until this transaction ends. Error: QUOTA_FULL. */
export async function refuseBeyondQuota(tx: Tx, organisationId: string, more: number): Promise<void> {
  await countAlone(tx, organisationId, 'bytes');
  const used = sumOf(await bytesKept(tx));
  const limitBytes = LIMITS.organisationBytes;
  if (used + more > limitBytes) throw new Refusal({ code: 'QUOTA_FULL', limitBytes });
}

export type Storage = BytesKept & { used: number; limit: number };

/** What an organisation's files take, in bytes, and how much they may. Error: NOT_ALLOWED. */
export async function readStorage(actor: Actor): Promise<Storage> {
  authorise(actor, 'storage.read');
  const kept = await inTenant(actor, bytesKept);
  return { ...kept, used: sumOf(kept), limit: LIMITS.organisationBytes };
}
