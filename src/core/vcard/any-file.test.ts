import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { RecordSchema, shownValue, writtenName, type PersonRecord } from '@/core/record';
import { anyRecord, marksOf } from '../../../tests/fixtures/any-card';
import { createContactReader, readContacts, recordFrom, VERSIONS, writeRecord } from './index';

const folder = path.resolve('tests/fixtures/contacts');
const files = readdirSync(folder)
  .filter((name) => name.endsWith('.vcf'))
  .map((name) => readFileSync(path.join(folder, name)));

/** A file as a broken disk, a half copied one or an ill-meaning sender leaves it. */
const broken = fc
  .record({
    file: fc.constantFrom(...files),
    cuts: fc.array(
      fc.record({
        at: fc.double({ min: 0, max: 1, noNaN: true }),
        drop: fc.integer({ min: 0, max: 40 }),
        put: fc.oneof(
          fc.uint8Array({ maxLength: 12 }),
          fc
            .constantFrom(
              '\r\n',
              '\n ',
              ';',
              ':',
              ',',
              '\\',
              '"',
              '=\r\n',
              'BEGIN:VCARD\r\n',
              'END:VCARD\r\n',
              '\u0000',
              'VERSION:2.1\r\n',
              ';ENCODING=b',
              '\ufeff',
            )
            .map((text) => new TextEncoder().encode(text)),
        ),
      }),
      { minLength: 1, maxLength: 6 },
    ),
  })
  .map(({ file, cuts }) =>
    cuts.reduce((bytes, { at, drop, put }) => {
      const from = Math.floor(at * bytes.length);
      return Buffer.concat([bytes.subarray(0, from), put, bytes.subarray(from + drop)]);
    }, file),
  );

const read = (chunks: Uint8Array[]) => {
  const reader = createContactReader();
  return [...chunks.flatMap((chunk) => reader.push(chunk)), ...reader.end()];
};

test('a broken file is read as far as it goes: nothing throws, and each contact is a record that can be kept', () => {
  fc.assert(
    fc.property(broken, (bytes) => {
      for (const { card } of read([bytes])) {
        const contact = card && recordFrom(card, 'GB');
        if (!contact) continue;
        const kept = RecordSchema.safeParse(contact.record);
        expect(kept.error?.issues ?? []).toEqual([]);
        // What is kept goes out again, and is read again.
        const written = writeRecord(kept.data!, {
          version: '4.0',
          uid: 'urn:uuid:0',
          revised: '',
          source: null,
          photo: null,
        });
        expect(readContacts(written)).toHaveLength(1);
      }
    }),
    { numRuns: 300 },
  );
});

test('no line of a file ends or begins a contact where it goes out again, however it is disguised', () => {
  const lines = ['END\u0000:VCARD', 'END;X=1:VCARD', 'item1.END:VCARD', 'end;a="b":vcard', 'BEGIN;X=1:VCARD'];
  for (const line of lines) {
    const [only, ...more] = read([
      Buffer.from(`BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ilse\r\n${line}\r\nNOTE:zq\r\nEND:VCARD\r\n`),
    ]);
    expect([line, more]).toEqual([line, []]);
    expect(only!.warnings.map(({ code }) => code)).toContain('LINE_UNREADABLE');
    for (const version of VERSIONS) {
      const record = RecordSchema.parse(recordFrom(only!.card!, 'GB')!.record);
      const written = writeRecord(record, { version, uid: '', revised: '', source: null, photo: null });
      expect([line, written.match(/^(?:\w+\.)?(?:BEGIN|END)\b/gim)]).toEqual([line, ['BEGIN', 'END']]);
    }
  }
  const jcard = JSON.stringify([
    'vcard',
    [
      ['fn', {}, 'text', 'Ilse'],
      ['END', {}, 'text', 'VCARD'],
    ],
  ]);
  expect(readContacts(jcard)[0]!.card!.properties.map(({ name }) => name)).toEqual(['fn']);
});

test('a file read in pieces is the file read whole, wherever it is cut, within a letter or a line break as well', () => {
  fc.assert(
    fc.property(broken, fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 8 }), (bytes, sizes) => {
      const chunks: Uint8Array[] = [];
      for (let at = 0, turn = 0; at < bytes.length; turn += 1) {
        const size = sizes[turn % sizes.length]!;
        chunks.push(bytes.subarray(at, at + size));
        at += size;
      }
      expect(read(chunks)).toEqual(read([bytes]));
    }),
    { numRuns: 200 },
  );
});

/** Kinds that every version has a property for; what a version has none for stands in the note, which the docs tell. */
const EVERYWHERE = new Set(['phone', 'email', 'link', 'address', 'organisation', 'title', 'nickname']);

/** Kinds whose labels address books show (X-ABLABEL; common practice, no published source). */
const LABELLED = new Set(['phone', 'email', 'link', 'address']);

test.each(VERSIONS)(
  'any record goes out in %s and comes in as it was: value, use and label, and no value is lost',
  (version) => {
    const told = ({ name, details }: PersonRecord) => [
      writtenName(name),
      ...details
        .filter(({ kind }) => EVERYWHERE.has(kind))
        // Only a phone is mobile.
        .map((detail) => {
          const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'mobile' || detail.kind === 'phone') : [];
          return [
            detail.kind,
            shownValue(detail),
            uses.sort().join(),
            LABELLED.has(detail.kind) ? detail.label : '',
          ].join(' | ');
        })
        .sort(),
    ];
    fc.assert(
      fc.property(anyRecord, (record) => {
        const written = writeRecord(record, { version, uid: 'urn:uuid:0', revised: '', source: null, photo: null });
        const [only, ...more] = readContacts(written);
        expect(more).toEqual([]);
        expect(only!.warnings).toEqual([]);
        const back = recordFrom(only!.card!, 'GB')!;
        expect(back.record.kept).toEqual([]);
        expect(told(back.record)).toEqual(told(record));
        const all = JSON.stringify(back.record);
        for (const detail of record.details)
          for (const mark of marksOf(detail))
            expect([detail.kind, mark, all.includes(mark)]).toEqual([detail.kind, mark, true]);
      }),
      { numRuns: 150 },
    );
  },
);
