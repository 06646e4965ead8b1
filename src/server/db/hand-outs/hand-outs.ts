import type { Content } from '@/core/code';
import type { Backdrop } from '@/core/backdrop';
import type { Piece } from '@/core/print';
import type { CodeStyle, Level, Outlines } from '@/core/qr';
import type { HandOutChannel, ShownProof } from '@/core/shown';
import type { TagRoom } from '@/core/ndef';
import type { SignatureOptions } from '@/core/signature';
import type { Tx } from '../pool';
import { recountCopies } from '../wild/count';

/** How a code is drawn, resolved: with these it is the same for ever. `drawing` is the number of the way of drawing. */
export type DrawnCode = {
  style: CodeStyle;
  words: Outlines | null;
  version: number;
  level: Level;
  mask: number;
  drawing: number;
};

/**
 * Bytes that a tag offers, when it was written last, how often, and whether it was locked then; of a frozen one the number of the house style that its
 * bytes were made under, 0 where there was none.
 */
export type TagState = {
  room: TagRoom;
  writtenAt: string | null;
  writes: number;
  locked: boolean;
  house?: number;
  office?: { id: string; number: number };
};

export type HandOutRow = {
  id: string;
  organisation_id: string;
  card_id: string;
  code: string;
  placement: string;
  placement_id: string | null;
  occasion_id: string | null;
  /** A live one holds a link; a frozen one the very bytes, base64, of this revision. */
  channel: HandOutChannel;
  frozen: string | null;
  revision: number | null;
  /** What a code makes a phone do; null of one that was made before that was asked: it opens the card, or holds the contact. */
  content: Content | null;
  drawn: DrawnCode | null;
  proof: ShownProof | null;
  testing_until: Date | null;
  tested_at: Date | null;
  /** When a file of it was first taken out. */
  taken_at: Date | null;
  /** Whether it is out by itself, and what is said while it is not. */
  state: 'out' | 'resting' | 'retired';
  notice: string;
  /** What is added to links of the page for the holder's own web statistics, as it stands in a query. */
  parameters: string;
  /** How a signature is laid out; null of others, and of one that nobody has touched. */
  signature: SignatureOptions | null;
  /** How a printed piece is made up; null of others, and of one that nobody has touched. */
  print: Piece | null;
  /** How a backdrop is made up; null of others, and of one that nobody has touched. */
  backdrop: Backdrop | null;
  /** How much a tag holds, and what became of it; null of others, and of one that nobody has touched. */
  tag: TagState | null;
  /** The number of one that was made in advance, by which it is told apart; null of others. */
  number: number | null;
  /** What the phone that keeps a pass fetches it by; null of others. */
  pass_token: string | null;
  created_at: Date;
};

/** A hand-out as it is made: how it is drawn and proven comes later. */
export type NewHandOut = Omit<
  HandOutRow,
  | 'drawn'
  | 'proof'
  | 'signature'
  | 'print'
  | 'backdrop'
  | 'pass_token'
  | 'tag'
  | 'state'
  | 'notice'
  | 'parameters'
  | 'testing_until'
  | 'tested_at'
  | 'taken_at'
  | 'number'
> & { number?: number | null; pass_token?: string | null; tag?: TagState | null };

export const insertHandOut = (tx: Tx, row: NewHandOut) =>
  tx('hand_outs').insert({
    ...row,
    content: row.content && JSON.stringify(row.content),
    ...(row.tag ? { tag: JSON.stringify(row.tag) } : {}),
  });

/** Keeps what is known of a tag, and what it carries where that is written anew. */
export const setTag = (tx: Tx, id: string, tag: TagState, anew: { frozen: string; revision: number } | null = null) =>
  tx('hand_outs')
    .where({ id })
    .update({ tag: JSON.stringify(tag), ...anew });

export const handOut = async (tx: Tx, id: string): Promise<HandOutRow | undefined> =>
  tx('hand_outs').where({ id }).first();

/** Hand-outs that show a code of their own. */
const CODED: HandOutChannel[] = ['code', 'print', 'backdrop', 'pass'];

/** The hand-out of a public code that is shown, or the frozen one that holds just this (base64). */
export const handOutByCode = async (
  tx: Tx,
  by: { code: string } | { frozen: string },
): Promise<HandOutRow | undefined> =>
  tx('hand_outs')
    .where(by)
    .whereIn('channel', 'code' in by ? CODED : ['code'])
    .first();

type HandOutChange = Pick<
  HandOutRow,
  'placement' | 'placement_id' | 'occasion_id' | 'state' | 'notice' | 'card_id' | 'parameters'
>;
export async function changeHandOut(tx: Tx, id: string, change: Partial<HandOutChange>): Promise<void> {
  await tx('hand_outs').where({ id }).update(change);
  if (change.state) await recountCopies(tx, { handOut: id });
}

type MoveRow = { organisation_id: string; hand_out_id: string; from_card: string; to_card: string; at: Date };
export const noteMove = (tx: Tx, row: MoveRow) => tx('hand_out_moves').insert(row);

type MovedFrom = {
  hand_out_id: string;
  record_id: string | null;
  name: string | null;
  audience: string | null;
  at: Date;
};
/** So many of the cards that a hand-out opened before are told: a script may move one all day. */
const MOVES_TOLD = 10;

