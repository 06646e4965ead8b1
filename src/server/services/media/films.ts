import { recordsWithin } from '@/core/access';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { filmsBy, insertFilm, type FilmRow } from '@/server/db/media/films';
import { shownOnCardOf } from '@/server/db/cards/cards';
import { gaveIt } from '@/server/db/media/pictures';
import { inTenant } from '@/server/db/pool';
import { files, isHash } from '@/server/files';
import { compute } from '@/server/compute';
import type { Film } from '@/server/compute/tasks/film';
import type { Readable } from 'node:stream';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseBeyondQuota } from '@/server/services/organisation/quota';

/** Keeps a film of the organisation without its metadata; picture and sound stay as they are. Errors: NOT_ALLOWED, FILM_UNREADABLE, STORE_FULL. */
export async function addFilm(actor: Actor, bytes: Buffer, clock: Clock): Promise<Film> {
  authorise(actor, 'card.write');
  const { film, packed } = await compute('film', { bytes }, { of: actor.organisationId });
  const hash = await files().put(packed);
  await keep(actor, { ...film, hash }, clock);
  return { ...film, hash };
}

/** Keeps the captions of a film, WebVTT in UTF-8. Errors: NOT_ALLOWED, CAPTIONS_UNREADABLE with the line at fault, STORE_FULL. */
export async function addCaptions(actor: Actor, bytes: Buffer, clock: Clock): Promise<{ hash: string }> {
  authorise(actor, 'card.write');
  if (bytes.length > LIMITS.captionBytes)
    throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.captionBytes });
  await compute('captions', { bytes }, { of: actor.organisationId });
  const hash = await files().put(bytes);
  await keep(actor, { hash, type: 'text/vtt', bytes: bytes.length, width: null, height: null, seconds: null }, clock);
  return { hash };
}

const keep = (actor: Actor, row: Omit<FilmRow, 'organisation_id' | 'added_by'>, clock: Clock) =>
  inTenant(actor, async (tx) => {
    await refuseBeyondQuota(tx, actor.organisationId, row.bytes);
    await insertFilm(tx, { organisation_id: actor.organisationId, added_by: actor.userId, ...row });
    await recordAudit(tx, actor, 'film.added', { kind: 'film', id: row.hash }, clock);
  });

/** A film of the organisation for the studio, from `first` to its end or `last`. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function filmOf(
  actor: Actor,
  hash: string,
): Promise<{ type: string; bytes: number; part: (first: number, last: number) => Promise<Readable | null> }> {
  authorise(actor, 'picture.read');
  const within = recordsWithin(actor, 'picture.read');
  const row = await inTenant(actor, async (tx) => {
    const [film] = await filmsBy(tx, [hash]);
    const seen =
      within === 'all' ||
      (film && gaveIt(film, actor.userId)) ||
      (isHash(hash) && (await shownOnCardOf(tx, within, hash)));
    return seen ? film : undefined;
  });
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  return { type: row.type, bytes: row.bytes, part: (first, last) => files().part(row.hash, first, last) };
}
