import type { HandOver, HeldCard, HeldCode, HeldForm } from '@/core/hand-over';
import type { Language } from '@/core/language';
import { say } from '@/core/messages';
import { replyWords } from '@/core/messages/replies';
import { consentIn } from '@/core/page';
import { dayOf } from '@/core/response';
import { codeSvg, drawCode, liveCodeText, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { Refusal } from '@/core/errors';
import { writtenName } from '@/core/record';
import { HAND_OVER } from '@/core/words';
import type { Clock } from '@/server/clock';
import { cardsOfRecord, type CardRow } from '@/server/db/cards/cards';
import { codesOfCards, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { occasion, occasionsFrom } from '@/server/db/hand-outs/placements';
import { record, recordNamed } from '@/server/db/cards/records';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { companyDefaults } from '@/server/services/organisation/company-defaults';
import { FIRST_PLACEMENT } from '@/server/services/publishing/proof-order';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { linkOf } from './own';

/** The record whose cards somebody holds up: their own; of those who reach all records the one of their name. */
export async function ownRecordOf(tx: Tx, actor: Actor) {
  if (actor.ownRecord) return record(tx, actor.ownRecord);
  return authorise(actor, 'hand-out.read') === 'all' ? recordNamed(tx, actor.name) : undefined;
}

/** A code as a phone holds it up: plain, since it stands on a screen that is bright. */
function held(row: HandOutRow): HeldCode {
  const link = linkOf(row);
  return { link, svg: codeSvg(drawCode(symbolFor(liveCodeText(link)), PLAIN_STYLE), { title: link }) };
}

/** The words of the form that another person fills in on the holder's phone. */
function formIn(language: Language, name: string, months: number): HeldForm {
  const said = replyWords(language);
  return {
    ...{ language, title: say('reply form', language), name: say('replyName', language) },
    ...{ reach: say('replyReach', language), note: say('replyNote', language), send: say('replySend', language) },
    ...{ consent: consentIn(language, name, months), thanks: said.thanksTitle, kept: said.thanksTitle },
    unreadable: said.unreadable,
  };
}

const isOnScreen = (row: HandOutRow) => row.frozen === null && (row.content === null || row.content.what === 'card');

/** All that a phone needs to hold up the member's own cards that are out, with or without a network, also at the occasions that were fetched. */
export async function handOver(actor: Actor, clock: Clock): Promise<HandOver> {
  authorise(actor, 'hand-out.read');
  return inTenant(actor, async (tx) => {
    const person = await ownRecordOf(tx, actor);
    const out = person ? (await cardsOfRecord(tx, person.id)).filter(({ state }) => state === 'published') : [];
    const codes = await codesOfCards(
      tx,
      out.map(({ id }) => id),
    );
    const today = dayOf(clock.now(), actor.organisation.timeZone);
    const coming = await occasionsFrom(tx, today);
    const name = person ? writtenName(person.body.name) : '';
    const { leads } = await companyDefaults(tx, actor.organisationId);
    const cards = out.flatMap((card): HeldCard[] => {
      const own = codes.filter((row) => row.card_id === card.id && isOnScreen(row));
      // The oldest stands for no occasion: the code that every card gets with its first revision.
      const first = own.findLast(({ occasion_id }) => occasion_id === null);
      if (!first) return [];
      const at = Object.fromEntries(own.flatMap((row) => (row.occasion_id ? [[row.occasion_id, held(row)]] : [])));
      const form = formIn(card.language ?? 'en', name, leads.months);
      return [{ ...held(first), id: card.id, name, audience: card.audience, isPrivate: card.is_private, form, at }];
    });
    return { cards, occasions: coming.map(({ id, name: called }) => ({ id, name: called })), words: HAND_OVER };
  });
}

/**
 * Sees to it that each of the member's own cards has a code of its own at an occasion, so that scans are counted there. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function fetchOccasion(actor: Actor, occasionId: string, clock: Clock): Promise<{ made: number }> {
  authorise(actor, 'hand-out.make');
  return inTenant(actor, async (tx) => {
    const person = await ownRecordOf(tx, actor);
    if (!(await occasion(tx, occasionId))) throw new Refusal({ code: 'NOT_FOUND' });
    const out = person ? (await cardsOfRecord(tx, person.id)).filter(({ state }) => state === 'published') : [];
    const codes = await codesOfCards(
      tx,
      out.map(({ id }) => id),
    );
    const lacking = out.filter(
      (card) => !codes.some((row) => row.card_id === card.id && row.occasion_id === occasionId && isOnScreen(row)),
    );
    for (const card of lacking) await addAt(tx, actor, card, occasionId, clock);
    return { made: lacking.length };
  });
}

async function addAt(tx: Tx, actor: Actor, card: CardRow, occasionId: string, clock: Clock): Promise<void> {
  const made = await addHandOut(tx, actor.organisationId, card.id, FIRST_PLACEMENT, new Date(clock.now()), () => ({
    ...{ channel: 'code', frozen: null, revision: null, content: { what: 'card' }, occasion_id: occasionId },
  }));
  await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id: made.id }, clock);
}
