import { readAddress } from '@/core/address';
import { orRefuse, Refusal } from '@/core/errors';
import {
  askForPrefix,
  currentPrefix,
  otherPrefixOf,
  prefixRequest,
  withdrawPrefixRequest,
} from '@/server/db/cards/directory';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

export type Prefix = { prefix: string | null; asked: string | null; publicUrl: string; organisation: string };

/** The beginning that new addresses of the organisation have, one that was asked for, and the host that they are on. Error: NOT_ALLOWED. */
export async function readPrefix(actor: Actor): Promise<Prefix> {
  authorise(actor, 'addresses.write');
  return inTenant(actor, async (tx) => ({
    prefix: (await currentPrefix(tx, actor.organisationId)) ?? null,
    asked: (await prefixRequest(tx))?.prefix ?? null,
    publicUrl: publicUrlOf(actor.organisationId),
    organisation: actor.organisationId,
  }));
}

/**
 * Asks for the beginning of the organisation's new addresses, which whoever runs Heathland gives; an empty one takes the request
 * back. Errors: NOT_ALLOWED, PREFIX_TAKEN, and the `ADDRESS_…` codes of {@link readAddress}.
 */
export async function askPrefix(actor: Actor, typed: string, clock: Clock): Promise<{ asked: string | null }> {
  authorise(actor, 'addresses.write');
  const prefix = typed.trim() ? orRefuse(readAddress(typed)) : null;
  await inTenant(actor, async (tx) => {
    if (prefix && (await otherPrefixOf(tx, `${prefix}-`, actor.organisationId)))
      throw new Refusal({ code: 'PREFIX_TAKEN' });
    if (!prefix) await withdrawPrefixRequest(tx);
    else
      await askForPrefix(tx, {
        organisation_id: actor.organisationId,
        prefix,
        asked_by: actor.userId,
        asked_at: new Date(clock.now()),
      });
    await recordAudit(tx, actor, 'prefix.asked', { kind: 'organisation', id: actor.organisationId }, clock);
  });
  return { asked: prefix };
}

/** Holds a new address against prefixes: with the organisation's own, and with none of another. Errors: PREFIX_MISSING, PREFIX_TAKEN. */
export async function refuseWrongPrefix(tx: Tx, address: string, organisation: string): Promise<void> {
  const own = await currentPrefix(tx, organisation);
  if (own && address !== own && !address.startsWith(`${own}-`))
    throw new Refusal({ code: 'PREFIX_MISSING', prefix: own });
  if (await otherPrefixOf(tx, `${address}-`, organisation)) throw new Refusal({ code: 'PREFIX_TAKEN' });
}
