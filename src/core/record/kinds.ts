/** What a phone, an address or a mail box is used for; `text` says that its holder reads text messages there. */
export const USES = ['mobile', 'work', 'home', 'fax', 'emergency', 'text', 'pager', 'video'] as const;
export type Use = (typeof USES)[number];

/** Kinds of details that are one line of text. */
export const TEXT_KINDS = [
  'title',
  'role',
  'licence',
  'credential',
  'pronouns',
  'said',
  'nickname',
  'language',
  'category',
] as const;
export type TextKind = (typeof TEXT_KINDS)[number];

/** What a link is for. */
export const PURPOSES = ['web', 'booking', 'payment', 'chat', 'profile', 'map', 'catalogue'] as const;
export type Purpose = (typeof PURPOSES)[number];

/** A date, or what is known of one: `1984-06`, `1984`, `--06-30`, `--06`, `---30` (ISO 8601:2000 as RFC 6350 4.3.1 takes it). */
export const BIRTHDAY =
  /^(\d{4}(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?|--(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?|---(0[1-9]|[12]\d|3[01]))$/;
