export {
  directionOf,
  languageName,
  OUR_LANGUAGES,
  ourLanguage,
  pickLanguage,
  readLanguage,
  scriptOf,
  type Language,
} from './language';
export {
  closedIn,
  hasWords,
  kindIn,
  labelIn,
  loadWords,
  say,
  sayNotice,
  TEXTS,
  wordOfUse,
  type NoticeText,
  type RecipientText,
} from './recipient';
export * from './studio';
