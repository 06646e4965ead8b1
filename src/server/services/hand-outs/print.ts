import { randomUUID } from 'node:crypto';
import { leavingOf, linesOn, pictureOn, privacyOf, same, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { HOUSE_LOGO, houseLogo } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { loadWords, say } from '@/core/messages';
import { codeMmOf, FIRST_PIECE, roomForCode, type Piece } from '@/core/print';
import { drawCode, PLAIN_STYLE, sideOf } from '@/core/qr';
import { cleanLine, writtenName, type PersonRecord } from '@/core/record';
import type { ShownPiece, ShownRun } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { card } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import type { HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { changeRun, countRuns, dropRun, insertRun, runsOf, setPiece, type RunRow } from '@/server/db/hand-outs/print';
import { inTenant, type Tx } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { composeCard } from '@/server/services/publishing/compose-card';
import { houseOf } from '@/server/services/house/house-style';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { drawnOf, symbolOf, textOf } from './drawing';
import { linkOf, ownHandOut, plainName } from './own';

/** A new printed piece of a published card, with a living code of its own. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, CARD_NOT_PUBLISHED. */
export async function makePiece(
  actor: Actor,
  { cardId, placement }: { cardId: string; placement: string },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const named = cleanLine(placement).text.slice(0, LIMITS.placement);
  if (!named) throw new Refusal({ code: 'INPUT', field: 'placement' });
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const { id } = await addHandOut(tx, actor.organisationId, cardId, named, new Date(clock.now()), () => ({
      ...{ channel: 'print', frozen: null, revision: null, content: { what: 'card' }, occasion_id: null },
    }));
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id }, clock);
    return { id };
  });
}

type Own = {
  row: HandOutRow;
  served: PublishedCard;
  piece: Piece;
  unpublished: boolean;
  runs: RunRow[];
  body: PersonRecord;
};

const onPaper = (composition: Composition) => [composition.name, linesOn(composition, 'print')];

/** A piece that the member may do this with, and the card that it is printed from: what is published. */
async function ownPiece(
  actor: Actor,
  id: string,
  action: 'hand-out.read' | 'hand-out.make',
  clock: Clock,
): Promise<Own> {
  authorise(actor, action);
  const { row, draft, runs, body } = await inTenant(actor.organisationId, async (tx) => {
    const { row, owner } = await ownPieceRow(tx, actor, id, action);
    const person = await record(tx, owner.record_id);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const { shown } = await composeCard(tx, owner, person.body, actor.organisation.country);
    return { row, draft: shown, runs: await runsOf(tx, id), body: person.body };
  });
  const served = await loadPublished({ code: row.code }, clock);
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const unpublished = !same(onPaper(draft), onPaper(served.composition));
  return { row, served, piece: row.print ?? FIRST_PIECE, unpublished, runs, body };
}

async function ownPieceRow(tx: Tx, actor: Actor, id: string, action: 'hand-out.read' | 'hand-out.make') {
  const own = await ownHandOut(tx, actor, id, action);
  if (own.row.channel !== 'print') throw new Refusal({ code: 'NOT_FOUND' });
  return own;
}

/** The pictures that stand on paper, as they were given: print needs all their pixels. */
async function pictureBytes({ organisationId, cardId, composition }: PublishedCard) {
  const band = await inTenant(organisationId, async (tx) => {
    const owner = await card(tx, cardId);
    const house = owner && (await houseOf(tx, owner));
    const isHouse = composition.lines.some(({ id, on }) => id === HOUSE_LOGO && on.includes('print'));
    return house && isHouse ? (houseLogo(house.style, composition.look.palette.band)?.hash ?? null) : null;
  });
  const { ground } = composition.look;
  const read = async (hash: string | null | undefined) => (hash ? files().get(hash) : null);
  const [photo, logo, logoOnBand, back] = await Promise.all([
    read(pictureOn(composition, 'photo', 'print')),
    read(pictureOn(composition, 'logo', 'print')),
    read(band),
    read(ground.kind === 'picture' ? ground.picture.hash : null),
  ]);
  return { photo, logo, logoOnBand, ground: back };
}

