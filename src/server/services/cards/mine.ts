import { Refusal } from '@/core/errors';
import { codeSvg, drawCode } from '@/core/qr';
import { writtenName, type PersonRecord } from '@/core/record';
import type { Mine } from '@/core/shown';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { record } from '@/server/db/cards/records';
import { handOutsOfCard } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { drawnOf, symbolOf, textOf } from '@/server/services/hand-outs/drawing';
import { houseOf } from '@/server/services/house/house-style';

/** What a card of somebody mostly shows and theirs has not. */
function missing({ details }: PersonRecord): Mine['missing'] {
  const has = {
    photo: details.some(({ kind }) => kind === 'photo'),
    mobile: details.some((each) => each.kind === 'phone' && each.uses.includes('mobile')),
  };
  return (['photo', 'mobile'] as const).filter((each) => !has[each]);
}

/** A member’s own card as their first screen has it: the code that others scan, large, and what is still asked of them; null without a record of their own. Error: NOT_FOUND. */
export async function readMine(actor: Actor): Promise<Mine | null> {
  authorise(actor, 'card.read');
  const recordId = actor.ownRecord;
  if (recordId === null) return null;
  authoriseFor(actor, 'card.read', recordId);
  return inTenant(actor, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const cards = (await cardsOfRecord(tx, recordId)).filter(({ state }) => state !== 'retired');
    const row = cards.find(({ state }) => state === 'published') ?? cards[0];
    const told = { recordId, name: writtenName(person.body.name), missing: missing(person.body) };
    const address = row && ((await currentAddress(tx, row.id)) ?? null);
    const codes = row ? await handOutsOfCard(tx, row.id) : [];
    const code = codes.find((each) => each.channel === 'code' && each.frozen === null && each.state === 'out');
    if (!row || !address || !code || row.state !== 'published') return { ...told, cardId: row?.id ?? null, out: null };
    const drawn = await drawnOf(tx, code, (await houseOf(tx, row))?.style ?? null);
    const drawing = drawCode(symbolOf(textOf(code), drawn), drawn.style, null);
    const url = `${publicUrlOf(actor.organisationId)}/c/${address}`;
    return { ...told, cardId: row.id, out: { url, svg: codeSvg(drawing, { title: url }) } };
  });
}
