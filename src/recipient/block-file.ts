import type { Readable } from 'node:stream';
import { files } from '@/server/files';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { deliver, deliverFile } from './deliver';
import { blockPicture, filmHeaders } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

/** A picture, film or captions of a block; null where it is not this card's, or gone from the store. */
export async function blockFile(
  request: RecipientRequest,
  { files: shown }: PublishedCard,
  hash: string,
  caching: string,
): Promise<RecipientAnswer | null> {
  const file = shown.get(hash);
  if (!file) return null;
  if (file.bytes === null) {
    const bytes = await files().get(file.hash);
    return bytes && deliver(request, blockPicture(bytes), caching, {});
  }
  const { bytes, type } = file;
  return deliverFilm(request.header, { hash, bytes, type }, (first, last) => files().part(file.hash, first, last), {
    method: request.method,
    caching,
  });
}

/** A film or its captions, whole or the bytes asked for, as they come from the store; null where the store has none. */
export const deliverFilm = (
  header: RecipientRequest['header'],
  film: { hash: string; type: string; bytes: number },
  part: (first: number, last: number) => Promise<Readable | null>,
  { method, caching }: { method: string; caching: string } = { method: 'GET', caching: 'private, no-cache' },
): Promise<RecipientAnswer | null> =>
  deliverFile(
    { method, header },
    { length: film.bytes, etag: `"${film.hash.slice(0, 22)}"`, headers: filmHeaders(film.type) },
    caching,
    part,
  );
