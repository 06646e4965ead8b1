import type { Knex } from 'knex';
import type { Tx } from '../pool';
import { alsoBy } from './pictures';

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
  also_by?: string[];
};

export const insertFilm = (tx: Tx, row: FilmRow) =>
  tx('films').insert(row).onConflict(['organisation_id', 'hash']).merge(alsoBy(tx, 'films'));

/** Takes away rows of pictures and films that nothing of their organisation names since an instant; answers with those at fault. */
export const forgetUnnamedRows = async (db: Knex, before: Date): Promise<{ organisation_id: string; code: string }[]> =>
  (
    await db.raw<{ rows: { organisation_id: string; code: string }[] }>('SELECT * FROM forget_unnamed_files(?)', [
      before,
    ])
  ).rows;

/** Which of these files any row names. */
export const namedOf = async (db: Knex, hashes: string[]): Promise<string[]> =>
  (await db.raw<{ rows: { hash: string }[] }>('SELECT files_named(?) AS hash', [hashes])).rows.map(({ hash }) => hash);

export const filmsBy = async (tx: Tx, hashes: string[]): Promise<FilmRow[]> =>
  hashes.length === 0 ? [] : tx('films').whereIn('hash', hashes);
