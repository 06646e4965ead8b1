import type { Composition } from '@/core/card';
import type { HouseLine, HouseStyle } from '@/core/house';
import type { CopyChannel } from '@/core/shown';
import { carriesLines, type Piece } from '@/core/print';
import { carriedOn, publishedBy, publishedByHouse, type Carried } from '@/core/wild';
import {
  countCopy,
  insertCopy,
  insertUncounted,
  replaceCopy,
  writePublished,
  writePublishedByHouse,
  writePublishedByOffice,
} from '@/server/db/wild/copies';
import type { Clock } from '@/server/clock';
import type { Tx } from '@/server/db/pool';
import { judgeCard, judgeCards } from './judge';

/** Whose copy it is, of which revision, as of when. */
export type CopyOf = {
  organisationId: string;
  cardId: string;
  handOutId: string;
  revision: number;
  at: Date;
};

/** The copy of a hand-out as it is taken out now. */
export const takenOf = (
  { id }: { id: string },
  { organisationId, cardId, revision }: Pick<CopyOf, 'organisationId' | 'cardId' | 'revision'>,
  clock: Clock,
): CopyOf => ({ organisationId, cardId, handOutId: id, revision, at: new Date(clock.now()) });

const rowOf = ({ organisationId, cardId, handOutId, revision, at }: CopyOf, channel: CopyChannel) => ({
  ...{ organisation_id: organisationId, card_id: cardId, hand_out_id: handOutId, run_id: null },
  ...{ channel, revision, made_at: at },
});

/** Notes a frozen code or tag that was made or written anew. */
export async function noteFrozen(tx: Tx, of: CopyOf, channel: 'code' | 'tag', carried: Carried[]): Promise<void> {
  await replaceCopy(tx, rowOf(of, channel), carried);
  await judgeCard(tx, of.cardId);
}

/** Notes copies that were printed, by the note of their run. */
export async function notePrinted(
  tx: Tx,
  of: CopyOf & { runId: string },
  piece: Piece,
  shown: Composition,
  country: string,
): Promise<void> {
  const carried = carriedOn(shown, 'print', country);
  // What has no room for lines tells who it is.
  const onPiece = carriesLines(piece) ? carried : carried.filter(({ kind }) => WHO.has(kind));
  await insertCopy(tx, { ...rowOf(of, 'print'), run_id: of.runId }, onPiece);
  await judgeCard(tx, of.cardId);
}
const WHO = new Set<Carried['kind']>(['name', 'title', 'organisation']);

/** Notes that a picture, pass or signature was taken out: whoever takes it again puts it in the place of the one before. */
export async function noteTaken(
  tx: Tx,
  of: CopyOf,
  channel: 'backdrop' | 'pass' | 'signature',
  shown: Composition,
  country: string,
): Promise<void> {
  await replaceCopy(tx, rowOf(of, channel), carriedOn(shown, channel, country));
  await judgeCard(tx, of.cardId);
}

/** What a contact file carries of the card's own: what the house style adds changes without it, and nobody counts by that. */
const inFile = (composition: Composition, country: string): Carried[] =>
  carriedOn(composition, 'file', country).filter(({ source }) => source !== 'house');

/** Counts a contact that went along with a message or was shared. */
export const noteAttached = (tx: Tx, of: CopyOf, composition: Composition, country: string): Promise<void> =>
  countCopy(tx, rowOf(of, 'mail'), () => inFile(composition, country));

/** What goes out of a card with a revision: its own, and under the house style. */
export type GoingOut = { cardId: string; revision: number; composition: Composition; shown: Composition };

/** Writes down what cards give out of their own from now on, and what contacts carry that are saved of these revisions. */
export async function notePublished(
  tx: Tx,
  { organisationId, at, country }: { organisationId: string; at: Date; country: string },
  going: GoingOut[],
): Promise<void> {
  const copies = going.map(({ cardId, revision, shown }) => ({
    copy: {
      ...{ organisation_id: organisationId, card_id: cardId, hand_out_id: null, run_id: null },
      ...{ channel: 'file' as const, revision, made_at: at },
    },
    carried: inFile(shown, country),
  }));
  await insertUncounted(tx, copies);
  const published = going.map(({ cardId, composition }) => ({
    ...{ cardId, hides: composition.look.hides, values: publishedBy(composition, country) },
  }));
  await writePublished(tx, organisationId, published);
  await judgeCards(
    tx,
    going.map(({ cardId }) => cardId),
  );
}

/** The same of an office that was saved; `cards` are those of its people. */
export const noteOffice = (
  tx: Tx,
  of: { organisationId: string; officeId: string; cards: string[] },
  lines: HouseLine[],
  country: string,
): Promise<void> => writePublishedByOffice(tx, of, publishedByHouse({ lines }, country));

/** The same of a house style that was saved. */
export const noteHouse = (tx: Tx, organisationId: string, style: HouseStyle, country: string): Promise<void> =>
  writePublishedByHouse(tx, organisationId, publishedByHouse(style, country), style.locks.lines !== undefined);
