/** What the audit trail tells of, in the words that its reader sees. Each is written by the service that did it. */
export const ACTS = {
  'account.made': 'made the account',
  'session.begun': 'signed in',
  'password.changed': 'changed their password',
  'member.added': 'added a member',
  'member.changed': 'changed a member',
  'member.password-set': 'set a first password for a member',
  'member.removed': 'removed a member',
  'record.made': 'made a record',
  'record.imported': 'imported a record',
  'record.changed': 'changed a record',
  'photo.added': 'gave a photo',
  'card.made': 'made a card',
  'card.changed': 'changed a card',
  'card.published': 'published a card',
  'address.set': 'set a short address',
  'hand-out.made': 'made a hand-out',
  'job.asked': 'asked for a job',
  'job.cancelled': 'cancelled a job',
} as const;

export type Act = keyof typeof ACTS;

/** What an act was done to. */
export const SUBJECT_KINDS = ['record', 'card', 'hand-out', 'member', 'job', 'picture', 'organisation'] as const;
export type SubjectKind = (typeof SUBJECT_KINDS)[number];
