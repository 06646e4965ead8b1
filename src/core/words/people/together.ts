import { plural } from '@/core/language';

/** Cards of several people in one file for print. */
export const TOGETHER = {
  print: 'Print cards or codes',
  title: (count: number) => plural(count, { one: 'Print for one person', other: 'Print for # people' }),
  what: 'What is printed',
  kinds: { cards: 'Cards', codes: 'Codes with names' },
  codesNote:
    'Each person’s code with name, title and firm beside it, many on a sheet: to cut out, or on sheets of labels.',
  codesAt: 'Sheet of codes',
  whereHint: 'as in “autumn”',
  copies: 'Copies of each',
  copiesNote: 'Noted with each card, so that you see later how many are out. 0 notes nothing.',
  note: 'Each person’s first published card, with a code of its own. What cannot be printed is left out and listed with the reason.',
  ask: 'Make the file',
} as const;
