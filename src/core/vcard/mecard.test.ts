import fc from 'fast-check';
import { composeDraft } from '@/core/card';
import { anyCard, marksOf, searched } from '../../../tests/fixtures/any-card';
import { keptInWords } from '@/core/record';
import { readMeCards, writeMeCard } from './mecard';
import { property } from './property';
import { writeCardAsMeCard } from './write';

/** Fields of a MeCard as readers of codes take it apart: ended by a semicolon that no backslash precedes (from memory of its publisher's form). */
function fields(text: string): [string, string][] {
  const body = /^MECARD:([^]*);$/.exec(text)![1]!;
  return [...body.matchAll(/([A-Z-]+):((?:\\[^]|[^\\;])*);/g)].map(([, name, value]) => [
    name!,
    value!.replace(/\\([^])/g, '$1'),
  ]);
}

test('whatever stands in a value, a MeCard comes apart into the fields that were written', () => {
  const text = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 30 })
    .filter((each) => each.trim() === each && !/[\p{Cc}\s]{2}|\n|\r/u.test(each));
  fc.assert(
    fc.property(text, text, text, text, (family, given, note, firm) => {
      const made = writeMeCard([
        property('n', [family, given, '', '', '']),
        property('note', note),
        property('org', [firm]),
        property('x-shift', 'B'),
      ]);
      expect(made.cannotSay).toEqual(['x-shift']);
      const read = fields(made.text);
      expect(read.map(([name]) => name)).toEqual(['N', 'NOTE', 'ORG']);
      expect([read[1]![1], read[2]![1]]).toEqual([note, firm]);
      expect(read[0]![1]).toBe(`${family},${given}`);
    }),
    { numRuns: 200 },
  );
});

test('of any card what is ticked for it stands in its MeCard where that has a field, and what is not stands nowhere', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const composition = made.value;
      const { text } = writeCardAsMeCard(composition, { uid: '', revised: '', source: null, photo: null });
      const shown = searched(text.replace(/\\/g, ''));
      for (const { detail, on } of composition.lines) {
        const told = marksOf(detail).some((mark) => shown.includes(mark));
        if (!on.includes('file')) expect([detail.kind, told]).toEqual([detail.kind, false]);
        else if (['phone', 'email', 'title', 'nickname', 'link'].includes(detail.kind))
          expect([detail.kind, told]).toEqual([detail.kind, true]);
      }
    }),
    { numRuns: 80 },
  );
});

test('several in one text are read one by one, a broken one beside them', () => {
  const read = readMeCards('MECARD:N:Varrow,Ilse;TEL:+442079460182;;\nMECARD:;;\nMECARD:N:Hythe,Dell;WHAT:x;;');
  expect(read.map(({ card }) => card?.properties.map(({ name }) => name) ?? null)).toEqual([
    ['n', 'tel'],
    null,
    ['n', 'x-unreadable'],
  ]);
  expect(readMeCards('')).toEqual([]);
});

// RFC 6350 3.3 and 3.4: a group before the name, parameters after it, commas and semicolons escaped.
test.each([
  ['item1.X-SERVICE-RANK;TYPE=x:2', 'Service rank', '2'],
  ['ADR;LABEL="a:b;c":;;Yard;;;;', 'Address', ';;Yard;;;;'],
  ['X-A_B:one\\, two\\; three\\nfour', 'A b', 'one, two; three four'],
  ['tel:020', 'Phone', '020'],
])('%s reads as %s: %s', (line, name, value) => {
  expect(keptInWords(line)).toEqual({ name, value });
});
