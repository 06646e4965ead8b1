/** What the audit trail tells of. Each is written by the service that did it. */
export const ACTS = [
  'account.made',
  'session.begun',
  'password.changed',
  'member.added',
  'member.changed',
  'member.password-set',
  'member.removed',
  'record.made',
  'record.imported',
  'record.changed',
  'record.removed',
  'photo.added',
  'import.begun',
  'import.taken',
  'import.undone',
  'contacts.exported',
  'card.made',
  'card.changed',
  'card.published',
  'card.state-set',
  'card.planned',
  'film.added',
  'prefix.set',
  'wording.adopted',
  'preview.made',
  'audiences.changed',
  'address.set',
  'hand-out.made',
  'job.asked',
  'job.cancelled',
] as const;

export type Act = (typeof ACTS)[number];

/** What an act was done to. */
export const SUBJECT_KINDS = [
  'record',
  'card',
  'hand-out',
  'member',
  'job',
  'picture',
  'film',
  'import',
  'organisation',
] as const;
export type SubjectKind = (typeof SUBJECT_KINDS)[number];
