import { drawSymbol, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { codeAsFile, openCode, restyle, testCode, wordsOf } from '@/server/services/hand-outs/codes';
import { testDesign } from '@/server/services/hand-outs/designs';
import { fetchOccasion, handOver } from '@/server/services/hand-outs/hand-over';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { markOfPicture } from '@/server/services/hand-outs/marks';
import {
  changeOccasion,
  listOccasions,
  listPlacements,
  makeOccasion,
  removeOccasion,
} from '@/server/services/hand-outs/occasions';
import { duplicateHandOut, pointElsewhere, renameHandOut, setHandOutState } from '@/server/services/hand-outs/change';
import { messageDraft, sendMessage } from '@/server/services/hand-outs/message';
import { openProfile, saveParameters } from '@/server/services/hand-outs/profile';
import { randomBytes } from 'node:crypto';
import { codeFrom } from '@/core/address';
import { insertSpares } from '@/server/db/hand-outs/spares';
import { inTenant } from '@/server/db/pool';
import { listSpares, makeSpares, giveSpare } from '@/server/services/hand-outs/spares';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { shareCard } from '@/server/services/hand-outs/share';
import { dropTemplate, listTemplates, saveTemplate } from '@/server/services/hand-outs/templates';
import {
  makeSignature,
  openSignature,
  saveSignature,
  sendTestMail,
  signatureTaken,
  signatureFile,
} from '@/server/services/hand-outs/signature';
import { openTag, renewTag, sizeTag, tagWritten } from '@/server/services/hand-outs/tags';
import { cardShared } from '@/server/services/hand-outs/share';
import { countAllOutOfDate, listCopies, outThere } from '@/server/services/wild/list-copies';
import { setCopyDone } from '@/server/services/wild/mark-copy';
import { addRun, editRun, makePiece, openPiece, pieceFile, pieceSide, savePiece } from '@/server/services/pieces/print';
import { FIRST_BACKDROP } from '@/core/backdrop';
import { FIRST_PIECE } from '@/core/print';
import { askDesigner, endDesigner } from '@/server/services/pieces/designer';
import { dropArtwork, giveArtwork } from '@/server/services/pieces/give-artwork';
import { backdropFile, openBackdrop, saveBackdrop } from '@/server/services/pieces/backdrop';
import { openPass, passFile, sendPass } from '@/server/services/pieces/pass';
import { addPiece } from '@/server/services/pieces/parts';
import { cancelJob } from '@/server/services/jobs/jobs';
import { askTogether, madeFileStream, readMadeFile } from '@/server/services/pieces/together';
import { FIRST_SIGNATURE } from '@/core/signature';
import type { Attempt } from './attempts';
import { clock, DESIGN, next } from './belongings';

const A_CODE = Buffer.from(drawSymbol(symbolFor('heath at dusk'), { title: 'x', widthMm: 25 }));

const FAIR = { name: 'Fair', place: '', firstDay: '2026-05-01', lastDay: '2026-05-03' };

const RUN = { printedOn: '2026-11-24', copies: 50, place: 'Office' };

const SIGNATURE_ATTEMPTS: Record<string, Attempt> = {
  messageDraft: {
    action: 'hand-out.make',
    of: true,
    run: (actor, { cardId }) => messageDraft(actor, cardId, { note: 'Hello', placement: '', occasionId: null }, clock),
  },
  sendMessage: {
    action: 'hand-out.make',
    // No mail leaves here: whoever gets as far as that was let in.
    run: (actor, { cardId }) => {
      const input = { to: 'x@heath.example', name: '', note: '', placement: '', occasionId: null };
      return sendMessage(actor, cardId, input, clock).catch((error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'MAIL_CLOSED') throw error;
      });
    },
  },
  reusedHandOut: {
    action: 'hand-out.make',
    of: true,
    run: (actor, { cardId }) =>
      reusedHandOut(actor, cardId, { channel: 'profile', placement: 'Profile', occasionId: null }, clock),
  },
  listSpares: { action: 'code.reserve', run: (actor) => listSpares(actor) },
  makeSpares: {
    action: 'code.reserve',
    act: 'codes.reserved',
    run: (actor) => makeSpares(actor, { count: 1, placement: 'Blank cards' }, clock),
  },
  giveSpare: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.made',
    run: async (actor, { cardId }) => {
      const [code] = [codeFrom(randomBytes(8))];
      const row = {
        code,
        organisation_id: actor.organisationId,
        placement: 'Blank cards',
        ...{ number: next(), channel: 'code' as const },
        made_at: new Date(clock.now()),
      };
      await inTenant(actor.organisationId, (tx) => insertSpares(tx, [row]));
      return giveSpare(actor, { cardId, code, placement: '' }, clock);
    },
  },
  openProfile: { action: 'hand-out.read', of: true, run: (actor, { profile }) => openProfile(actor, profile, clock) },
  saveParameters: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.changed',
    run: (actor, { profile }) => saveParameters(actor, profile, 'source=card', clock),
  },
  shareCard: {
    action: 'hand-out.make',
    of: true,
    run: (actor, { cardId }) => shareCard(actor, cardId, { placement: 'Shared', occasionId: null }, clock),
  },
  listTemplates: { action: 'hand-out.make', run: (actor) => listTemplates(actor) },
  saveTemplate: { action: 'hand-out.make', run: (actor) => saveTemplate(actor, { name: 'Fair', body: 'Hello' }) },
  dropTemplate: {
    action: 'hand-out.make',
    run: async (actor) => dropTemplate(actor, (await saveTemplate(actor, { name: 'Fair', body: 'Hello' })).id),
  },
  renameHandOut: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.changed',
    run: (actor, { handOut }) => renameHandOut(actor, handOut, { placement: 'Banner', occasionId: null }, clock),
  },
  setHandOutState: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.state-set',
    run: (actor, { handOut }) => setHandOutState(actor, handOut, { state: 'out', notice: '' }, clock),
  },
  pointElsewhere: {
    action: 'hand-out.make',
    of: true,
    // To where it is already: who may reach no other card is tried in its own test.
    run: (actor, { handOut, cardId }) => pointElsewhere(actor, handOut, cardId, clock),
  },
  duplicateHandOut: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.made',
    run: (actor, { tag }) => duplicateHandOut(actor, tag, clock),
  },
  askTogether: {
    action: 'hand-out.make',
    of: true,
    act: 'job.asked',
    run: async (actor, { recordId }) => {
      const wanted = { records: [recordId], piece: FIRST_PIECE, placement: 'Cards', copies: 1 };
      const { job } = await askTogether(actor, wanted, clock);
      // There is an end to how many may wait.
      await cancelJob(actor, job, clock);
    },
  },
  readMadeFile: { action: 'job.read', of: true, run: (actor, { job }) => readMadeFile(actor, job) },
  madeFileStream: {
    action: 'job.read',
    of: true,
    // This job has made none: whoever gets as far as that was let in.
    run: async (actor, { job }) => {
      await readMadeFile(actor, job);
      await madeFileStream(actor, job).catch((error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'NOT_FOUND') throw error;
      });
    },
  },
  addPiece: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.made',
    run: (actor, { cardId }) => addPiece(actor, { cardId, placement: 'Calls', channel: 'backdrop' }, clock),
  },
  giveArtwork: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { paper }) => giveArtwork(actor, paper, { side: 'front', name: 'design.pdf', bytes: DESIGN }, clock),
  },
  dropArtwork: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { paper }) => dropArtwork(actor, paper, 'front', clock),
  },
  askDesigner: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.package-shared',
    run: (actor, { paper }) => askDesigner(actor, paper, 7, clock),
  },
  endDesigner: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.package-ended',
    // Once it has ended another one is made first, by whoever may.
    run: (actor, { paper, designerLink }) =>
      endDesigner(actor, paper, designerLink, clock).catch(async (error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'NOT_FOUND') throw error;
        await endDesigner(actor, paper, (await askDesigner(actor, paper, 7, clock)).links[0]!.id, clock);
      }),
  },
  openBackdrop: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { backdrop }) => openBackdrop(actor, backdrop, clock),
  },
  saveBackdrop: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { backdrop }) => saveBackdrop(actor, backdrop, FIRST_BACKDROP, clock),
  },
  backdropFile: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { backdrop }) => backdropFile(actor, backdrop, 'smaller', clock),
  },
  openPass: { action: 'hand-out.read', of: true, run: (actor, { pass }) => openPass(actor, pass, clock) },
  passFile: { action: 'hand-out.read', of: true, run: (actor, { pass }) => passFile(actor, pass, clock) },
  sendPass: {
    action: 'hand-out.make',
    of: true,
    // No mail leaves here: whoever gets as far as that was let in.
    run: (actor, { pass }) =>
      sendPass(actor, pass, clock).catch((error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'MAIL_CLOSED') throw error;
      }),
  },
  makePiece: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.made',
    run: (actor, { cardId }) => makePiece(actor, { cardId, placement: 'Paper card' }, clock),
  },
  openPiece: { action: 'hand-out.read', of: true, run: (actor, { paper }) => openPiece(actor, paper, clock) },
  savePiece: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { paper }) => savePiece(actor, paper, FIRST_PIECE, clock),
  },
  pieceFile: { action: 'hand-out.read', of: true, run: (actor, { paper }) => pieceFile(actor, paper, clock) },
  pieceSide: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { paper }) => pieceSide(actor, paper, { side: 'front', format: 'svg' }, clock),
  },
  addRun: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.printed',
    run: (actor, { paper }) => addRun(actor, paper, RUN, clock),
  },
  editRun: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.printed',
    run: (actor, { paper, printRun }) => editRun(actor, paper, printRun, RUN, clock),
  },
  makeSignature: { action: 'hand-out.make', of: true, run: (actor, { cardId }) => makeSignature(actor, cardId, clock) },
  openSignature: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { signature }) => openSignature(actor, signature, clock),
  },
  saveSignature: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { signature }) => saveSignature(actor, signature, FIRST_SIGNATURE, clock),
  },
  openTag: { action: 'hand-out.read', of: true, run: (actor, { tag }) => openTag(actor, tag, clock) },
  sizeTag: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { tag }) => sizeTag(actor, tag, 496, clock),
  },
  renewTag: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { tag }) => renewTag(actor, tag, clock),
  },
  tagWritten: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.written',
    run: (actor, { tag }) => tagWritten(actor, tag, { locked: false }, clock),
  },
  cardShared: { action: 'hand-out.make', of: true, run: (actor, { share }) => cardShared(actor, share, clock) },
  signatureTaken: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { signature }) => signatureTaken(actor, signature, clock),
  },
  listCopies: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { cardId }) => listCopies(actor, { cardId, which: 'all' }),
  },
  countAllOutOfDate: { action: 'hand-out.read', run: (actor) => countAllOutOfDate(actor) },
  outThere: { action: 'record.read', of: true, run: (actor, { recordId }) => outThere(actor, recordId) },
  setCopyDone: {
    action: 'hand-out.make',
    of: true,
    act: 'copy.done',
    run: (actor, { copy }) => setCopyDone(actor, copy, true, clock),
  },
  signatureFile: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { signature }) => signatureFile(actor, signature, { form: 'eml', variant: 'reply' }, clock),
  },
  sendTestMail: {
    action: 'hand-out.make',
    of: true,
    // Nobody here has confirmed their address: whoever gets as far as that was let in.
    run: (actor, { signature }) =>
      sendTestMail(actor, signature, 'message', clock).catch((error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'EMAIL_UNCONFIRMED') throw error;
      }),
  },
};

