import { linesOn, pictureOn, same, type Channel, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { HOUSE_LOGO, houseLogo } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { drawCode, PLAIN_STYLE } from '@/core/qr';
import { cleanLine, type PersonRecord } from '@/core/record';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import type { HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { inTenant, type Tx } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { drawnOf, symbolOf, textOf } from '@/server/services/hand-outs/drawing';
import { ownHandOut } from '@/server/services/hand-outs/own';
import { houseOf } from '@/server/services/house/house-style';
import { composeCard } from '@/server/services/publishing/compose-card';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { addHandOut } from '@/server/services/publishing/publish-card';

/** Hand-outs that are made from what is ticked for them, with a living code of their own. */
export type PieceChannel = 'print' | 'backdrop' | 'pass';
export type PieceAction = 'hand-out.read' | 'hand-out.make';
type Wanted = { channel: PieceChannel; action: PieceAction };

/** A new piece of a published card. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, CARD_NOT_PUBLISHED. */
export async function addPiece(
  actor: Actor,
  { cardId, placement, channel }: { cardId: string; placement: string; channel: PieceChannel },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const named = cleanLine(placement).text.slice(0, LIMITS.placement);
  if (!named) throw new Refusal({ code: 'INPUT', field: 'placement' });
  return inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const { id } = await addHandOut(tx, actor.organisationId, cardId, named, new Date(clock.now()), () => ({
      ...{ channel, frozen: null, revision: null, content: { what: 'card' }, occasion_id: null },
    }));
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id }, clock);
    return { id };
  });
}

/** A hand-out of one kind that the member may do this with. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function ownOfChannel(tx: Tx, actor: Actor, id: string, { channel, action }: Wanted) {
  const own = await ownHandOut(tx, actor, id, action);
  if (own.row.channel !== channel) throw new Refusal({ code: 'NOT_FOUND' });
  return own;
}

/** A piece with the published card that it is made from; `unpublished` where the draft says something else on it. */
export type OwnPublished = { row: HandOutRow; served: PublishedCard; unpublished: boolean; body: PersonRecord };

/** A piece that the member may do this with, and the card that it is made from: what is published. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED. */
export async function ownPublished(actor: Actor, id: string, wanted: Wanted, clock: Clock): Promise<OwnPublished> {
  authorise(actor, wanted.action);
  const { row, draft, body } = await inTenant(actor, async (tx) => {
    const { row, owner } = await ownOfChannel(tx, actor, id, wanted);
    const person = await record(tx, owner.record_id);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const { shown } = await composeCard(tx, owner, person.body, actor.organisation.country);
    return { row, draft: shown, body: person.body };
  });
  const served = await loadPublished({ code: row.code }, clock);
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const said = ({ name, ...whole }: Composition) => [name, linesOn({ name, ...whole }, wanted.channel)];
  return { row, served, unpublished: !same(said(draft), said(served.composition)), body };
}

/** The pictures that stand on a piece, as they were given: print needs all their pixels. Error: STORE_UNAVAILABLE. */
export async function piecePictures({ organisationId, cardId, composition }: PublishedCard, channel: Channel) {
  const band = await inTenant(organisationId, async (tx) => {
    const owner = await card(tx, cardId);
    const house = owner && (await houseOf(tx, owner));
    const isHouse = composition.lines.some(({ id, on }) => id === HOUSE_LOGO && on.includes(channel));
    return house && isHouse ? (houseLogo(house.style, composition.look.palette.band)?.hash ?? null) : null;
  });
  const { ground } = composition.look;
  const read = async (hash: string | null | undefined) => (hash ? files().get(hash) : null);
  const [photo, logo, logoOnBand, back] = await Promise.all([
    read(pictureOn(composition, 'photo', channel)),
    read(pictureOn(composition, 'logo', channel)),
    read(band),
    read(ground.kind === 'picture' ? ground.picture.hash : null),
  ]);
  return { photo, logo, logoOnBand, ground: back };
}

/** How the code of a piece is drawn: in the house's colours, without what stands around it elsewhere, or without its ground (`bare`); and what those are printed with. */
export async function plainCodeOf(row: HandOutRow, bare = false) {
  const { drawn, inks } = await inTenant(row.organisation_id, async (tx) => {
    const owner = await card(tx, row.card_id);
    const style = (owner && (await houseOf(tx, owner))?.style) ?? null;
    return { drawn: await drawnOf(tx, row, style), inks: style?.inks ?? [] };
  });
  const symbol = symbolOf(textOf(row), drawn);
  const style = { ...drawn.style, words: '', around: PLAIN_STYLE.around };
  return { symbol, inks, drawing: drawCode(symbol, bare ? { ...style, ground: null } : style) };
}
