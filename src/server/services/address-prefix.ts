import { readAddress, skeletonOf } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { currentPrefix, otherAddressBeginsWith, otherPrefixOf, setPrefix } from '@/server/db/directory';
import { violatedUnique } from '@/server/db/failures';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise } from './authorise';

/** The beginning that new addresses of the organisation have, and the host that they are on. Error: NOT_ALLOWED. */
export async function readPrefix(actor: Actor): Promise<{ prefix: string | null; publicUrl: string }> {
  authorise(actor, 'addresses.write');
  const prefix = await inTenant(actor.organisationId, (tx) => currentPrefix(tx, actor.organisationId));
  return { prefix: prefix ?? null, publicUrl: publicUrlOf(actor.organisationId) };
}

/**
 * Sets the beginning of the organisation's new addresses; an empty one gives it up, though nobody else gets it. Addresses that
 * were given stay as they are. Errors: NOT_ALLOWED, PREFIX_TAKEN, and the `ADDRESS_…` codes of {@link readAddress}.
 */
export async function savePrefix(actor: Actor, typed: string, clock: Clock): Promise<{ prefix: string | null }> {
  authorise(actor, 'addresses.write');
  const prefix = typed.trim() ? orRefuse(readAddress(typed)) : null;
  try {
    await inTenant(actor.organisationId, async (tx) => {
      if (prefix && (await isOthers(tx, prefix, actor.organisationId))) throw new Refusal({ code: 'PREFIX_TAKEN' });
      await setPrefix(tx, actor.organisationId, prefix);
      await writeDown(tx, actor, 'prefix.set', { kind: 'organisation', id: actor.organisationId }, clock);
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('directory_prefixes') ? new Refusal({ code: 'PREFIX_TAKEN' }) : error;
  }
  return { prefix };
}

const isOthers = async (tx: Tx, prefix: string, organisation: string): Promise<boolean> =>
  (await otherPrefixOf(tx, `${prefix}-`, organisation)) !== undefined ||
  (await otherAddressBeginsWith(tx, prefix, skeletonOf(prefix), organisation));

/** Holds a new address against prefixes: with the organisation's own, and with none of another. Errors: PREFIX_MISSING, PREFIX_TAKEN. */
export async function refuseWrongPrefix(tx: Tx, address: string, organisation: string): Promise<void> {
  const own = await currentPrefix(tx, organisation);
  if (own && address !== own && !address.startsWith(`${own}-`))
    throw new Refusal({ code: 'PREFIX_MISSING', prefix: own });
  if (await otherPrefixOf(tx, `${address}-`, organisation)) throw new Refusal({ code: 'PREFIX_TAKEN' });
}
