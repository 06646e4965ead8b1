export {
  closedIn,
  hasWords,
  kindIn,
  loadWords,
  say,
  sayNotice,
  TEXTS,
  wordOfUse,
  wordsIn,
  type NoticeText,
  type RecipientText,
} from './recipient';
