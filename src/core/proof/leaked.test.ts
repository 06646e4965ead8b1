import fc from 'fast-check';
import { CHANNELS, CompositionSchema } from '@/core/card';
import { writeCardAsMeCard, writeFrozenContact } from '@/core/vcard';
import { leakedIn } from './leaked';

const contact = (...lines: string[]) => ['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n');

test.each<[string, string, string]>([
  ['folded and spaced', contact('TEL:+44 20\r\n 7946 0182'), '+442079460182'],
  ['in other letters', contact('NOTE:Kest'), 'KEST'],
  // RFC 6350, 3.4: a line break is \n, and commas, semicolons and backslashes stand after a backslash.
  ['over two lines', contact('ADR:;;4 Lath Row\\nFlat 2;Tarnhope;;;'), '4 Lath Row\nFlat 2'],
  ['with what is escaped', contact('NOTE:Branch\\, two\\; \\\\n'), 'Branch, two; \\n'],
  [
    'in two properties that belong together',
    contact('X-PHONETIC-FIRST-NAME:ILL-zeh', 'X-PHONETIC-LAST-NAME:VAR-oh'),
    'ILL-zeh VAR-oh',
  ],
  ['as a parameter', contact('ADR;LABEL="4 Lath Row, Tarnhope":;;;;;;'), '4 Lath Row'],
  ['as a label of its own', contact('item1.TEL:1', 'item1.X-ABLabel:Kest'), 'Kest'],
  ['in a MeCard', 'MECARD:N:Varrow,Ilse;NOTE:Rings back\\, often;;', 'Rings back, often'],
  ['in a link', 'https://cards.example/?q=020%207946&n=+447700900184', '+44 7700 900184'],
])('a value is found %s', (_, text, value) => {
  expect(leakedIn(text, [value, 'Somebody else'])).toEqual([value]);
});

// Words of the form (RFC 2426, RFC 6350, MeCard’s published fields) are nobody’s: whoever is called Card may be left out.
test.each([
  'Card',
  'Home',
  'Work',
  'Cell',
  'Begin',
  'Vcard',
  'Note',
  'Title',
  'Pref',
  'Voice',
  'Mecard',
  '3.0.',
  'Item',
  'Charset',
])('a contact does not give away “%s” by its form', (value) => {
  const lines = [
    'N;CHARSET=UTF-8:Varrow;Ilse;;;',
    'FN;LANGUAGE=en:Ilse Varrow',
    'item1.TEL;TYPE=work,voice;TYPE="home,cell";PREF=1:+442079460182',
    'TITLE:',
    'NOTE:',
    'PRODID:-//Work//EN',
  ];
  for (const version of ['3.0', '4.0'])
    expect(leakedIn(contact(...lines).replace('3.0', version), [value])).toEqual([]);
  expect(leakedIn('MECARD:N:Varrow,Ilse;TEL:+442079460182;NOTE:;;', [value])).toEqual([]);
  expect(leakedIn(contact(...lines, `ROLE:${value}`), [value])).toEqual([value]);
});

test('whatever is typed into a line, it is found in every form of a frozen contact (property)', () => {
  // A value of letters and what has to be escaped, folded or split; what is only punctuation proves nothing.
  const value = fc
    .array(fc.constantFrom('Kest', 'Zoë', 'Ω', '7', ', ', '; ', '\\', ':', '"', ' - ', '🐑', 'n', '(x)', '='), {
      minLength: 3,
      maxLength: 60,
    })
    .map((parts) => `Q${parts.join('')}Q`);
  fc.assert(
    fc.property(value, fc.constantFrom('note', 'own', 'role', 'nickname', 'said'), (text, kind) => {
      const composition = CompositionSchema.parse({
        name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
        lines: [
          {
            ...{ id: 'd', label: '', on: [...CHANNELS], preferred: false, opens: null },
            detail: { kind, id: 'd', label: '', preferred: false, text },
          },
        ],
      });
      for (const channel of ['code', 'tag'] as const)
        for (const version of ['3.0', '4.0'] as const)
          expect(leakedIn(writeFrozenContact(composition, channel, { link: null, version }), [text])).toEqual([text]);
      const context = { version: '3.0', uid: '', revised: '', source: null, photo: null } as const;
      const { text: meCard, cannotSay } = writeCardAsMeCard(composition, context);
      if (kind === 'note' && cannotSay.length === 0) expect(leakedIn(meCard, [text])).toEqual([text]);
    }),
  );
});
