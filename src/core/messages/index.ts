export { NOTICE_TEXTS, sayNotice, type NoticeText } from './notices';
export { directionOf, LANGUAGE_NAMES, LANGUAGES, pickLanguage, type Language } from './language';
export { kindIn, labelIn, RECIPIENT_TEXTS, say, wordOfUse, type RecipientText } from './recipient';
export * from './studio';
