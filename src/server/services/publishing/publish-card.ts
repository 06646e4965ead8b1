import { randomBytes, randomUUID } from 'node:crypto';
import { codeFrom, readAddress, skeletonOf } from '@/core/address';
import type { Draft } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import { cardForUpdate, type CardRow, setCardState } from '@/server/db/cards/cards';
import { type HandOutRow, insertHandOut, type TagState } from '@/server/db/hand-outs/hand-outs';
import { placementNamed } from '@/server/db/hand-outs/placements';
import { insertRevisions, revisionNumbers } from '@/server/db/cards/revisions';
import { refuseWrongPrefix } from './address-prefix';
import {
  addressOwner,
  countAddresses,
  currentAddress,
  insertCode,
  publishInDirectory,
  setAddress,
} from '@/server/db/cards/directory';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { limitRateIn } from '@/server/services/accounts/limit-rate';
import { overrideOrRefuse } from '@/server/services/house/contrast';
import { notePublished, type GoingOut } from '@/server/services/wild/note-copy';
import { FIRST_PLACEMENT } from './proof-order';
import { planEnd, type Ends } from './plan-end';
import { Outdated, outgoing, provenThen, proveToPublish, type Planned } from './prove-to-publish';

/**
 * Publishes a card: proves its outputs, makes an immutable revision, and sets its short address (the first one, or a
 * new one; earlier addresses keep leading here). The versions are those of card and record that the person looked at; `ends` says
 * when it ends, null that it does not. Errors: NOT_FOUND, CARD_CHANGED, RECORD_CHANGED, NOTHING_ON_PAGE, PROOF_FAILED,
 * PLAN_IN_THE_PAST, and the `ADDRESS_…` codes.
 */
export async function publishCard(
  actor: Actor,
  id: string,
  input: {
    baseVersion: number;
    recordVersion?: number;
    address: string;
    note?: string;
    overrideContrast?: boolean;
    ends?: Ends | null;
    /** Cards made by the hundred, whose addresses nobody names one by one. */
    byTheHundred?: boolean;
  },
  clock: Clock,
): Promise<{ revision: number; address: string }> {
  authorise(actor, 'card.publish');
  const address = orRefuse(readAddress(input.address));
  const { recordVersion, ends } = input;
  try {
    return await provenThen(
      () => proveToPublish(actor, id, { address, version: input.baseVersion, recordVersion }, clock),
      (seal) =>
        inTenant(actor, async (tx) => {
          const row = await cardForUpdate(tx, id);
          if (!row) throw new Refusal({ code: 'NOT_FOUND' });
          authoriseFor(actor, 'card.publish', row.record_id);
          if (row.version !== input.baseVersion) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
          const published = await publishRow(tx, actor, row, address, clock, { ...input, seal });
          if (ends !== undefined) await planEnd(tx, actor, id, ends, clock);
          return published;
        }),
    );
  } catch (error) {
    // Two who take the same free address at the same moment: the second one is told as if it had been taken before.
    throw violatedUnique(error)?.startsWith('directory_addresses') ? new Refusal({ code: 'ADDRESS_TAKEN' }) : error;
  }
}

type Publishing = {
  seal: string;
  note?: string;
  overrideContrast?: boolean;
  planned?: Planned;
  byTheHundred?: boolean;
};

/** Publishes a locked card that was proven: its next revision, at this address. Throws {@link Outdated} where it is another by now. */
export async function publishRow(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  address: string,
  clock: Clock,
  { seal, note = '', overrideContrast = false, planned = null, byTheHundred = false }: Publishing,
): Promise<{ revision: number; address: string }> {
  const { id } = row;
  const at = new Date(clock.now());
  const { composition, shown, draft, seal: today } = await outgoing(tx, actor, row, address, planned);
  if (seal !== today) throw new Outdated();
  await overrideOrRefuse(tx, actor, { kind: 'card', id }, shown.look, overrideContrast, clock);
  const number = ((await revisionNumbers(tx, [id])).get(id) ?? 0) + 1;
  await writeRevisions(tx, actor, [{ cardId: id, revision: number, composition, shown, draft, note }], at);
  if (row.state !== 'published') await setCardState(tx, id, { state: 'published' });
  if (await claimAddress(tx, actor, id, address, clock, byTheHundred))
    await recordAudit(tx, actor, 'address.set', { kind: 'card', id }, clock);
  if (number === 1) await addHandOut(tx, actor.organisationId, id, FIRST_PLACEMENT, at);
  await recordAudit(tx, actor, 'card.published', { kind: 'card', id }, clock, { revision: number });
  return { revision: number, address };
}

