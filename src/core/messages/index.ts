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

/** A text of ours with what it names filled in; what is named and not given stays as it is. */
export const filled = (text: string, values: Readonly<Record<string, string | number>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => (name in values ? String(values[name]) : whole));
