import { randomUUID } from 'node:crypto';
import { leavingOf, privacyOf } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { loadWords, say } from '@/core/messages';
import { codeMmOf, FIRST_PIECE, lineColours, linesToPlace, PieceSchema, roomForCode, type Piece } from '@/core/print';
import { sideOf } from '@/core/qr';
import { cleanLine, writtenName } from '@/core/record';
import type { ShownDesignerLink, ShownPiece, ShownRun } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { designerLinksOf, type DesignerLinkRow } from '@/server/db/hand-outs/designer-links';
import type { HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { changeRun, countRuns, dropRun, insertRun, runsOf, setPiece, type RunRow } from '@/server/db/hand-outs/print';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { textOf } from '@/server/services/hand-outs/drawing';
import { linkOf, plainName } from '@/server/services/hand-outs/own';
import { notePrinted } from '@/server/services/wild/note-copy';
import { artworksFor, shownArtworks } from './artworks';
import {
  addPiece,
  ownOfChannel,
  ownPublished,
  piecePictures,
  plainCodeOf,
  type OwnPublished,
  type PieceAction,
} from './parts';

/** A new printed piece of a published card, with a living code of its own. Errors: those of {@link addPiece}. */
export const makePiece = (actor: Actor, wanted: { cardId: string; placement: string }, clock: Clock) =>
  addPiece(actor, { ...wanted, channel: 'print' }, clock);

type Own = OwnPublished & { piece: Piece; runs: RunRow[]; links: DesignerLinkRow[] };

/** How a piece is made up; what it knew nothing of when it was kept is as at first. */
export const pieceOf = ({ print }: HandOutRow): Piece => PieceSchema.parse(print ?? FIRST_PIECE);

/** A piece that the member may do this with, its runs, and the card that it is printed from. Errors: those of {@link ownPublished}. */
const ownPiece = async (actor: Actor, id: string, action: PieceAction, clock: Clock): Promise<Own> => {
  const own = await ownPublished(actor, id, { channel: 'print', action }, clock);
  const [runs, links] = await inTenant(actor, async (tx) => [
    await runsOf(tx, id),
    await designerLinksOf(tx, id, LIMITS.designerLinks),
  ]);
  return { ...own, piece: pieceOf(own.row), runs, links };
};

const ownPieceRow = (tx: Tx, actor: Actor, id: string) =>
  ownOfChannel(tx, actor, id, { channel: 'print', action: 'hand-out.make' });

/** What a piece of a published card is made from, and how many modules its code has. Error: STORE_UNAVAILABLE. */
async function pieceOrder({ row, served, piece }: Pick<Own, 'row' | 'served' | 'piece'>) {
  const artworks = await artworksFor(row, piece);
  const bare = artworks !== null && piece.placed.some((each) => each.kind === 'code' && !each.plate);
  const { symbol, drawing, inks } = await plainCodeOf(row, bare);
  const { composition } = served;
  const order = {
    ...{ composition, language: composition.language ?? 'en', piece, inks, code: drawing, link: textOf(row) },
    pictures: await piecePictures(served, 'print'),
    withheld: await withheldOf(served, 'print'),
    artworks,
  };
  return { order, modules: symbol.size };
}

/** Prints a piece of a published card and proves the file, away from who else is waiting. Errors: STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS. */
export async function printed(of: Pick<Own, 'row' | 'served' | 'piece'>, shown = false) {
  const { order, modules } = await pieceOrder(of);
  const title = `${writtenName(of.served.composition.name)}, ${of.row.placement}`;
  const made = await compute('printed piece', { ...order, shown, title }, { of: of.served.organisationId });
  return { ...made, modules };
}

const shownRun = ({ id, printed_on, copies, place, revision }: RunRow): ShownRun => ({
  ...{ id, printedOn: printed_on, copies, place, revision },
});

/** Everything that the screen of a printed piece shows, with the proof of its file. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, those of {@link printed}. */
export async function openPiece(actor: Actor, id: string, clock: Clock): Promise<ShownPiece> {
  const own = await ownPiece(actor, id, 'hand-out.read', clock);
  const { row, served, piece, unpublished, runs, links, body } = own;
  const { front, back, pdf, proof, modules, boxes } = await printed(own, true);
  const language = served.composition.language ?? 'en';
  await loadWords(language);
  return {
    ...{ id, cardId: row.card_id, placement: row.placement, link: linkOf(row), piece },
    ...{ revision: served.revision, unpublished, front: front ?? '', back, proof, bytes: pdf.length },
    leaving: leavingOf(served.composition, null, ['print'], (detail) => privacyOf(detail, body)),
    sentence: say('save', language),
    code: { widthMm: codeMmOf(piece), roomMm: roomForCode(piece), modules: sideOf(modules) },
    runs: runs.map(shownRun),
    artworks: await shownArtworks(row),
    boxes,
    lines: linesToPlace(served.composition, language),
    colours: lineColours(served.composition),
    links: shownLinks(links, clock),
  };
}

/** Keeps how a piece is made up. Errors: those of {@link openPiece}. */
export async function savePiece(actor: Actor, id: string, piece: Piece, clock: Clock): Promise<ShownPiece> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    await ownPieceRow(tx, actor, id);
    await setPiece(tx, id, { ...piece, sentence: cleanLine(piece.sentence).text });
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openPiece(actor, id, clock);
}