/** How the code of a piece is drawn: in the house's colours, without what stands around it elsewhere. */
async function codeOf(row: HandOutRow) {
  const drawn = await inTenant(row.organisation_id, async (tx) => {
    const owner = await card(tx, row.card_id);
    return drawnOf(tx, row, (owner && (await houseOf(tx, owner))?.style) ?? null);
  });
  const symbol = symbolOf(textOf(row), drawn);
  return { symbol, drawing: drawCode(symbol, { ...drawn.style, words: '', around: PLAIN_STYLE.around }) };
}

/** Prints a piece of a published card and proves the file, away from who else is waiting. Errors: STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS. */
export async function printed({ row, served, piece }: Pick<Own, 'row' | 'served' | 'piece'>, shown = false) {
  const { symbol, drawing } = await codeOf(row);
  const { composition, organisationId } = served;
  const made = await compute(
    'printed piece',
    {
      ...{ composition, language: composition.language ?? 'en', piece, code: drawing, link: textOf(row) },
      pictures: await pictureBytes(served),
      withheld: await withheldOf(served, 'print'),
      shown,
      title: `${writtenName(composition.name)}, ${row.placement}`,
    },
    { of: organisationId },
  );
  return { ...made, modules: symbol.size };
}

const shownRun = ({ id, printed_on, copies, place, revision }: RunRow): ShownRun => ({
  ...{ id, printedOn: printed_on, copies, place, revision },
});

/** Everything that the screen of a printed piece shows, with the proof of its file. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, those of {@link printed}. */
export async function openPiece(actor: Actor, id: string, clock: Clock): Promise<ShownPiece> {
  const own = await ownPiece(actor, id, 'hand-out.read', clock);
  const { row, served, piece, unpublished, runs, body } = own;
  const { front, back, pdf, proof, modules } = await printed(own, true);
  const language = served.composition.language ?? 'en';
  await loadWords(language);
  return {
    ...{ id, cardId: row.card_id, placement: row.placement, link: linkOf(row), piece },
    ...{ revision: served.revision, unpublished, front: front ?? '', back, proof, bytes: pdf.length },
    leaving: leavingOf(served.composition, null, ['print'], (detail) => privacyOf(detail, body)),
    sentence: say('save', language),
    code: { widthMm: codeMmOf(piece), roomMm: roomForCode(piece), modules: sideOf(modules) },
    runs: runs.map(shownRun),
  };
}

/** Keeps how a piece is made up. Errors: those of {@link openPiece}. */
export async function savePiece(actor: Actor, id: string, piece: Piece, clock: Clock): Promise<ShownPiece> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor.organisationId, async (tx) => {
    await ownPieceRow(tx, actor, id, 'hand-out.make');
    await setPiece(tx, id, { ...piece, sentence: cleanLine(piece.sentence).text });
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openPiece(actor, id, clock);
}

/** The file of a piece for print, if its proof passes. Errors: PROOF_FAILED and those of {@link openPiece}. */
export async function pieceFile(
  actor: Actor,
  id: string,
  clock: Clock,
): Promise<{ bytes: Buffer; fileName: string; type: string }> {
  const own = await ownPiece(actor, id, 'hand-out.read', clock);
  const { pdf, proof } = await printed(own);
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'print', finding: failing.finding });
  const fileName = `${plainName(writtenName(own.served.composition.name)) || 'card'}-${own.piece.size}.pdf`;
  return { bytes: pdf, fileName, type: 'application/pdf' };
}

export type RunInput = { printedOn: string; copies: number; place: string };

/** Notes copies of a piece that are printed: of the revision of today. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, TOO_MANY_RUNS. */
export async function addRun(actor: Actor, id: string, input: RunInput, clock: Clock): Promise<ShownRun[]> {
  const { served } = await ownPiece(actor, id, 'hand-out.make', clock);
  return inTenant(actor.organisationId, async (tx) => {
    await ownPieceRow(tx, actor, id, 'hand-out.make');
    if ((await countRuns(tx, id)) >= LIMITS.printRuns)
      throw new Refusal({ code: 'TOO_MANY_RUNS', limit: LIMITS.printRuns });
    await insertRun(tx, {
      ...{ id: randomUUID(), organisation_id: actor.organisationId, hand_out_id: id, revision: served.revision },
      ...{
        printed_on: input.printedOn,
        copies: input.copies,
        place: cleanLine(input.place).text.slice(0, LIMITS.placement),
      },
      created_at: new Date(clock.now()),
    });
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
  return inTenant(actor.organisationId, async (tx) => {
    await ownPieceRow(tx, actor, id, 'hand-out.make');
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
