import type { Finding } from '@/core/findings';
import { HouseStyleSchema, type HouseStyle } from '@/core/house';
import type { Tx } from '../pool';

export type HouseRow = {
  organisation_id: string;
  number: number;
  style: HouseStyle;
  note: string;
  saved_by: string | null;
  saved_at: Date;
};

export type FailingProof = {
  card_id: string;
  revision: number;
  channel: 'page' | 'contact file';
  check_name: string;
  finding: Finding;
};

/** Cards, of all or of these, that are out and fail their proof under the house style, with the person of each; what was published since is not among them. */
export const failingProofs = async (
  tx: Tx,
  of: string[] | 'all' = 'all',
): Promise<(FailingProof & { person: string; audience: string })[]> =>
  tx('failing_proofs as f')
    .modify((query) => {
      if (of !== 'all') query.whereIn('f.card_id', of);
    })
    .join('cards as c', 'c.id', 'f.card_id')
    .join('records as p', 'p.id', 'c.record_id')
    .where('c.state', 'published')
    .whereRaw('f.revision = (SELECT max(number) FROM revisions r WHERE r.card_id = f.card_id)')
    .orderBy('p.written_name')
    .select(
      'f.card_id',
      'f.revision',
      'f.channel',
      'f.check_name',
      'f.finding',
      'p.written_name as person',
      'c.audience',
    );

/** Writes down which of these cards fail, in place of what was known of them. */
export async function writeFailingProofs(
  tx: Tx,
  organisationId: string,
  proven: string[],
  failing: FailingProof[],
): Promise<void> {
  await tx('failing_proofs').whereIn('card_id', proven).delete();
  if (failing.length > 0)
    await tx('failing_proofs').insert(
      failing.map((row) => ({ ...row, organisation_id: organisationId, finding: JSON.stringify(row.finding) })),
    );
}

const read = (row: HouseRow | undefined): HouseRow | undefined =>
  row && { ...row, style: HouseStyleSchema.parse(row.style) };

/** The version of the house style that holds; undefined where there is none. */
export const latestHouse = async (tx: Tx): Promise<HouseRow | undefined> =>
  read(await tx('house_styles').orderBy('number', 'desc').first());

/** Names the house style and the office that hold for a record, by their versions. */
export const houseSeal = async (tx: Tx, recordId: string): Promise<string> =>
  (
    await tx.raw<{ rows: { seal: string }[] }>(
      `SELECT concat_ws(' ', (SELECT max(number) FROM house_styles), o.id, o.number) AS seal
       FROM records r LEFT JOIN offices o ON o.id = r.office_id WHERE r.id = ?`,
      [recordId],
    )
  ).rows[0]?.seal ?? '';

/** Whether the house style that holds shows a file. `hash` is 64 hexadecimal digits. */
export const shownByHouse = async (tx: Tx, hash: string): Promise<boolean> =>
  (await tx('house_styles')
    .whereRaw('number = (SELECT max(number) FROM house_styles)')
    .whereRaw('style::text LIKE ?', [`%${hash}%`])
    .first('number')) !== undefined;

export const houseVersions = async (
  tx: Tx,
): Promise<(Pick<HouseRow, 'number' | 'note' | 'saved_at'> & { who: string | null })[]> =>
  tx('house_styles as h')
    .leftJoin('users as u', 'u.id', 'h.saved_by')
    .orderBy('h.number', 'desc')
    .select('h.number', 'h.note', 'h.saved_at', 'u.name as who');

export const houseVersion = async (tx: Tx, number: number): Promise<HouseRow | undefined> =>
  read(await tx('house_styles').where({ number }).first());

export const insertHouse = (tx: Tx, row: HouseRow) =>
  tx('house_styles').insert({ ...row, style: JSON.stringify(row.style) });