/** Writes the next revisions of cards that were proven, and what these give out from now on. */
export async function writeRevisions(
  tx: Tx,
  { organisationId, userId, organisation }: Actor,
  going: (GoingOut & { draft: Draft; note: string })[],
  at: Date,
): Promise<void> {
  const rows = going.map(({ cardId, revision, composition, draft, note }) => ({
    ...{ id: randomUUID(), organisation_id: organisationId, card_id: cardId, number: revision, composition, draft },
    ...{ published_by: userId, published_at: at, note: cleanLine(note).text.slice(0, LIMITS.revisionNote) },
  }));
  await insertRevisions(tx, rows);
  await notePublished(tx, { organisationId, at, country: organisation.country }, going);
  const ids = going.map(({ cardId }) => cardId);
  await publishInDirectory(tx, ids, organisationId);
}

/** Makes an address the card's current one; answers whether it was another. */
async function claimAddress(
  tx: Tx,
  actor: Actor,
  cardId: string,
  address: string,
  clock: Clock,
  byTheHundred: boolean,
): Promise<boolean> {
  const { organisationId: organisation } = actor;
  if ((await currentAddress(tx, cardId)) === address) return false;
  const owner = await addressOwner(tx, address, skeletonOf(address));
  if (owner && owner.card_id !== cardId)
    throw new Refusal({ code: owner.name === address ? 'ADDRESS_TAKEN' : 'ADDRESS_LOOKS_LIKE_ANOTHER' });
  if (owner && owner.name !== address) throw new Refusal({ code: 'ADDRESS_LOOKS_LIKE_ANOTHER' });
  // One that leads here already is as it is.
  if (!owner) {
    await refuseWrongPrefix(tx, address, organisation);
    if ((await countAddresses(tx, cardId)) >= LIMITS.addresses)
      throw new Refusal({ code: 'TOO_MANY_ADDRESSES', limit: LIMITS.addresses });
    if (!byTheHundred) await limitRateIn(tx, 'address', actor.userId, clock);
  }
  await setAddress(tx, {
    organisation_id: organisation,
    card_id: cardId,
    name: address,
    skeleton: skeletonOf(address),
  });
  return true;
}

type Made = Pick<HandOutRow, 'channel' | 'frozen' | 'revision' | 'content' | 'occasion_id'> & { tag?: TagState };
const LIVE_CODE: Made = { channel: 'code', frozen: null, revision: null, content: { what: 'card' }, occasion_id: null };

/** Makes a hand-out with a code that was never used before. */
export async function addHandOut(
  tx: Tx,
  organisationId: string,
  cardId: string,
  placement: string,
  at: Date,
  frozen: (code: string) => Made = () => LIVE_CODE,
): Promise<{ id: string; code: string }> {
  const id = randomUUID();
  const code = codeFrom(randomBytes(8));
  await insertCode(tx, { organisation_id: organisationId, code, card_id: cardId, hand_out_id: id });
  const made = frozen(code);
  await insertHandOut(tx, {
    id,
    organisation_id: organisationId,
    card_id: cardId,
    code,
    placement,
    placement_id: await placementNamed(tx, organisationId, placement),
    created_at: at,
    pass_token: made.channel === 'pass' ? randomBytes(24).toString('base64url') : null,
    ...made,
  });
  return { id, code };
}
