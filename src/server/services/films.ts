import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { captionsProblem } from '@/core/page/captions';
import { filmsBy, insertFilm, type FilmRow } from '@/server/db/films';
import { shownOnCardOf } from '@/server/db/cards';
import { inTenant } from '@/server/db/pool';
import { files, isHash } from '@/server/files';
import type { Readable } from 'node:stream';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise } from './authorise';

export type Film = {
  hash: string;
  type: 'video/mp4' | 'video/webm';
  width: number;
  height: number;
  seconds: number;
  bytes: number;
};

/** MP4 or WebM by their first bytes: the file type box (ISO/IEC 14496-12 4.3), the EBML header with its document type (from memory). */
function typeOf(bytes: Buffer): Film['type'] | null {
  if (bytes.subarray(4, 8).toString('latin1') === 'ftyp') return 'video/mp4';
  const ebml = bytes.readUInt32BE(0) === 0x1a45dfa3 && bytes.subarray(0, 64).includes('webm', 0, 'latin1');
  return ebml ? 'video/webm' : null;
}

/** What a film tells of itself, read by a library that takes it apart. Error: FILM_UNREADABLE. */
async function readFilm(bytes: Buffer): Promise<Film> {
  const type = bytes.length > 64 ? typeOf(bytes) : null;
  if (!type) throw new Refusal({ code: 'FILM_UNREADABLE' });
  const input = new Input({ source: new BufferSource(new Uint8Array(bytes)), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack();
    const seconds = track && (await input.computeDuration());
    if (!track || !track.codec || !(track.displayWidth > 0) || !(track.displayHeight > 0) || !Number.isFinite(seconds))
      throw new Refusal({ code: 'FILM_UNREADABLE' });
    const { displayWidth: width, displayHeight: height } = track;
    return { hash: '', type, width, height, seconds: Math.max(0, seconds!), bytes: bytes.length };
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal({ code: 'FILM_UNREADABLE' });
  } finally {
    input.dispose();
  }
}

/** Keeps a film of the organisation, as it is: nothing is encoded anew. Errors: NOT_ALLOWED, FILM_UNREADABLE, STORE_FULL. */
export async function addFilm(actor: Actor, bytes: Buffer, clock: Clock): Promise<Film> {
  authorise(actor, 'card.write');
  const film = await readFilm(bytes);
  const hash = await files().put(bytes);
  await keep(actor, { ...film, hash }, clock);
  return { ...film, hash };
}

/** Keeps the captions of a film, WebVTT in UTF-8. Errors: NOT_ALLOWED, CAPTIONS_UNREADABLE with the line at fault, STORE_FULL. */
export async function addCaptions(actor: Actor, bytes: Buffer, clock: Clock): Promise<{ hash: string }> {
  authorise(actor, 'card.write');
  if (bytes.length > LIMITS.captionBytes)
    throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.captionBytes });
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal({ code: 'CAPTIONS_UNREADABLE', line: 1 });
  }
  const wrong = captionsProblem(text);
  if (wrong !== null) throw new Refusal({ code: 'CAPTIONS_UNREADABLE', line: wrong });
  const hash = await files().put(bytes);
  await keep(actor, { hash, type: 'text/vtt', bytes: bytes.length, width: null, height: null, seconds: null }, clock);
  return { hash };
}

const keep = (actor: Actor, row: Omit<FilmRow, 'organisation_id' | 'added_by'>, clock: Clock) =>
  inTenant(actor.organisationId, async (tx) => {
    await insertFilm(tx, { organisation_id: actor.organisationId, added_by: actor.userId, ...row });
    await writeDown(tx, actor, 'film.added', { kind: 'film', id: row.hash }, clock);
  });

/** A film of the organisation for the studio, from `first` to its end or `last`. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function filmOf(
  actor: Actor,
  hash: string,
): Promise<{ type: string; bytes: number; part: (first: number, last: number) => Promise<Readable | null> }> {
  const reach = authorise(actor, 'picture.read');
  const row = await inTenant(actor.organisationId, async (tx) => {
    const [film] = await filmsBy(tx, [hash]);
    const seen =
      reach === 'all' ||
      film?.added_by === actor.userId ||
      (actor.ownRecord !== null && isHash(hash) && (await shownOnCardOf(tx, actor.ownRecord, hash)));
    return seen ? film : undefined;
  });
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  return { type: row.type, bytes: row.bytes, part: (first, last) => files().part(row.hash, first, last) };
}
