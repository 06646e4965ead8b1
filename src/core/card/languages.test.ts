import type { PersonRecord } from '@/core/record';
import { freshBlock } from './blocks/fresh-block';
import { lineOf } from './card';
import { compose, NO_PARTS } from './compose';
import { NAME_LINE } from './channels';
import { NOWHERE } from './first-ticks';
import { saidIn, wordsOf } from './languages';
import type { Block } from './blocks/blocks';

const OUT = { ...NOWHERE, page: true, file: true };
const person: PersonRecord = {
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details: [
    {
      kind: 'own',
      id: 'a',
      label: '',
      preferred: false,
      text: '2 Lower Station Yard',
      further: { de: 'Unterer Bahnhof 2' },
    },
  ],
  kept: [],
};
const inGerman = (wording: string | null, own: Record<string, string> = {}) => {
  const lines = [lineOf(NAME_LINE, OUT), { ...lineOf('a', OUT), wording }];
  const composed = compose(person, lines, 'GB', 'en', { ...NO_PARTS, words: { de: own } });
  if (!composed.ok) throw new Error(composed.problem.code);
  return JSON.stringify(saidIn(composed.value, 'de'));
};

test('what a card has reworded away comes back in no language; words of the card go before the record’s', () => {
  expect(inGerman(null)).toContain('Unterer Bahnhof 2');
  expect(inGerman('At the station')).toContain('At the station');
  expect(inGerman('At the station')).not.toContain('Bahnhof');
  expect(inGerman('At the station', { 'a/wording': 'Am Bahnhof' })).toContain('Am Bahnhof');
});

test('an entry whose picture was taken out does not ask the page for what the picture showed', () => {
  const item = { id: 'i', picture: null, alt: 'Car 7', title: 'The station', text: '', url: '' };
  const block = { ...freshBlock('gallery', () => 'g'), items: [item] } as Block;
  expect(wordsOf(block).map(({ text }) => text)).toEqual(['The station']);
});
