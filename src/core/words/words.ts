import { figure, plural } from '@/core/language';
/** Choosing a language. */
export const LANGUAGES_WORDS = {
  hint: 'e.g. Polish',
  add: 'Add',
  other: 'Another language …',
  unknown: 'No language is called that. Type its name in English or in itself, or its tag, such as pt-BR.',
  taken: (name: string) => `${name} is here already.`,
};

/** A card's words, and a record's values, in further languages. */
export const WORDS = {
  title: 'Languages',
  one: 'Our own words follow the recipient’s phone. Add a language to say the card’s words in it as well.',
  several: (names: string[]) => `The recipient’s browser chooses among ${names.join(', ')}; the page shows a switch.`,
  add: 'Add a language',
  addOne: (name: string) => `Add ${name}`,
  first: 'The card’s first words are in',
  open: (language: string, done: number, of: number) =>
    `${language}: ${figure(done)} of ${plural(of, { one: '# text', other: '# texts' })}`,
  take: (language: string) => `Remove ${language} from the card`,
  text: 'Text',
  in: (language: string) => `In ${language}`,
  says: (text: string, language: string) => `${text} in ${language}`,
  fromRecord: (text: string) => `the record has: ${text}`,
  nothing: 'Tick lines or add blocks with words first; then they appear here.',
  label: (label: string) => `Label “${label}”`,
  name: 'Name',
  clash: (theirs: string) => `Somebody else has set this to “${theirs}”.`,
  inLanguages: 'In other languages',
  inLanguagesNote:
    'A name in another script, a title in other words. Shown where a card is had in that language, and carried in contact files of version 4.0.',
};