/** Attempts at the services of codes, signatures, placements and occasions. */
export const CODE_ATTEMPTS: Record<string, Attempt> = {
  ...SIGNATURE_ATTEMPTS,
  makeHandOut: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.made',
    run: (actor, { cardId }) => makeHandOut(actor, { cardId, placement: 'Banner' }, clock),
  },
  codeAsFile: {
    action: 'hand-out.read',
    of: true,
    run: (actor, { handOut }) =>
      codeAsFile(actor, handOut, { format: 'png', widthMm: 25, dpi: 300, spot: null }, clock),
  },
  openCode: { action: 'hand-out.read', of: true, run: (actor, { handOut }) => openCode(actor, handOut, clock) },
  restyle: {
    action: 'hand-out.make',
    of: true,
    act: 'hand-out.styled',
    run: (actor, { handOut }) => restyle(actor, handOut, { style: PLAIN_STYLE, all: false }, clock),
  },
  testCode: { action: 'hand-out.make', of: true, run: (actor, { handOut }) => testCode(actor, handOut, clock) },
  wordsOf: { action: 'hand-out.read', run: (actor) => wordsOf(actor, 'Save the contact') },
  testDesign: { action: 'hand-out.read', run: (actor) => testDesign(actor, A_CODE) },
  markOfPicture: { action: 'picture.read', of: true, run: (actor, { picture }) => markOfPicture(actor, picture) },
  listOccasions: { action: 'hand-out.read', run: (actor) => listOccasions(actor, clock) },
  handOver: { action: 'hand-out.read', run: (actor) => handOver(actor, clock) },
  fetchOccasion: {
    action: 'hand-out.make',
    run: async (actor) => {
      const { id } = await makeOccasion(actor, FAIR, clock);
      return fetchOccasion(actor, id, clock);
    },
  },
  changeOccasion: {
    action: 'hand-out.make',
    act: 'occasion.changed',
    run: async (actor) => {
      const { id } = await makeOccasion(actor, FAIR, clock);
      return changeOccasion(actor, id, { ...FAIR, name: 'Later fair' }, clock);
    },
  },
  removeOccasion: {
    action: 'hand-out.make',
    act: 'occasion.removed',
    run: async (actor) => {
      const { id } = await makeOccasion(actor, FAIR, clock);
      return removeOccasion(actor, id, clock);
    },
  },
  listPlacements: { action: 'hand-out.read', run: (actor) => listPlacements(actor) },
  makeOccasion: {
    action: 'hand-out.make',
    act: 'occasion.made',
    run: (actor) => makeOccasion(actor, FAIR, clock),
  },
};
