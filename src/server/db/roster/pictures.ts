import type { Problem } from '@/core/errors';
import type { Crop } from '@/core/record';
import type { Tx } from '../pool';

/** A picture that came with a run, by its file name; none where it could not be read, with the reason. */
export type RosterPicture = {
  organisation_id: string;
  run_id: string;
  file_name: string;
  /** The whole picture, and the square that was cut from it. */
  picture: string | null;
  square: string | null;
  crop: Crop | null;
  width: number | null;
  height: number | null;
  problem: Problem | null;
};

export const keepRosterPicture = (tx: Tx, row: RosterPicture) =>
  tx('roster_pictures')
    .insert({
      ...row,
      crop: row.crop ? JSON.stringify(row.crop) : null,
      problem: row.problem ? JSON.stringify(row.problem) : null,
    })
    .onConflict(['run_id', 'file_name'])
    .merge();

export const rosterPictures = async (tx: Tx, runId: string): Promise<RosterPicture[]> =>
  tx('roster_pictures').where({ run_id: runId }).orderBy('file_name');

/** Those of a run with these file names. */
export const rosterPicturesNamed = async (tx: Tx, runId: string, names: string[]): Promise<RosterPicture[]> =>
  tx('roster_pictures').where({ run_id: runId }).whereIn('file_name', names);

export const rosterPicture = async (tx: Tx, runId: string, name: string): Promise<RosterPicture | undefined> =>
  tx('roster_pictures').where({ run_id: runId, file_name: name }).first();
