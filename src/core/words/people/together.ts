import { figure } from '@/core/language';

/** Cards of several people in one file for print. */
export const TOGETHER = {
  print: 'Print cards',
  title: (count: number) =>
    count === 1 ? 'Print the card of one person' : `Print the cards of ${figure(count)} people`,
  whereHint: 'as in “cards, autumn”',
  copies: 'Copies of each',
  copiesNote: 'Noted with each card, so that you see later how many are out. 0 notes nothing.',
  note: 'Each person’s first published card, with a code of its own. What cannot be printed is left out and listed with the reason.',
  ask: 'Make the file',
} as const;
