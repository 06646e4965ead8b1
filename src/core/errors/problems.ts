import type { Finding } from '@/core/findings';
import type { PasswordWeakness } from './weakness';

/**
 * The closed catalogue of what can go wrong, each code with its data. The wording by code stands in `wording.ts`.
 * Data never holds a person's details: an error may be logged.
 */
export type Problem =
  | { code: 'INPUT'; field: string }
  | { code: 'TEXT_TOO_LONG'; limit: number }
  | { code: 'NAME_MISSING' }
  | { code: 'PHONE_UNREADABLE' }
  | { code: 'EMAIL_UNREADABLE' }
  | { code: 'LINK_UNREADABLE' }
  | { code: 'LINK_SCHEME_REFUSED'; scheme: string }
  | { code: 'BIRTHDAY_UNREADABLE' }
  | { code: 'HOURS_UNREADABLE' }
  | { code: 'WORDING_NOT_POSSIBLE' }
  | { code: 'TOO_MANY_DETAILS'; limit: number }
  | { code: 'NOT_A_CONTACT_FILE' }
  | { code: 'CONTACT_FILE_EMPTY' }
  | { code: 'TOO_MANY_CONTACTS'; limit: number; found: number }
  | { code: 'FILE_TOO_LARGE'; limitBytes: number }
  | { code: 'ARCHIVE_UNREADABLE' }
  | { code: 'NOT_A_SHEET' }
  | { code: 'SHEET_OLD' }
  | { code: 'SHEET_UNREADABLE' }
  | { code: 'SHEET_EMPTY' }
  | { code: 'SHEET_TOO_LARGE'; limitBytes: number }
  | { code: 'NO_HEADINGS' }
  | { code: 'TOO_MANY_ROWS'; limit: number; found: number }
  | { code: 'NO_KEY_COLUMN' }
  | { code: 'RUN_BUSY' }
  | { code: 'RUN_ENDED' }
  | { code: 'MAPPINGS_FULL'; limit: number }
  | { code: 'TEAMS_FULL'; limit: number }
  | { code: 'TEAM_THERE' }
  | { code: 'OFFICES_FULL'; limit: number }
  | { code: 'OFFICE_THERE' }
  | { code: 'OFFICE_CHANGED' }
  | { code: 'CARD_UNPUBLISHED' }
  | { code: 'CARD_PLANNED' }
  | { code: 'NO_HOUSE' }
  | { code: 'HAS_LEFT' }
  | { code: 'HAS_ACCOUNT' }
  | { code: 'NO_WORK_MAIL' }
  | { code: 'CODE_UNREADABLE' }
  | { code: 'PICTURE_UNREADABLE' }
  | { code: 'PICTURE_HEIC' }
  | { code: 'PICTURE_TOO_LARGE'; limitMegapixels: number }
  | { code: 'DRAWING_TOO_COMPLEX'; elements: number; depth: number }
  | { code: 'DESIGN_UNREADABLE' }
  | { code: 'DESIGN_LOCKED' }
  | { code: 'ARTWORK_UNREADABLE' }
  | { code: 'TAG_UNREADABLE' }
  | { code: 'TAG_LOCKED' }
  | { code: 'TAG_TOO_SMALL'; bytes: number; room: number }
  | { code: 'ARTWORK_LAYERS' }
  | { code: 'FILM_UNREADABLE' }
  | { code: 'TOO_MUCH_SHOWN'; lines: number; letters: number; mostLines: number; mostLetters: number }
  | { code: 'CAPTIONS_UNREADABLE'; line: number }
  | { code: 'FILE_GONE' }
  | { code: 'PLAN_IN_THE_PAST' }
  | { code: 'PLAN_ENDS_BEFORE' }
  | { code: 'REVISION_TOO_OLD' }
  | { code: 'HAND_OUT_TAKEN' }
  | { code: 'HAND_OUT_FIXED' }
  | { code: 'OCCASION_USED'; count: number }
  | { code: 'LOCKED'; part: string; reason: string }
  | { code: 'OWNED'; kind: string; reason: string }
  | { code: 'OVERRIDE_NOT_ALLOWED' }
  | { code: 'LAYOUT_NOT_ALLOWED' }
  | { code: 'CONTRAST_FAILS'; worst: number; needs: number; count: number }
  | { code: 'HOUSE_CHANGED' }
  | { code: 'STRIP_ENDS_BEFORE'; text: string }
  | { code: 'STRIP_UNFINISHED' }
  | { code: 'TOO_MANY_LOOKS'; limit: number }
  | { code: 'CONTACTS_FULL'; limit: number }
  | { code: 'LEADS_FULL'; limit: number }
  | { code: 'TOO_MANY_NOTES'; limit: number }
  | { code: 'ADDRESS_UNCONFIRMED' }
  | { code: 'TOO_MANY_RUNS'; limit: number }
  | { code: 'TOO_MANY_LINKS'; limit: number }
  | { code: 'TEMPLATES_FULL'; limit: number }
  | { code: 'HAND_OUT_THERE' }
  | { code: 'SPARES_FULL'; limit: number }
  | { code: 'CODE_NOT_SPARE' }
  | { code: 'CODE_GIVEN' }
  | { code: 'CODE_SPARE' }
  | { code: 'NOTHING_TICKED' }
  | { code: 'LOOK_NAME_TAKEN' }
  | { code: 'PREFIX_MISSING'; prefix: string }
  | { code: 'PREFIX_TAKEN' }
  | { code: 'TOO_MANY_ADDRESSES'; limit: number }
  | { code: 'QUOTA_FULL'; limitBytes: number }
  | { code: 'ADDRESS_SHAPE' }
  | { code: 'ADDRESS_LENGTH'; shortest: number; longest: number }
  | { code: 'ADDRESS_FOREIGN_LETTERS'; letters: string; suggestion: string }
  | { code: 'ADDRESS_RESERVED' }
  | { code: 'ADDRESS_TAKEN' }
  | { code: 'ADDRESS_LOOKS_LIKE_ANOTHER' }
  | { code: 'CARD_CHANGED'; version: number }
  | { code: 'RECORD_CHANGED'; version: number }
  | { code: 'CARD_NOT_PUBLISHED' }
  | { code: 'PASS_UNSIGNED'; fault: 'unreadable' | 'names nothing' | 'ended' }
  | { code: 'CARD_NOT_OUT' }
  | { code: 'TOO_MANY_CARDS'; limit: number }
  | { code: 'TOO_MANY_LINES'; limit: number }
  | { code: 'COLLEAGUE_NOT_OUT' }
  | { code: 'PREVIEW_EXPIRED' }
  | { code: 'CONTENT_TOO_LARGE'; bytes: number; room: number }
  | { code: 'CONTENT_EMPTY' }
  | { code: 'STYLE_DOES_NOT_READ'; read: number; of: number }
  | { code: 'NOTHING_ON_PAGE' }
  | { code: 'PROOF_FAILED'; channel: string; finding: Finding }
  | { code: 'NOT_FOUND' }
  | { code: 'NOT_ALLOWED' }
  | { code: 'ORGANISATION_DELETED' }
  | { code: 'CARD_DELETED' }
  | { code: 'TOO_MANY_REQUESTS'; seconds: number }
  | { code: 'TOO_BUSY'; seconds: number }
  | { code: 'TOO_LABORIOUS' }
  | { code: 'PASSWORD_MUST_CHANGE' }
  | { code: 'PASSWORD_SAME' }
  | { code: 'PASSWORD_WRONG' }
  | { code: 'LAST_OWNER' }
  | { code: 'TOO_MANY_MEMBERS'; limit: number }
  | { code: 'HOLDER_NEEDS_RECORD' }
  | { code: 'TOO_MANY_JOBS'; limit: number }
  | { code: 'JOB_ENDED' }
  | { code: 'IMPORT_BUSY' }
  | { code: 'IMPORT_ENDED' }
  | { code: 'NOTHING_CHOSEN' }
  | { code: 'PATTERN_UNREADABLE'; part: string }
  | { code: 'TOO_MANY_CHOSEN'; limit: number }
  | { code: 'STORE_FULL' }
  | { code: 'STORE_UNAVAILABLE' }
  | { code: 'MAIL_UNAVAILABLE' }
  | { code: 'MAIL_CLOSED' }
  | { code: 'LINK_ENDED' }
  | { code: 'EMAIL_UNCONFIRMED' }
  | { code: 'TOO_MUCH_MAIL'; limit: number }
  | { code: 'MAIL_REFUSED'; status: number }
  | { code: 'SIGNED_OUT' }
  | { code: 'SIGN_IN_FAILED' }
  | { code: 'EMAIL_IN_USE' }
  /** Accounts are made by whoever runs Heathland, or by an owner, as a setting says. */
  | { code: 'SIGN_UP_CLOSED' }
  | { code: 'PASSWORD_SHORT'; shortest: number }
  | { code: 'PASSWORD_LONG'; longest: number }
  | { code: 'PASSWORD_WEAK'; why: PasswordWeakness }
  | { code: 'PASSWORD_STALE' }
  | { code: 'SECOND_FACTOR_NEEDED' }
  | { code: 'SECOND_FACTOR_WRONG' }
  | { code: 'SECOND_FACTOR_REQUIRED' }
  | { code: 'SECOND_FACTOR_ON' }
  | { code: 'TIME_ZONE_UNKNOWN' }
  | { code: 'CROSS_SITE' }
  | { code: 'DATABASE_UNAVAILABLE' }
  | { code: 'OFFLINE' }
  | { code: 'UNEXPECTED' };

export type ProblemCode = Problem['code'];

export type Result<T> = { ok: true; value: T } | { ok: false; problem: Problem };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const err = (problem: Problem): { ok: false; problem: Problem } => ({ ok: false, problem });

const PASSING = new Set<ProblemCode>(['DATABASE_UNAVAILABLE', 'STORE_UNAVAILABLE', 'MAIL_UNAVAILABLE', 'TOO_BUSY']);
/** Whether a problem is gone in a moment, so that what ran into it is tried again. */
export const isTransient = ({ code }: Problem): boolean => PASSING.has(code);

/** What a service throws. Its message is the code alone, so that a log line cannot carry a person's details. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code);
    this.name = 'Refusal';
  }
}

/** The value of a result, or a thrown {@link Refusal}. */
export function orRefuse<T>(result: Result<T>): T {
  if (!result.ok) throw new Refusal(result.problem);
  return result.value;
}
