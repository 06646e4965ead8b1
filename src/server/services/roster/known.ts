import { writtenName, type DetailKind } from '@/core/record';
import {
  judgeRow,
  keyOf,
  nameOfRow,
  readRow,
  staffKey,
  type Cells,
  type DateOrder,
  type Decision,
  type Known,
  type RowRead,
} from '@/core/roster';
import type { Tx } from '@/server/db/pool';
import { officeNames } from '@/server/db/house/offices';
import type { JudgedRow } from '@/server/db/roster/rows';
import { namesakes, staffById, staffByMail, staffByNumber, type StaffRow } from '@/server/db/roster/staff';
import type { RosterPicture } from '@/server/db/roster/pictures';
import type { Actor } from '@/server/services/accounts/actor';
import { houseOfOrganisation } from '@/server/services/house/house-style';

export type RowToJudge = { at: number; cells: Cells; decision: Decision; picture: string | null };
export type OwnedKinds = Partial<Record<'name' | DetailKind, unknown>>;
export type PictureByFile = ReadonlyMap<string, Pick<RosterPicture, 'picture'>>;

/** Offices by their names in lower case. */
export const officesByName = async (tx: Tx): Promise<ReadonlyMap<string, string>> =>
  new Map((await officeNames(tx)).map(({ id, name }) => [name.toLowerCase(), id]));

export const knownFrom = (row: StaffRow): Known => ({
  record: row.body,
  written: row.roster.written ?? {},
  staffNumber: row.staff_number,
  joins: row.joins_on,
  leaves: row.leaves_on,
  teams: row.teams,
  office: row.office,
});

export const readCells = (cells: Cells, actor: Actor, order: DateOrder): RowRead =>
  readRow(cells, { country: actor.organisation.country, order });

/** What belongs to the organisation: of that a sheet has the last word. */
export const ownedKinds = async (tx: Tx): Promise<OwnedKinds> => (await houseOfOrganisation(tx))?.style.owned ?? {};

/** The picture that a record shows, as it was given, before anything was cut from it. */
export const photoOf = ({ body }: Pick<StaffRow, 'body'>): { shown: string; from: string } | null => {
  const photo = body.details.find(({ kind }) => kind === 'photo');
  return photo?.kind === 'photo' ? { shown: photo.picture, from: photo.crop?.from ?? photo.picture } : null;
};

/** Whether a picture that came with a run takes the place of the record's: there is none, a roster gave it, or photos are the organisation's. */
export function takesPicture(row: StaffRow, picture: string, owned: OwnedKinds): 'takes' | 'same' | 'kept' {
  const photo = photoOf(row);
  if (!photo) return 'takes';
  if (photo.from === picture) return 'same';
  return owned.photo !== undefined || row.roster.written?.photo?.said === photo.shown ? 'takes' : 'kept';
}

/** Whom a row's key names today, and whom it may be mistaken for. */
export async function whoIs(
  tx: Tx,
  read: RowRead,
  decision: Decision,
): Promise<{ known: StaffRow | null; namesakes: string[] }> {
  return (await whoAre(tx, [{ read, decision }]))[0]!;
}

async function whoAre(
  tx: Tx,
  rows: { read: RowRead; decision: Decision }[],
): Promise<{ known: StaffRow | null; namesakes: string[] }[]> {
  const numbers = await staffByNumber(
    tx,
    rows.flatMap(({ read }) => read.staffNumber ?? []),
  );
  const byMail = await staffByMail(
    tx,
    rows.flatMap(({ read }) => read.mail ?? []),
  );
  const named = await namesakes(
    tx,
    rows.flatMap(({ read }) => (read.name ? [writtenName(read.name)] : [])),
  );
  return Promise.all(
    rows.map(async ({ read, decision }) => {
      const byNumber = read.staffNumber === null ? undefined : numbers.get(staffKey(read.staffNumber));
      const mailed = read.mail === null ? undefined : byMail.get(read.mail);
      // A number of another person's never gives way to a mail address.
      const sameMail = mailed && (read.staffNumber === null || mailed.staff_key === null) ? mailed : undefined;
      const known = byNumber ?? sameMail;
      const like = (read.name && named.get(writtenName(read.name).toLowerCase())) ?? [];
      if (decision === 'new') return { known: null, namesakes: like };
      if (!known && decision === 'known' && like.length === 1)
        return { known: (await staffById(tx, like[0]!)) ?? null, namesakes: like };
      return { known: known ?? null, namesakes: like };
    }),
  );
}

/** Judges rows of a run against everybody who is known today. `twice` are rows of the same key, by their places. */
export async function judgeRows(
  tx: Tx,
  rows: (RowToJudge & { read: RowRead })[],
  { twice, owned, pictures }: { twice: ReadonlyMap<number, number[]>; owned: OwnedKinds; pictures: PictureByFile },
): Promise<JudgedRow[]> {
  const who = await whoAre(tx, rows);
  const offices = await officesByName(tx);
  return rows.map(({ at, read, decision, picture }, index) => {
    const { known, namesakes: like } = who[index]!;
    const judged = judgeRow(read, {
      known: known && knownFrom(known),
      namesakes: like.length,
      twice: twice.get(at) ?? null,
      offices,
      decision,
      owned,
    });
    const file = picture === null ? undefined : pictures.get(picture);
    if (known && file?.picture) {
      const takes = takesPicture(known, file.picture, owned);
      if (takes === 'takes') judged.changes.push({ of: 'picture', was: '', is: picture! });
      if (takes === 'kept') judged.remarks.push({ field: 'picture', code: 'kept' });
      if (takes === 'takes' && judged.verdict === 'same') judged.verdict = 'changed';
    }
    return {
      ...{ at, key: keyOf(read), ...judged },
      name: read.name === null && known ? writtenName(known.body.name) : nameOfRow(read),
      take: judged.verdict === 'new' || judged.verdict === 'changed' || judged.verdict === 'leaving',
      record_id: known?.id ?? null,
      picture,
    };
  });
}
