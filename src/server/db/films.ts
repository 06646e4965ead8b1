import type { Tx } from './pool';

/** A film or its captions in the file store. Pixels and seconds as the file tells them; null of captions. */
export type FilmRow = {
  organisation_id: string;
  hash: string;
  type: 'video/mp4' | 'video/webm' | 'text/vtt';
  bytes: number;
  width: number | null;
  height: number | null;
  seconds: number | null;
  added_by: string | null;
};

export const insertFilm = (tx: Tx, row: FilmRow) =>
  tx('films').insert(row).onConflict(['organisation_id', 'hash']).ignore();

export const filmsBy = async (tx: Tx, hashes: string[]): Promise<FilmRow[]> =>
  hashes.length === 0 ? [] : tx('films').whereIn('hash', hashes);
