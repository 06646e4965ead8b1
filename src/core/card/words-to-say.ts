import { shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import type { Language } from '@/core/language';
import { detailOf, goesOut } from './card';
import { NAME_LINE } from './channels';
import { labelOf, nameOn } from './compose';
import { wordKey, wordsOf } from './languages';
import type { Draft } from './schema';

/** A text of a card that can be said in a further language: its place, what it says first, and what the record has for it. */
export type WordToSay = {
  key: string;
  what: 'name' | 'label' | 'line' | 'block';
  text: string;
  long: boolean;
  known: string;
};

/** Kinds whose value is the same in every language, or written by us in each. */
const WITHOUT_WORDS = new Set<Detail['kind']>([
  'phone',
  'email',
  'link',
  'birthday',
  'hours',
  'photo',
  'logo',
  'licence',
]);

/** The texts of a draft that go out and that somebody has worded: labels of their own, values in words, and those of blocks. */
export function wordsToSay(draft: Draft, record: PersonRecord, language: Language): WordToSay[] {
  const words: WordToSay[] = [];
  const push = (key: string, what: WordToSay['what'], text: string, known = '', long = false) =>
    text && words.push({ key, what, text, known, long });
  for (const line of draft.lines) {
    if (line.detail === NAME_LINE) {
      push(
        wordKey(NAME_LINE, 'wording'),
        'name',
        writtenName(nameOn(record, line)),
        line.wording ? '' : record.name.further?.[language],
      );
      continue;
    }
    const detail = detailOf(line, record);
    if (!detail || !goesOut(line)) continue;
    // A label in our own words is translated by us.
    if (line.label || detail.label) push(wordKey(line.detail, 'label'), 'label', labelOf(line, detail));
    if (!WITHOUT_WORDS.has(detail.kind))
      push(
        wordKey(line.detail, 'wording'),
        'line',
        line.wording ?? shownValue(detail),
        line.wording ? '' : detail.further?.[language],
      );
  }
  for (const block of draft.blocks)
    if (block.on) for (const { key, text, long } of wordsOf(block)) push(key, 'block', text, '', long);
  return words;
}
