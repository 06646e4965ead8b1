import { compose, startingLines, startOf, type Composition } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import type { FaceName } from '@/core/face';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import { FIRST_LOOK, type LayoutName } from '@/core/look';
import type { Language } from '@/core/language';
import { lineTypeOf } from '@/core/record/line-type';
import { card } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { composeCard } from '@/server/services/publishing/compose-card';
import { houseOf } from '@/server/services/house/house-style';
import { filesOfComposition } from './block-files';
import { drawFace, type ToDraw } from './draw-card';
import { namedPictures, readPictures } from '@/server/services/publishing/load-published';

/** What of a face differs from how the card is saved: another layout to look at, the language to say it in, the ticks that it goes by. */
export type Shown = { layout: LayoutName | null; language: Language | null; channel?: 'page' | 'print' };

/** A drawn face: SVG with what had no room on it, or pixels. */
export type DrawnFace = { svg: string; leftOut: string[]; cut: string[]; missing: string[]; smallestType: number };

/** A composition in another layout, to look at. */
export const inLayout = (composition: Composition, layout: LayoutName | null): Composition =>
  layout
    ? {
        ...composition,
        look: { ...composition.look, layout, follows: composition.look.follows.filter((part) => part !== 'layout') },
      }
    : composition;

/** What a face of a dressed composition is drawn from, read from the file store once no transaction waits for it. Error: STORE_UNAVAILABLE. */
export async function toDraw(
  tx: Tx,
  { organisationId }: Actor,
  composition: Composition,
  house: HouseStyle | null,
): Promise<() => Promise<ToDraw>> {
  const named = await namedPictures(tx, composition, house);
  const known = await filesOfComposition(tx, composition);
  return async () => ({ organisationId, composition, ...(await readPictures(named)), files: known });
}

/** The draft of a card as it would be drawn now. Errors: NOT_FOUND, those of a wording that cannot be read. */
async function draftToDraw(actor: Actor, id: string, layout: LayoutName | null): Promise<ToDraw> {
  authorise(actor, 'card.read');
  const read = await inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.read', row.record_id);
    const body = person.body;
    const { own, house } = await composeCard(tx, row, body, actor.organisation.country);
    // A layout that is only looked at need not be one that the house allows.
    const open =
      house && layout
        ? { ...house.style, layouts: [layout], locks: { ...house.style.locks, layout: undefined } }
        : house?.style;
    return toDraw(tx, actor, applyHouseStyle(inLayout(own, layout), open ?? null), open ?? null);
  });
  return read();
}

const languageOf = ({ composition }: ToDraw, wanted: Language | null): Language =>
  wanted ?? composition.language ?? 'en';

export async function asSvg(
  drawn: ToDraw,
  name: FaceName,
  language: Language,
  channel: 'page' | 'print' = 'page',
): Promise<DrawnFace> {
  const { bytes, leftOut, cut, missing, smallestType } = await drawFace(drawn, name, language, 'svg', channel);
  return { svg: bytes.toString('utf8'), leftOut, cut, missing, smallestType };
}

/** A face of a card's draft: the very function that serves recipients, on what is saved now. Errors as {@link draftToDraw}. */
export async function faceOfDraft(actor: Actor, id: string, name: FaceName, shown: Shown): Promise<DrawnFace> {
  const drawn = await draftToDraw(actor, id, shown.layout);
  return asSvg(drawn, name, languageOf(drawn, shown.language), shown.channel);
}

/** The same as pixels, as recipients and link previews get it. Errors as {@link draftToDraw}. */
export async function pictureOfDraft(
  actor: Actor,
  id: string,
  name: 'link' | 'picture',
  format: 'jpeg' | 'webp',
  shown: Shown,
): Promise<Buffer> {
  const drawn = await draftToDraw(actor, id, shown.layout);
  return (await drawFace(drawn, name, languageOf(drawn, shown.language), format)).bytes;
}

/** A face of the card that a record would start with, in a layout: what to choose from before there is a card. Error: NOT_FOUND. */
export async function faceOfRecord(
  actor: Actor,
  id: string,
  name: FaceName,
  from: { layout: LayoutName; start: string | null; isPrivate: boolean },
): Promise<DrawnFace> {
  authorise(actor, 'card.create');
  const read = await inTenant(actor, async (tx) => {
    const person = await record(tx, id);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.create', id);
    const body = person.body;
    const lines = startingLines(
      body,
      { isPrivate: from.isPrivate, without: [] },
      from.start ? startOf(from.start) : null,
      lineTypeOf,
    );
    const composition = orRefuse(compose(body, lines, actor.organisation.country));
    const house = (await houseOf(tx, { record_id: id }))?.style ?? null;
    const look = { ...(house?.look ?? FIRST_LOOK), layout: from.layout };
    return toDraw(tx, actor, { ...applyHouseStyle({ ...composition, look }, house), look }, house);
  });
  const drawn = await read();
  return asSvg(drawn, name, languageOf(drawn, null));
}
