import { compose, linesOn, reconcile, type Composition, type Line } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { dressed, type HouseStyle } from '@/core/house';
import { RecordSchema, type PersonRecord } from '@/core/record';
import { card, type CardRow } from '@/server/db/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { Actor } from './actor';
import { authoriseFor } from './authorise';
import { refuseMissingFiles } from './block-files';
import { contactContexts } from './contact-context';
import { houseOf } from './house-style';
import { picturesOf, picturesToProve } from './pictures';

/** The placement of the code that every card gets with its first revision. */
export const FIRST_PLACEMENT = 'Code on screen';

/** A card as it would go out now. `seal` names all that its proof depends on. */
export type Outgoing = {
  composition: Composition;
  shown: Composition;
  lines: Line[];
  house: HouseStyle | null;
  person: PersonRecord;
  seal: string;
};

/** Error: NOT_FOUND, FILE_GONE, NOTHING_ON_PAGE, those of a wording that cannot be read. */
export async function outgoing(tx: Tx, actor: Actor, row: CardRow, address: string): Promise<Outgoing> {
  const found = await record(tx, row.record_id);
  if (!found) throw new Refusal({ code: 'NOT_FOUND' });
  const person = RecordSchema.parse(found.body);
  const lines = reconcile(row.lines, person);
  const composition = orRefuse(compose(person, lines, actor.organisation.country, row.language, row));
  const house = await houseOf(tx);
  await refuseMissingFiles(tx, row);
  if (linesOn(composition, 'page').length === 0 && linesOn(composition, 'file').length === 0)
    throw new Refusal({ code: 'NOTHING_ON_PAGE' });
  return {
    composition,
    shown: dressed(composition, house?.style ?? null),
    lines,
    house: house?.style ?? null,
    person,
    seal: [row.id, row.version, found.version, house?.number ?? 0, actor.organisation.country, address].join(' '),
  };
}

/**
 * Proves a card before it is published, in no transaction, so that nobody waits for its rows meanwhile: the very outputs are made
 * and read back. Answers with the seal of what was proven. Errors: NOT_FOUND, CARD_CHANGED, PROOF_FAILED and those of {@link outgoing}.
 */
export async function proveToPublish(
  actor: Actor,
  id: string,
  { address, version }: { address: string; version: number | null },
  clock: Clock,
): Promise<string> {
  const { order, seal } = await inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.publish', row.record_id);
    if (version !== null && row.version !== version) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const out = await outgoing(tx, actor, row, address);
    const served = {
      cardId: id,
      organisationId: actor.organisationId,
      address,
      revised: new Date(clock.now()).toISOString(),
      ...(await picturesOf(tx, out.shown)),
    };
    const { person, lines, shown, house } = out;
    const order = {
      person,
      lines,
      words: row.words,
      country: actor.organisation.country,
      shown,
      house,
      fileContexts: contactContexts(served),
      placement: FIRST_PLACEMENT,
      ...(await picturesToProve(tx, shown)),
      now: clock.now(),
    };
    return { order, seal: out.seal };
  });
  const failing = await compute('proof', order, { of: actor.organisationId });
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: failing.channel, finding: failing.finding });
  return seal;
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
