import type { Tx } from '../pool';

export type PictureRow = {
  organisation_id: string;
  hash: string;
  width: number;
  height: number;
  page_hash: string;
  file_hash: string;
  /** Who gave it; null of older ones. */
  added_by: string | null;
  also_by?: string[];
  /** Of all its sizes together; 0 of pictures older than this column. */
  bytes: number;
  /** Its lighter forms in the file store, those that were made: of the size that pages show, and of the whole for a page that it fills. */
  page_avif: string | null;
  broad_avif: string | null;
  page_webp: string | null;
  /** As mails show it, on whatever ground. */
  mail_png: string | null;
};
export type PictureForm = 'page_avif' | 'broad_avif' | 'page_webp' | 'mail_png';

export type BytesKept = { pictures: number; films: number; imports: number; artworks: number };

export async function bytesKept(tx: Tx): Promise<BytesKept> {
  const { rows } = await tx.raw<{ rows: Record<keyof BytesKept, string>[] }>(
    `SELECT (SELECT coalesce(sum(bytes), 0) FROM pictures) AS pictures, (SELECT coalesce(sum(bytes), 0) FROM films) AS films,
       (SELECT coalesce(sum(bytes), 0) FROM imports WHERE file IS NOT NULL) AS imports, (SELECT coalesce(sum(bytes), 0) FROM artworks) AS artworks`,
  );
  const { pictures, films, imports, artworks } = rows[0]!;
  const kept = { pictures: Number(pictures), films: Number(films), imports: Number(imports) };
  return { ...kept, artworks: Number(artworks) };
}

export const insertPicture = (tx: Tx, row: Omit<PictureRow, PictureForm>) =>
  tx('pictures').insert(row).onConflict(['organisation_id', 'hash']).merge(alsoBy(tx, 'pictures'));

/** Who gives a file that is there already has it as well. */
export const alsoBy = (tx: Tx, table: 'pictures' | 'films') => ({
  also_by:
    tx.raw(`CASE WHEN excluded.added_by IS NULL OR excluded.added_by IS NOT DISTINCT FROM ${table}.added_by OR excluded.added_by = ANY(${table}.also_by)
    THEN ${table}.also_by ELSE ${table}.also_by || excluded.added_by END`),
});

/** Whether somebody gave a file. */
export const gaveIt = (row: { added_by: string | null; also_by?: string[] }, userId: string): boolean =>
  row.added_by === userId || (row.also_by ?? []).includes(userId);

/** Notes a lighter form of a picture, named by its hash. */
export const setForm = (tx: Tx, hash: string, form: PictureForm, file: string) =>
  tx('pictures')
    .where({ hash })
    .update({ [form]: file });

export const picturesBy = async (tx: Tx, hashes: string[]): Promise<PictureRow[]> =>
  hashes.length === 0 ? [] : tx('pictures').whereIn('hash', hashes);

export const picture = async (tx: Tx, hash: string): Promise<PictureRow | undefined> =>
  tx('pictures').where({ hash }).first();
