import { plural } from '@/core/language';

/** What a piece is made of, for whoever designs it elsewhere. */
export const DESIGNER = {
  title: 'For a print design',
  heading: 'For a designer',
  note: 'The code, texts, colours and measures as one package, behind a link that ends by itself.',
  make: 'Make a link',
  days: 'It holds for',
  forDays: (days: number) => plural(days, { one: '# day', other: '# days' }),
  once: 'Copy it now: it is not shown again.',
  copy: 'Copy the link',
  until: (day: string) => `The link holds until ${day}.`,
  told: (day: string, fetched: number, over: boolean) =>
    `${over ? `ended ${day}` : `until ${day}`}, ${fetched === 0 ? 'not fetched' : plural(fetched, { one: 'fetched once', other: 'fetched # times' })}`,
  end: (day: string) => `End the link that holds until ${day}`,
  ended: 'Whoever sent it can make a new one.',
  holds: 'In the package:',
  files: [
    ['code.svg, code.pdf', 'the code as vectors, its margin in'],
    ['texts.txt', 'what stands on it'],
    ['colours.txt', 'its colours, and the inks where the brand has some'],
    ['measures.txt', 'the size, bleed and margins, and how small the code may be'],
  ] as const satisfies readonly (readonly [string, string])[],
  fetch: 'Download the package',
} as const;