/** Links for designers as the screen tells of them. */
export const shownLinks = (rows: DesignerLinkRow[], clock: Clock): ShownDesignerLink[] =>
  rows.map(({ id, ends_at, fetched }) => ({
    ...{ id, fetched, ends: ends_at.toISOString() },
    over: ends_at.getTime() <= clock.now(),
  }));

type PieceFile = { bytes: Buffer; fileName: string; type: string };

const fileName = ({ served, piece }: Own, ending: string): string =>
  `${plainName(writtenName(served.composition.name)) || 'card'}-${piece.size}${ending}`;

/** A proven piece as a file. Errors: PROOF_FAILED and those of {@link openPiece}. */
async function provenPiece(actor: Actor, id: string, clock: Clock) {
  const own = await ownPiece(actor, id, 'hand-out.read', clock);
  const { pdf, proof } = await printed(own);
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'print', finding: failing.finding });
  return { own, pdf };
}

/** The file of a piece for print, if its proof passes. Errors: PROOF_FAILED and those of {@link openPiece}. */
export async function pieceFile(actor: Actor, id: string, clock: Clock): Promise<PieceFile> {
  const { own, pdf } = await provenPiece(actor, id, clock);
  return { bytes: pdf, fileName: fileName(own, '.pdf'), type: 'application/pdf' };
}

/** One side of a piece with its bleed, as vectors or at 300 dots an inch, if the piece's proof passes. Errors: NOT_FOUND of a back that there is none of, and those of {@link pieceFile}. */
export async function pieceSide(
  actor: Actor,
  id: string,
  { side, format }: { side: 'front' | 'back'; format: 'svg' | 'png' },
  clock: Clock,
): Promise<PieceFile> {
  const { own } = await provenPiece(actor, id, clock);
  const { order } = await pieceOrder(own);
  const bytes = await compute('printed side', { ...order, side, format }, { of: own.served.organisationId });
  if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
  const type = format === 'svg' ? 'image/svg+xml' : 'image/png';
  return { bytes, type, fileName: fileName(own, `-${side}.${format}`) };
}

export type RunInput = { printedOn: string; copies: number; place: string };

/** Notes copies of a piece that are printed: of the revision of today. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, TOO_MANY_RUNS. */
export async function addRun(actor: Actor, id: string, input: RunInput, clock: Clock): Promise<ShownRun[]> {
  const { served, piece } = await ownPiece(actor, id, 'hand-out.make', clock);
  const at = new Date(clock.now());
  return inTenant(actor, async (tx) => {
    await ownPieceRow(tx, actor, id);
    if ((await countRuns(tx, id)) >= LIMITS.printRuns)
      throw new Refusal({ code: 'TOO_MANY_RUNS', limit: LIMITS.printRuns });
    const runId = randomUUID();
    await insertRun(tx, {
      ...{ id: runId, organisation_id: actor.organisationId, hand_out_id: id, revision: served.revision },
      ...{
        printed_on: input.printedOn,
        copies: input.copies,
        place: cleanLine(input.place).text.slice(0, LIMITS.placement),
      },
      created_at: at,
    });
    const { organisationId, cardId, revision } = served;
    await notePrinted(
      tx,
      { organisationId, cardId, handOutId: id, revision, runId, at },
      piece,
      served.composition,
      actor.organisation.country,
    );
    await recordAudit(tx, actor, 'hand-out.printed', { kind: 'hand-out', id }, clock);
    return (await runsOf(tx, id)).map(shownRun);
  });
}

/** Corrects what was noted of copies, or with null takes the note away. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function editRun(
  actor: Actor,
  id: string,
  runId: string,
  input: RunInput | null,
  clock: Clock,
): Promise<ShownRun[]> {
  authorise(actor, 'hand-out.make');
  return inTenant(actor, async (tx) => {
    await ownPieceRow(tx, actor, id);
    const changed = input
      ? await changeRun(tx, id, runId, {
          ...{ printed_on: input.printedOn, copies: input.copies },
          place: cleanLine(input.place).text.slice(0, LIMITS.placement),
        })
      : await dropRun(tx, id, runId);
    if (changed === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'hand-out.printed', { kind: 'hand-out', id }, clock);
    return (await runsOf(tx, id)).map(shownRun);
  });
}
