import { createHash } from 'node:crypto';
import { insertFilm } from '@/server/db/media/films';
import { inTenant } from '@/server/db/pool';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { addPhoto } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { addFilm } from '@/server/services/media/films';
import { askDesigner } from '@/server/services/pieces/designer';
import { giveArtwork } from '@/server/services/pieces/give-artwork';
import { addPiece } from '@/server/services/pieces/parts';
import { addRun, makePiece } from '@/server/services/pieces/print';
import { listCopies } from '@/server/services/wild/list-copies';
import { makeSignature } from '@/server/services/hand-outs/signature';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { shopPdf } from '../fixtures/print-shop';
import { clockAt } from './place';

export const clock = clockAt('2026-11-24T09:00:00Z');
export const TWO = Buffer.from('BEGIN:VCARD\nFN:One\nEND:VCARD\nBEGIN:VCARD\nFN:Two\nEND:VCARD');
/** A design without anything on it. */
export const DESIGN = shopPdf([{ width: 85, height: 55, content: '0 0 0 0 k' }]);
export const FILM = readFileSync('tests/fixtures/ropeway.webm');
export const FIRST = 'a first password';

/** What belongs to one person: their record with a photo, their published card, its hand-out; and a job of their member's. */
export type Belongings = {
  recordId: string;
  cardId: string;
  handOut: string;
  tag: string;
  signature: string;
  paper: string;
  printRun: string;
  share: string;
  copy: string;
  designerLink: string;
  backdrop: string;
  pass: string;
  profile: string;
  picture: string;
  film: string;
  job: string;
  import: string;
  member: string;
};

let counter = 0;
export const next = () => (counter += 1);

export async function belongings(owner: Actor, member: string): Promise<Belongings> {
  const { recordId, cardId } = await createRecord(
    owner,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' },
    clock,
  );
  const bytes = await sharp({ create: { width: 40, height: 40, channels: 3, background: { r: next(), g: 9, b: 9 } } })
    .png()
    .toBuffer();
  const { picture } = await addPhoto(owner, bytes, clock);
  const { body, version } = await openRecord(owner, recordId);
  const photo = { kind: 'photo' as const, id: 'p', label: '', preferred: false, picture };
  await saveRecord(owner, recordId, version, { ...body, details: [...body.details, photo] }, clock);
  // A film of their own: the same one would be everybody's.
  const hash = createHash('sha256').update(`film ${next()}`).digest('hex');
  const film = { ...(await addFilm(owner, FILM, clock)), hash };
  await inTenant(owner.organisationId, (tx) =>
    insertFilm(tx, { ...film, organisation_id: owner.organisationId, added_by: owner.userId }),
  );
  const { lines, audience, version: base } = await openCard(owner, cardId);
  const video = { id: 'v', title: '', film, player: '', poster: null, captions: null };
  const block = { kind: 'video' as const, id: 'b', on: true, before: false, title: '', videos: [video] };
  await saveCard(owner, cardId, { baseVersion: base, lines, audience, blocks: [block] }, clock);
  await publishCard(owner, cardId, { baseVersion: base + 1, address: `ilse-roles-${next()}` }, clock);
  const taken = await takeContactFile({ ...owner, userId: member }, TWO, clock);
  const handOut = (await openCard(owner, cardId)).handOuts[0]!.id;
  if (!('job' in taken)) throw new Error('Two contacts wait for review.');
  const tag = (await makeHandOut(owner, { cardId, placement: 'badge', channel: 'tag', frozen: true }, clock)).id;
  const signature = (await makeSignature(owner, cardId, clock)).id;
  const paper = (await makePiece(owner, { cardId, placement: 'Paper card' }, clock)).id;
  const run = { printedOn: '2026-11-24', copies: 100, place: 'Depot' };
  const printRun = (await addRun(owner, paper, run, clock))[0]!.id;
  const [copy] = (await listCopies(owner, { handOutId: paper, which: 'all' })).copies.map(({ id }) => id) as [string];
  await giveArtwork(owner, paper, { side: 'front', name: 'design.pdf', bytes: DESIGN }, clock);
  const designerLink = (await askDesigner(owner, paper, 7, clock)).links[0]!.id;
  const made = (channel: 'backdrop' | 'pass') => addPiece(owner, { cardId, placement: channel, channel }, clock);
  const [backdrop, pass] = [(await made('backdrop')).id, (await made('pass')).id];
  const at = { placement: 'Shared', occasionId: null };
  const share = (await reusedHandOut(owner, cardId, { ...at, channel: 'share' }, clock)).id;
  const page = { channel: 'profile' as const, placement: 'Profile', occasionId: null };
  const profile = (await reusedHandOut(owner, cardId, page, clock)).id;
  return {
    recordId,
    cardId,
    handOut,
    tag,
    signature,
    profile,
    share,
    paper,
    printRun,
    copy,
    designerLink,
    backdrop,
    pass,
    picture,
    film: film.hash,
    job: taken.job,
    import: taken.import,
    member,
  };
}
