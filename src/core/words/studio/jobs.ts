import { plural } from '@/core/language';
import type { JobState, ShownJob, Task } from '@/core/jobs';

/** Each task: what it does and what it counts. */
export const TASK_WORDS: Record<Task, { does: string; counts: string }> = {
  'read-contacts': { does: 'Reads a contact file', counts: 'contacts' },
  'take-contacts': { does: 'Imports contacts', counts: 'contacts' },
  'undo-contacts': { does: 'Undoes an import', counts: 'contacts' },
  'prove-cards': { does: 'Proves the cards under the house style', counts: 'cards' },
  'print-cards': { does: 'Prints cards of several people into one file', counts: 'people' },
  'pack-files': { does: 'Makes one ZIP of people’s files', counts: 'people' },
  'invite-people': { does: 'Invites people to sign in', counts: 'people' },
  'change-many': { does: 'Changes one thing for many people', counts: 'people' },
  'undo-change': { does: 'Undoes a change of many people', counts: 'people' },
  'mend-privacy': { does: 'Mends what is private in public', counts: 'people' },
  'undo-mend': { does: 'Undoes a mend of what is private', counts: 'entries' },
  'review-roster': { does: 'Reads a sheet of staff', counts: 'rows' },
  'run-roster': { does: 'Carries out a sheet of staff', counts: 'people' },
  'undo-roster': { does: 'Undoes a sheet of staff', counts: 'people' },
};

export const JOBS = {
  page: 'Job',
  state: {
    waiting: 'waiting',
    running: 'running',
    done: 'done',
    failed: 'failed',
    cancelled: 'cancelled',
  } satisfies Record<JobState, string>,
  noneTitle: 'No jobs yet',
  noneText:
    'Work that takes longer, such as importing a whole address book, appears here with its progress and can be stopped.',
  takeIn: 'Import a contact file',
  note: (timeZone: string) => `Times of ${timeZone}. A job that fails is tried five times, waiting longer each time.`,
  column: { asked: 'Asked for', by: 'By', job: 'Job', state: 'State', progress: 'Progress', tries: 'Tries' },
  stop: 'Stop',
  done: {
    'read-contacts': 'The contacts wait for review: nothing is imported before somebody has seen them.',
    'take-contacts': 'The chosen contacts were imported.',
    'undo-contacts': 'The import was undone.',
    'prove-cards': 'The published cards were proven under the house style, with the lines of their offices.',
    'print-cards': 'The file is there. Look at one page before all of it is printed.',
    'pack-files': 'The ZIP is there, with a list of every file and its proof.',
    'invite-people': 'The invitations are on their way. Members tells who has come.',
    'change-many': 'The change is made. Published cards show it.',
    'undo-change': 'People and cards say again what they said before.',
    'mend-privacy': 'What could be mended is mended. Copies out there that still say it are under Copies out there.',
    'undo-mend': 'The cards and records say again what they said before.',
    'review-roster': 'The sheet waits for review: nothing is written before somebody has seen it.',
    'run-roster': 'The sheet was carried out. What became of each row is told there.',
    'undo-roster': 'The run was undone. What somebody changed since is as they left it.',
  } satisfies Record<Task, string>,
  stays: 'What was done before it ended remains.',
  download: (name: string) => `Download ${name}`,
  fileNote: (kilobytes: string, days: number) =>
    `${kilobytes} KB. It is kept for ${plural(days, { one: 'a day', other: '# days' })}, or until somebody on it is erased.`,
  noFile: 'No card could be printed.',
  leftOut: 'Left out',
  somebody: 'somebody who was deleted',
  noCard: 'No published card.',
  toHouse: 'To the house style',
  toContacts: 'To the contacts of the file',
  toRoster: 'To the sheet',
  mayLeave: 'You may leave this page; the work goes on, and Jobs tells when it is done.',
};

/** What goes wrong by itself, on the owner's page. */
export const FAULTS = {
  title: 'Goes wrong by itself',
  note: 'Nobody has to do anything for these to be tried again. If one stays, tell whoever runs Heathland its code.',
  sweep: {
    'visitor secrets': 'Forgetting who visited: the organisation’s time zone is not known here',
    plans: 'A planned card could not be published or ended',
    invitations: 'Somebody who was invited could not be reminded',
    evening: 'Somebody could not be told in the evening who came',
    leavers: 'Somebody’s last day has come, and their cards could not be put to rest',
    'event inbox': 'What a recipient did could not be counted',
    figures: 'The figures of a day could not be counted',
    mail: 'A mail could not be sent and was given up',
    files: 'Files that nothing shows any more could not be removed',
  } as Record<string, string | undefined>,
  column: { what: 'What', since: 'Since', last: 'Last time', times: 'Times', code: 'Code' },
};

/** A sentence on how far a job is. */
export function progressOf(
  job: Pick<ShownJob, 'task' | 'state' | 'done' | 'total' | 'attempts' | 'cancelAsked'>,
): string {
  const { counts } = TASK_WORDS[job.task];
  const count = job.total === null ? '' : `${job.done} of ${job.total} ${counts}`;
  if (job.state === 'running') return job.cancelAsked ? `stopping after ${count}` : count || 'begins';
  if (job.state === 'waiting') return job.attempts > 0 ? `waits to be tried again, ${count}` : 'waits its turn';
  return job.state === 'done' ? count : `${JOBS.state[job.state]} after ${count || 'nothing'}`;
}
