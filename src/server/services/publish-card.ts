import { randomBytes, randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { draftOf, codeFrom, compose, linesOn, readAddress, reconcile, skeletonOf, type Composition } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { reachOf } from '@/core/access';
import { dressed } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { fails, pairsInUse } from '@/core/look';
import { firstFailing } from '@/core/proof';
import { cleanLine } from '@/core/record';
import {
  cardForUpdate,
  type CardRow,
  type HandOutRow,
  insertHandOut,
  insertRevision,
  latestRevision,
  setCardState,
} from '@/server/db/cards';
import { refuseWrongPrefix } from './address-prefix';
import { addressOwner, currentAddress, insertCode, setAddress, touchCard } from '@/server/db/directory';
import { violatedUnique } from '@/server/db/failures';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise, authoriseFor } from './authorise';
import { refuseMissingFiles } from './block-files';
import { contactContext } from './contact-context';
import { houseOf } from './house-style';
import { picturesOf } from './pictures';

/** The placement of the code that every card gets with its first revision. */
export const FIRST_PLACEMENT = 'Code on screen';

/**
 * Publishes a card: proves its outputs, makes an immutable revision, and sets its short address (the first one, or a
 * new one; earlier addresses keep leading here). Errors: NOT_FOUND, CARD_CHANGED, NOTHING_ON_PAGE, PROOF_FAILED, and the
 * `ADDRESS_…` codes.
 */
export async function publishCard(
  actor: Actor,
  id: string,
  input: { baseVersion: number; address: string; note?: string; overrideContrast?: boolean },
  clock: Clock,
): Promise<{ revision: number; address: string }> {
  authorise(actor, 'card.publish');
  const address = orRefuse(readAddress(input.address));
  try {
    return await inTenant(actor.organisationId, async (tx) => {
      const row = await cardForUpdate(tx, id);
      if (!row) throw new Refusal({ code: 'NOT_FOUND' });
      authoriseFor(actor, 'card.publish', row.record_id);
      if (row.version !== input.baseVersion) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
      return publishRow(tx, actor, row, address, clock, input);
    });
  } catch (error) {
    // Two who take the same free address at the same moment: the second one is told as if it had been taken before.
    throw violatedUnique(error)?.startsWith('directory_addresses') ? new Refusal({ code: 'ADDRESS_TAKEN' }) : error;
  }
}

/** Proves and publishes a locked card within a transaction: its next revision, at this address. */
export async function publishRow(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  address: string,
  clock: Clock,
  { note = '', overrideContrast = false }: { note?: string; overrideContrast?: boolean } = {},
): Promise<{ revision: number; address: string }> {
  const { id } = row;
  const at = new Date(clock.now());
  const person = await record(tx, row.record_id);
  if (!person) throw new Refusal({ code: 'NOT_FOUND' });
  const lines = reconcile(row.lines, person.body);
  const composition = orRefuse(compose(person.body, lines, actor.organisation.country, row.language, row));
  const house = (await houseOf(tx))?.style ?? null;
  const shown = dressed(composition, house);
  await refuseMissingFiles(tx, row);
  if (linesOn(composition, 'page').length === 0 && linesOn(composition, 'file').length === 0)
    throw new Refusal({ code: 'NOTHING_ON_PAGE' });
  const served = {
    cardId: id,
    organisationId: actor.organisationId,
    address,
    revised: at.toISOString(),
    ...(await picturesOf(tx, shown)),
  };
  if (!reads(shown)) await overrideOrRefuse(tx, actor, id, shown, overrideContrast, clock);
  // Nothing leaves without a proof: the very outputs are made and read back.
  const failing = firstFailing({
    person: person.body,
    lines,
    words: row.words,
    country: actor.organisation.country,
    shown,
    house,
    fileContext: (version) => contactContext(served, version),
    placement: FIRST_PLACEMENT,
    now: at.getTime(),
    compressed: pageBytes,
  });
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: failing.channel, finding: failing.finding });
  const number = ((await latestRevision(tx, id))?.number ?? 0) + 1;
  await insertRevision(tx, {
    id: randomUUID(),
    organisation_id: actor.organisationId,
    card_id: id,
    number,
    composition,
    published_by: actor.userId,
    published_at: at,
    note: cleanLine(note).text.slice(0, LIMITS.revisionNote),
    draft: { ...draftOf(row), lines },
  });
  await setCardState(tx, id, { state: 'published' });
  await touchCard(tx, id, actor.organisationId);
  if (await claimAddress(tx, id, address, actor.organisationId))
    await writeDown(tx, actor, 'address.set', { kind: 'card', id }, clock);
  if (number === 1) await addHandOut(tx, actor.organisationId, id, FIRST_PLACEMENT, at);
  await writeDown(tx, actor, 'card.published', { kind: 'card', id }, clock, { revision: number });
  return { revision: number, address };
}

/** Bytes of a page as it is sent. */
export const pageBytes = (html: string): number => gzipSync(html, { level: 6 }).length;

/** Makes an address the card's current one; answers whether it was another. */
async function claimAddress(tx: Tx, cardId: string, address: string, organisation: string): Promise<boolean> {
  if ((await currentAddress(tx, cardId)) === address) return false;
  const owner = await addressOwner(tx, address, skeletonOf(address));
  if (owner && owner.card_id !== cardId)
    throw new Refusal({ code: owner.name === address ? 'ADDRESS_TAKEN' : 'ADDRESS_LOOKS_LIKE_ANOTHER' });
  if (owner && owner.name !== address) throw new Refusal({ code: 'ADDRESS_LOOKS_LIKE_ANOTHER' });
  // One that leads here already is as it is.
  if (!owner) await refuseWrongPrefix(tx, address, organisation);
  await setAddress(tx, cardId, address, skeletonOf(address));
  return true;
}

const LIVE_CODE = { channel: 'code', frozen: null, revision: null } as const;

/** Makes a hand-out with a code that was never used before. */
export async function addHandOut(
  tx: Tx,
  organisationId: string,
  cardId: string,
  placement: string,
  at: Date,
  frozen: (code: string) => Pick<HandOutRow, 'channel' | 'frozen' | 'revision'> = () => LIVE_CODE,
): Promise<{ id: string; code: string }> {
  const id = randomUUID();
  const code = codeFrom(randomBytes(8));
  await insertCode(tx, code, cardId, id);
  await insertHandOut(tx, {
    id,
    organisation_id: organisationId,
    card_id: cardId,
    code,
    placement,
    created_at: at,
    ...frozen(code),
  });
  return { id, code };
}

const reads = ({ look }: Composition): boolean => !pairsInUse(look).some(({ pair }) => fails(pair));

/** Colours that do not read go out only where somebody who may said so, and that is written down. Error: CONTRAST_FAILS. */
async function overrideOrRefuse(
  tx: Tx,
  actor: Actor,
  id: string,
  { look }: Composition,
  override: boolean,
  clock: Clock,
): Promise<void> {
  const failing = pairsInUse(look).flatMap(({ pair }) => (fails(pair) ? pair : []));
  const worst = failing.reduce((low, each) => (each.ratio / each.needs < low.ratio / low.needs ? each : low));
  const { ratio, needs } = worst;
  if (!override || reachOf(actor.role, 'look.override') !== 'all')
    throw new Refusal({ code: 'CONTRAST_FAILS', worst: ratio, needs, count: failing.length });
  const measured = { worst: Math.round(ratio * 100) / 100, needs, count: failing.length };
  await writeDown(tx, actor, 'contrast.overridden', { kind: 'card', id }, clock, measured);
}
