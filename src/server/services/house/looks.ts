import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { Look } from '@/core/look';
import { cleanLine } from '@/core/record';
import { violatedUnique } from '@/server/db/jobs/failures';
import { countAlone } from '@/server/db/locks';
import { deleteLook, insertLook, looksOf } from '@/server/db/house/looks';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { PictureColours } from '@/server/compute/tasks/colours';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { readPicture } from '@/server/services/media/pictures';

export type KeptLook = { id: string; name: string; look: Look };

/** The looks that a person has put by. Error: NOT_ALLOWED. */
export async function listLooks(actor: Actor): Promise<KeptLook[]> {
  authorise(actor, 'look.keep');
  const rows = await inTenant(actor, (tx) => looksOf(tx, actor.userId));
  return rows.map(({ id, name, look }) => ({ id, name, look }));
}

/** Puts a look by under a name; looks of single lines stay with their card. Errors: NOT_ALLOWED, TOO_MANY_LOOKS, LOOK_NAME_TAKEN. */
export async function keepLook(actor: Actor, input: { name: string; look: Look }, clock: Clock): Promise<KeptLook> {
  authorise(actor, 'look.keep');
  const kept = {
    id: randomUUID(),
    name: cleanLine(input.name).text.slice(0, LIMITS.label),
    look: { ...input.look, lines: {}, follows: [], overrides: [] },
  };
  try {
    await inTenant(actor, async (tx) => {
      await countAlone(tx, actor.organisationId, 'looks');
      if ((await looksOf(tx, actor.userId)).length >= LIMITS.looks)
        throw new Refusal({ code: 'TOO_MANY_LOOKS', limit: LIMITS.looks });
      await insertLook(tx, {
        ...kept,
        organisation_id: actor.organisationId,
        user_id: actor.userId,
        created_at: new Date(clock.now()),
      });
      await recordAudit(tx, actor, 'look.kept', { kind: 'look', id: kept.id }, clock);
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('looks_user') ? new Refusal({ code: 'LOOK_NAME_TAKEN' }) : error;
  }
  return kept;
}

/** Removes a look that was put by; cards that took it keep what they took. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeLook(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'look.keep');
  await inTenant(actor, async (tx) => {
    if (!(await deleteLook(tx, actor.userId, id))) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'look.removed', { kind: 'look', id }, clock);
  });
}

/** Colours of a picture of the organisation. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function coloursOfPicture(actor: Actor, hash: string): Promise<PictureColours> {
  const bytes = await readPicture(actor, hash);
  return compute('colours', { bytes }, { of: actor.organisationId, key: `${actor.organisationId} ${hash}` });
}
