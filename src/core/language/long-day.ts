import type { Language } from './language';

// Making a format takes longer than a short mail.
const formats = new Map<string, Intl.DateTimeFormat>();
const MOST_FORMATS = 500;

/** An instant (milliseconds, UTC) as a day of a zone, as a language writes it out; English as it is written where our words are from. */
export function longDayIn(language: Language, timeZone: string, at: number): string {
  const key = `${language} ${timeZone}`;
  let format = formats.get(key);
  if (!format) {
    if (formats.size >= MOST_FORMATS) formats.clear();
    format = new Intl.DateTimeFormat(language === 'en' ? 'en-GB' : language, { dateStyle: 'long', timeZone });
    formats.set(key, format);
  }
  return format.format(at);
}
