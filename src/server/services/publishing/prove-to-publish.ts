import { composeDraft, draftOf, linesOn, reconcile, type Composition, type Draft } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import type { PersonRecord } from '@/core/record';
import { card, type CardRow } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record, type RecordRow } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import { compute, type ProofOrder } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { authoriseFor } from '@/server/services/accounts/authorise';
import { refuseMissingFiles } from '@/server/services/media/block-files';
import { houseOf, type HouseOfCard } from '@/server/services/house/house-style';
import { findIn, type FindPicture, type Later } from '@/server/services/media/pictures';
import { proofOrder } from './proof-order';

/** A card as it would go out now. `seal` names all that its proof depends on. */
export type Outgoing = {
  composition: Composition;
  shown: Composition;
  /** The draft behind it, its lines held against today's record. */
  draft: Draft;
  house: HouseStyle | null;
  person: PersonRecord;
  recordVersion: number;
  seal: string;
};

/** Names all that the proof of a card depends on. */
export const sealOf = (
  actor: Actor,
  row: Pick<CardRow, 'id' | 'version'>,
  of: { recordVersion: number; house: HouseOfCard; address: string },
): string =>
  [row.id, row.version, of.recordVersion, of.house?.seal ?? '', actor.organisation.country, of.address].join(' ');

/** What was planned goes out as it was shown then; without a plan, what card and record say now. */
export type Planned = { composition: Composition; draft: Draft } | null;

/** Error: NOT_FOUND, FILE_GONE, NOTHING_ON_PAGE, those of a wording that cannot be read. */
export async function outgoing(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  address: string,
  planned: Planned = null,
): Promise<Outgoing> {
  const found = await record(tx, row.record_id);
  if (!found) throw new Refusal({ code: 'NOT_FOUND' });
  const out = outgoingOf(actor, row, { person: found, house: await houseOf(tx, row), address }, planned);
  await refuseMissingFiles(tx, out.draft);
  return out;
}

/** The same of what is known already; whether its files are there is not looked at. Errors: as {@link outgoing}, but FILE_GONE. */
export function outgoingOf(
  actor: Actor,
  row: CardRow,
  { person: found, house, address }: { person: RecordRow; house: HouseOfCard; address: string },
  planned: Planned = null,
): Outgoing {
  const person = found.body;
  const of = planned?.draft ?? draftOf(row);
  const draft = { ...of, lines: reconcile(of.lines, person) };
  const composition = planned ? planned.composition : orRefuse(composeDraft(person, draft, actor.organisation.country));
  if (linesOn(composition, 'page').length === 0 && linesOn(composition, 'file').length === 0)
    throw new Refusal({ code: 'NOTHING_ON_PAGE' });
  return {
    composition,
    shown: applyHouseStyle(composition, house?.style ?? null),
    draft,
    house: house?.style ?? null,
    person,
    recordVersion: found.version,
    seal: sealOf(actor, row, { recordVersion: found.version, house, address }),
  };
}

/**
 * Proves a card before it is published, in no transaction, so that nobody waits for its rows meanwhile: the very outputs are made
 * and read back. `version` and `recordVersion` are those that somebody looked at. Answers with the seal of what was proven. Errors:
 * NOT_FOUND, CARD_CHANGED, RECORD_CHANGED, PROOF_FAILED and those of {@link outgoing}.
 */
export async function proveToPublish(
  actor: Actor,
  id: string,
  asked: { address: string; version?: number; recordVersion?: number; planned?: Planned },
  clock: Clock,
): Promise<string> {
  const { order, seal } = await inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.publish', row.record_id);
    const { address, version, recordVersion, planned } = asked;
    if (version !== undefined && row.version !== version)
      throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const out = await outgoing(tx, actor, row, address, planned);
    if (recordVersion !== undefined && out.recordVersion !== recordVersion)
      throw new Refusal({ code: 'RECORD_CHANGED', version: out.recordVersion });
    return { order: await orderOf(findIn(tx), actor, id, address, out, clock), seal: out.seal };
  });
  await proveOrder(actor, order);
  return seal;
}

/** The proof of a card that goes out at an address, as it is asked for. */
export function orderOf(
  find: FindPicture,
  actor: Actor,
  cardId: string,
  address: string,
  { person, draft, shown, house }: Outgoing,
  clock: Clock,
): Promise<Later<ProofOrder>> {
  const revised = new Date(clock.now()).toISOString();
  const toProve = { cardId, address, revised, person, lines: draft.lines, words: draft.words, shown, house };
  return proofOrder(find, actor, toProve, clock);
}

/** Errors: PROOF_FAILED, those of the pool. */
export async function proveOrder(actor: Actor, order: Later<ProofOrder>): Promise<void> {
  const failing = await compute('proof', await order(), { of: actor.organisationId });
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: failing.channel, finding: failing.finding });
}

/** What was proven is no longer what would go out: somebody saved meanwhile. Never leaves the services. */
export class Outdated extends Error {
  constructor() {
    super('proven before a change');
    this.name = 'Outdated';
  }
}

const TRIES = 4;

/** Proves and acts, and does both again where somebody saved in between. Error: TOO_BUSY when they never stop. */
export async function provenThen<T>(prove: () => Promise<string>, act: (seal: string) => Promise<T>): Promise<T> {
  for (let tries = 0; tries < TRIES; tries += 1) {
    const seal = await prove();
    try {
      return await act(seal);
    } catch (error) {
      if (!(error instanceof Outdated)) throw error;
    }
  }
  throw new Refusal({ code: 'TOO_BUSY', seconds: 2 });
}
