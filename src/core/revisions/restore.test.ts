import fc from 'fast-check';
import { shownValue, writtenName, type PersonRecord } from '@/core/record';
import { anyCard, anyRecord, draftOver } from '../../../tests/fixtures/any-card';
import { compareCompositions } from './comparison';
import { composeDraft, type Composition, type Draft } from '@/core/card';
import { changesSince } from './changes';
import { restoredDraft } from './restore';

function composed(record: PersonRecord, draft: Draft): Composition {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
}

/** What recipients read of a card: name, and each line with its label and channels, in order. */
const read = ({ name, lines, look, language }: Composition) => ({
  name: writtenName(name),
  lines: lines.map(({ id, label, detail, on }) => [id, label, shownValue(detail), on]),
  layout: look.layout,
  language,
});

/** A record that has gone on: some details gone, others with the values of another record, some new. */
const laterOf = (record: PersonRecord, other: PersonRecord, kept: boolean[], changed: boolean[]): PersonRecord => ({
  ...record,
  name: changed[0] ? other.name : record.name,
  details: [
    ...record.details.flatMap((detail, at) => {
      if (!kept[at % kept.length]) return [];
      const like = other.details.find(({ kind }) => kind === detail.kind);
      return changed[at % changed.length] && like ? [{ ...like, id: detail.id }] : [detail];
    }),
    ...other.details.map((detail) => ({ ...detail, id: `n${detail.id}` })),
  ],
});
const some = fc.array(fc.boolean(), { minLength: 3, maxLength: 9 });

test('a restored revision reads as it did, whatever has become of the record and the draft; the record is untouched', () => {
  fc.assert(
    fc.property(
      anyCard,
      anyRecord.chain((other) => fc.record({ other: fc.constant(other), now: draftOver(other) })),
      some,
      some,
      ({ record, draft }, { other, now }, kept, changed) => {
        const revision = composed(record, draft);
        const later = laterOf(record, other, kept, changed);
        const before = structuredClone(later);
        const restored = restoredDraft(
          { draft, composition: revision, erased: [] },
          { draft: { ...now, lines: [] }, record: later, country: 'GB' },
        );
        expect(restored.lost).toEqual([]);
        // A value that nobody can type comes back as a line of the card's own, under an id of its own.
        const plain = (made: ReturnType<typeof read>) => ({ ...made, lines: made.lines.map(([, ...line]) => line) });
        expect(plain(read(composed(later, restored.draft)))).toEqual(plain(read(revision)));
        expect(restored.draft.audience).toBe(now.audience);
        expect(later).toEqual(before);
      },
    ),
    { numRuns: 200 },
  );
});

test('two compositions are the same to the list of changes, to the comparison and to themselves, or to none of them', () => {
  fc.assert(
    fc.property(
      anyRecord.chain((record) =>
        fc.record({ record: fc.constant(record), one: draftOver(record), two: draftOver(record) }),
      ),
      ({ record, one, two }) => {
        const [a, b] = [composed(record, one), composed(record, two)];
        expect(changesSince(a, a)).toEqual([]);
        expect(compareCompositions(a, a).filter(({ same }) => !same)).toEqual([]);
        // As it comes out of a store: the order of keys is the store's.
        const kept = JSON.parse(JSON.stringify(b)) as Composition;
        const reads = JSON.stringify(read(a)) === JSON.stringify(read(b));
        const differs = compareCompositions(a, kept).some(({ same }) => !same);
        if (!reads) expect(changesSince(a, kept)).not.toEqual([]);
        expect(differs).toBe(!reads);
      },
    ),
    { numRuns: 200 },
  );
});