/** The cards that the hand-outs of a card opened before, the latest first; without a name where a card is erased. */
export async function movesTo(tx: Tx, cardId: string): Promise<MovedFrom[]> {
  const { rows } = await tx.raw<{ rows: MovedFrom[] }>(
    `SELECT h.id AS hand_out_id, m.at, r.id AS record_id, r.written_name AS name, c.audience
     FROM hand_outs h
     CROSS JOIN LATERAL (SELECT from_card, at FROM hand_out_moves WHERE organisation_id = h.organisation_id AND hand_out_id = h.id
       ORDER BY at DESC LIMIT ?) m
     LEFT JOIN cards c ON c.id = m.from_card
     LEFT JOIN records r ON r.id = c.record_id
     WHERE h.card_id = ? ORDER BY m.at DESC`,
    [MOVES_TOLD, cardId],
  );
  return rows;
}

export const signatureOfCard = async (tx: Tx, cardId: string): Promise<HandOutRow | undefined> =>
  tx('hand_outs').where({ card_id: cardId, channel: 'signature' }).first();

/** The hand-out of a card for a placement and an occasion, or for none, on a channel where there is one of each. */
export const reusedOf = async (
  tx: Tx,
  {
    cardId,
    channel,
    placementId,
    occasionId,
  }: { cardId: string; channel: HandOutChannel; placementId: string; occasionId: string | null },
): Promise<HandOutRow | undefined> =>
  tx('hand_outs').where({ card_id: cardId, channel, placement_id: placementId, occasion_id: occasionId }).first();

export const setSignature = (tx: Tx, id: string, options: SignatureOptions) =>
  tx('hand_outs')
    .where({ id })
    .update({ signature: JSON.stringify(options) });

export const handOutsOfCard = async (tx: Tx, cardId: string): Promise<(HandOutRow & { occasion: string | null })[]> =>
  tx('hand_outs as h')
    .leftJoin('occasions as o', 'o.id', 'h.occasion_id')
    .where('h.card_id', cardId)
    .orderBy('h.created_at')
    .select('h.*', 'o.name as occasion');

/** The codes of these cards, the newest first. */
export const codesOfCards = async (tx: Tx, cardIds: string[]): Promise<HandOutRow[]> =>
  tx('hand_outs').whereIn('card_id', cardIds).where({ channel: 'code' }).orderBy('created_at', 'desc');

/** Keeps how a code is drawn; answers whether it still may be: what is frozen and was taken out stays as it is. */
export const setDrawn = async (tx: Tx, id: string, drawn: DrawnCode, proof: ShownProof | null): Promise<boolean> =>
  (await tx('hand_outs')
    .where({ id })
    .whereRaw('(drawn IS NULL OR frozen IS NULL OR taken_at IS NULL)')
    .update({ drawn: JSON.stringify(drawn), proof: proof && JSON.stringify(proof) })) > 0;

/** Has a code be drawn as it was. */
export const restoreDrawn = (tx: Tx, id: string, drawn: DrawnCode | null, proof: ShownProof | null) =>
  tx('hand_outs')
    .where({ id, frozen: null })
    .update({ drawn: drawn && JSON.stringify(drawn), proof: proof && JSON.stringify(proof) });

/** Notes that a file of a hand-out is taken out; nobody draws it otherwise meanwhile. */
export const takeOut = (tx: Tx, id: string, at: Date) =>
  tx('hand_outs')
    .where({ id })
    .update({ taken_at: tx.raw('coalesce(taken_at, ?)', [at]) });

/** From now on, until then, the next scan of a hand-out is its test. */
export const beginTest = (tx: Tx, id: string, until: Date) =>
  tx('hand_outs').where({ id }).update({ testing_until: until });

/** Takes a scan as the test that a hand-out waits for; answers whether it waited for one. */
export const takeTest = async (tx: Tx, id: string, at: Date): Promise<boolean> =>
  (await tx('hand_outs').where({ id }).where('testing_until', '>', at).update({ testing_until: null, tested_at: at })) >
  0;

/** These hand-outs with whose they are. */
export const namedHandOuts = async (
  tx: Tx,
  ids: string[],
): Promise<(Pick<HandOutRow, 'id' | 'card_id' | 'placement'> & { written_name: string; audience: string })[]> =>
  tx('hand_outs as h')
    .join('cards as c', 'c.id', 'h.card_id')
    .join('records as r', 'r.id', 'c.record_id')
    .whereIn('h.id', ids)
    .select('h.id', 'h.card_id', 'h.placement', 'r.written_name', 'c.audience');

/** What is known of a style at a version and level, by the hash of the style. */
export const styleProof = async (
  tx: Tx,
  of: { hash: string; version: number; level: Level },
): Promise<ShownProof | undefined> => (await tx('code_styles').where(of).first<{ proof: ShownProof }>('proof'))?.proof;

export const keepStyleProof = (
  tx: Tx,
  organisationId: string,
  of: { hash: string; version: number; level: Level },
  proof: ShownProof,
) =>
  tx('code_styles')
    .insert({ organisation_id: organisationId, ...of, proof: JSON.stringify(proof) })
    .onConflict()
    .ignore();
