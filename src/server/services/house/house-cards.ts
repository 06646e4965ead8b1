import { composeToday, type Composition } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import type { FaceName } from '@/core/face';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import type { LayoutName } from '@/core/look';
import { writtenName } from '@/core/record';
import { card, newestCards, type CardRow } from '@/server/db/cards/cards';
import { latestRevision } from '@/server/db/cards/revisions';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { asSvg, inLayout, toDraw, type DrawnFace } from '@/server/services/media/card-faces';

/** So many cards stand beside a house style while it is made. */
const BESIDE = 3;
/** Of so many, the latest changed, the telling ones are chosen. */
const LOOKED_AT = 200;

/** A card in its own dress: what a house style is put on. */
export type CardBeside = { id: string; person: string; audience: string; composition: Composition };

/** What a card shows, without a house style: what is published, of a draft what would be. */
async function ownComposition(tx: Tx, { organisation }: Actor, row: CardRow): Promise<Omit<CardBeside, 'id'> | null> {
  const person = await record(tx, row.record_id);
  if (!person) return null;
  const body = person.body;
  const out = row.state === 'published' ? await latestRevision(tx, row.id) : undefined;
  const composition = out ? out.composition : orRefuse(composeToday(body, row, organisation.country));
  return { person: writtenName(composition.name), audience: row.audience, composition };
}

/** Three cards to look at while a house style is made: the latest, the one with most lines and the one with fewest. Error: NOT_ALLOWED. */
export async function cardsBeside(actor: Actor): Promise<{ cards: CardBeside[] }> {
  authorise(actor, 'house.write');
  return inTenant(actor, async (tx) => {
    const newest = await newestCards(tx, LOOKED_AT);
    const byLines = [...newest].sort((a, b) => b.lines - a.lines);
    const telling = [...newest.slice(0, 1), ...byLines.slice(0, 1), ...byLines.slice(-1), ...newest.slice(1)];
    const cards: CardBeside[] = [];
    for (const { id } of new Map(telling.map((each) => [each.id, each])).values()) {
      const row = cards.length < BESIDE ? await card(tx, id) : undefined;
      // One that cannot be shown, such as a draft with a wording that reads as nothing, leaves its place to the next.
      const shown = row && (await ownComposition(tx, actor, row).catch(() => null));
      if (shown) cards.push({ id, ...shown });
    }
    return { cards };
  });
}

/** One more card to look at. Errors: NOT_ALLOWED, NOT_FOUND, those of a wording that cannot be read. */
export async function cardBeside(actor: Actor, id: string): Promise<CardBeside> {
  authorise(actor, 'house.write');
  return inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    const shown = row && (await ownComposition(tx, actor, row));
    if (!shown) throw new Refusal({ code: 'NOT_FOUND' });
    return { id, ...shown };
  });
}

/** A face of a card under a house style that is not saved yet; in a layout to choose from where one is named. Errors as {@link cardBeside}. */
export async function faceUnderHouse(
  actor: Actor,
  id: string,
  style: HouseStyle,
  name: FaceName,
  layout: LayoutName | null,
): Promise<DrawnFace> {
  authorise(actor, 'house.write');
  const read = await inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    const shown = row && (await ownComposition(tx, actor, row));
    if (!shown) throw new Refusal({ code: 'NOT_FOUND' });
    const open = layout ? { ...style, layouts: [layout], locks: { ...style.locks, layout: undefined } } : style;
    return toDraw(tx, actor, applyHouseStyle(inLayout(shown.composition, layout), open), open);
  });
  const drawn = await read();
  return asSvg(drawn, name, drawn.composition.language ?? 'en');
}
