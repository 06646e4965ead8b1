import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import ICAL from 'ical.js';
import { compose, firstLines, withheldFrom, type Composition } from '@/core/card';
import { sayFinding } from '@/core/findings';
import { proveContactFile } from '@/core/proof';
import { shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import {
  jcardOf,
  readContactFile,
  readContacts,
  VERSIONS,
  writeCardAsMeCard,
  writeContactFile,
  writeJcard,
  writeRead,
  writeRecord,
  type ContactFileContext,
  type VcardVersion,
} from './index';

const fixture = (name: string) => readFileSync(`tests/fixtures/contacts/${name}`, 'utf8');
const only = (text: string) => readContactFile(text, 'GB').contacts[0]!;

const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
const context = (version: VcardVersion): ContactFileContext => ({
  version,
  uid: 'urn:uuid:1b671a64-40d5-491e-99b0-da01ff1f3341',
  revised: '2026-11-24T09:30:00Z',
  source: 'https://cards.example/c/joerg',
  photo: { base64: PIXEL, mediaType: 'image/png' },
});

const common = { label: '', preferred: false };
/** Every kind of detail, with letters that each version must escape or code. */
const EVERYTHING: Detail[] = [
  { kind: 'photo', id: 'photo', ...common, picture: 'a'.repeat(64) },
  { kind: 'licence', id: 'lic', ...common, text: 'Ropeway inspector C-4471; valley 3' },
  { kind: 'credential', id: 'cred', ...common, text: 'CEng, MIMechE' },
  { kind: 'pronouns', id: 'pro', ...common, text: 'she/her' },
  { kind: 'said', id: 'said', ...common, text: 'YURK, der; MIL-er' },
  { kind: 'language', id: 'lang', ...common, text: 'cy' },
  { kind: 'category', id: 'cat', ...common, text: 'Ropes, Höhe' },
  { kind: 'role', id: 'role', ...common, text: 'back\\slash and \\n' },
  {
    kind: 'phone',
    id: 'p1',
    label: 'Nachtdienst; jede Nacht',
    preferred: true,
    number: '+442079460999',
    extension: '12',
    uses: ['emergency'],
  },
  { kind: 'phone', id: 'p2', ...common, number: '+447700900777', uses: ['mobile', 'work', 'text'] },
  { kind: 'link', id: 'geo', ...common, url: 'geo:51.5,-0.12', uses: [] },
  { kind: 'own', id: 'own', label: 'Blood, group', preferred: false, text: '0+' },
];
const imported = only(fixture('phone-export-3.vcf')).record;
const record: PersonRecord = { ...imported, details: [...imported.details, ...EVERYTHING] };
const byHand = new Set(EVERYTHING.map(({ id }) => id));
const lines = firstLines(record, { isPrivate: false }).map((line) =>
  byHand.has(line.detail) ? { ...line, ticks: { ...line.ticks, page: line.detail !== 'cat', file: true } } : line,
);
const composed = compose(record, lines, 'GB');
const composition: Composition = composed.ok ? composed.value : undefined!;
const withheld = withheldFrom(record, lines, 'file', 'GB');
const ticked = composition.lines.filter(({ on }) => on.includes('file'));
const prove = (file: string, version: VcardVersion) => proveContactFile(file, composition, withheld, context(version));

type Theirs = [name: string, value: string | string[], types: string[]][];
const vobject = (text: string): Theirs[] =>
  JSON.parse(
    execFileSync('/usr/bin/python3', ['tests/fixtures/read-vcards.py'], { input: text, encoding: 'utf8' }),
  ) as Theirs[];

describe('the contact file of a card', () => {
  test.each(VERSIONS)(
    'version %s: every ticked line and no unticked one, proven; lines of 75 octets (RFC 6350 3.2)',
    (version) => {
      const file = writeContactFile(composition, context(version));
      const proof = prove(file, version);
      expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
      expect(withheld.length).toBeGreaterThan(2);
      expect(file).not.toMatch(/zuhause|1979|960123|Mueller/);
      // 2.1 folds quoted-printable at 76 letters (RFC 2045 6.7).
      for (const line of file.split('\r\n'))
        expect(Buffer.byteLength(line)).toBeLessThanOrEqual(version === '2.1' ? 76 : 75);
      expect(file.endsWith('END:VCARD\r\n')).toBe(true);
      const told = proof.checks
        .filter(({ note }) => note)
        .map(({ finding }) => sayFinding(finding))
        .join(' ');
      if (version !== '4.0') expect(told).toMatch(/Pronouns.*Speaks.*in the note.*cannot say TYPE=text/s);
    },
  );

  test.each(['2.1', '3.0'] as const)('version %s as python3-vobject reads it', (version) => {
    const [theirs] = vobject(writeContactFile(composition, context(version)));
    const of = (name: string) =>
      // It takes a comma in a component of 2.1 for a separator.
      theirs!
        .filter(([each]) => each === name)
        .map(([, value, types]) => [
          Array.isArray(value) ? value.map((part) => [part].flat().join(',')) : value,
          types.join(),
        ]);
    expect(of('N')).toEqual([[['Müller-Lind', 'Jörg', 'Aksel', 'Dr.', ''], '']]);
    expect(of('FN')).toEqual([['Dr. Jörg Aksel Müller-Lind', '']]);
    expect(of('TEL')).toContainEqual(['+447700900777', 'CELL,VOICE,WORK']);
    expect(of('TEL')).toContainEqual(['+442079460999;ext=12', 'PREF,VOICE']);
    expect(of('ADR')).toEqual([[['', '', 'Hangweg 4, Halle 2', 'Oberthal', '', '12345', 'Deutschland'], 'PREF,WORK']]);
    expect(of('EMAIL')).toEqual([['joerg@seilbahn.example', 'INTERNET,PREF,WORK']]);
    // And reads a note of 2.1 up to its first comma.
    expect(String(of('NOTE')[0]![0]).replace(/\r/g, '')).toContain(
      `Licence: Ropeway inspector C-4471; valley 3\nCredential: CEng${version === '3.0' ? ', MIMechE' : ''}`,
    );
    expect(of('PHOTO')).toEqual([['bytes', 'PNG']]);
    expect(of('X-ABLABEL').map(([value]) => value)).toContain('Nachtdienst; jede Nacht');
  });

  test('mutation: any property changed, dropped or added fails the proof, in each version', () => {
    for (const version of VERSIONS) {
      const file = writeContactFile(composition, context(version));
      const unfolded = file
        .replace(version === '2.1' ? /=\r\n(?!\r\n)/g : '', '')
        .replace(/\r\n /g, '')
        .replace(/(\r\n)+/g, '\r\n');
      expect(prove(unfolded, version).passed).toBe(true);
      const properties = unfolded.split('\r\n').slice(2, -2);
      expect(properties.length).toBeGreaterThan(20);
      for (const line of properties) {
        expect([line, prove(unfolded.replace(`${line}\r\n`, ''), version).passed]).toEqual([line, false]);
        expect([
          line,
          prove(unfolded.replace(line, `${line}\r\n${line.replace(/^item\d+\./, '')}`), version).passed,
        ]).toEqual([line, false]);
        const [last] = /[A-Za-z0-9](?=[^A-Za-z0-9]*$)/.exec(line)!;
        const changed = line.replace(/[A-Za-z0-9](?=[^A-Za-z0-9]*$)/, last === '1' ? '2' : last === 'Z' ? '' : '1');
        expect([changed, prove(unfolded.replace(line, changed), version).passed]).toEqual([changed, false]);
      }
      for (const other of ['TEL:+442079460111', 'X-OTHER:1', 'NOTE:more', 'PHOTO:https://photos.example/1.jpg'])
        expect(prove(unfolded.replace('END:VCARD', `${other}\r\nEND:VCARD`), version).passed).toBe(false);
      expect(prove(unfolded.replace(/TEL(;TYPE=|;VALUE=uri;TYPE=|;)"?[^:]*cell[^:]*/i, 'TEL'), version).passed).toBe(
        false,
      );
      for (const value of withheld)
        expect(
          prove(
            unfolded.replace(
              'END:VCARD',
              `item9.X-ABLabel:${value.replace(/ /g, '-').replace(/\n/g, '\\n')}\r\nEND:VCARD`,
            ),
            version,
          ).passed,
        ).toBe(false);
    }
  });

  test('a photo that tells of itself fails the proof, the more so by a withheld number (Exif within JPEG, ITU-T T.81 B.1.1.4)', () => {
    const exif = Buffer.from(`Exif\0\0taken for ${withheld[0]}`, 'latin1');
    const length = Buffer.alloc(2);
    length.writeUInt16BE(exif.length + 2);
    const jpeg = Buffer.concat([
      Buffer.from([0xff, 0xd8, 0xff, 0xe1]),
      length,
      exif,
      Buffer.from([0xff, 0xda, 0, 2, 0xff, 0xd9]),
    ]);
    const telling: ContactFileContext = {
      ...context('3.0'),
      photo: { base64: jpeg.toString('base64'), mediaType: 'image/jpeg' },
    };
    const proof = proveContactFile(writeContactFile(composition, telling), composition, withheld, telling);
    expect(
      proof.checks
        .filter(({ passed }) => !passed)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['photo', 'unticked lines']);
  });

  test('read again: every ticked line is there, in each version, jCard and MeCard', () => {
    const has = (contact: PersonRecord, text: string) =>
      contact.details.some((detail) => shownValue(detail).replace(/\s+/g, ' ').includes(text.replace(/\s+/g, ' ')));
    const { version: _, ...plain } = context('4.0');
    const forms: [string, string][] = [
      ...VERSIONS.map((version): [string, string] => [version, writeContactFile(composition, context(version))]),
      ['jCard', JSON.stringify(writeJcard(composition, plain))],
    ];
    for (const [form, text] of forms) {
      const again = only(text).record;
      expect([form, again.name.family]).toEqual([form, 'Müller-Lind']);
      for (const { detail } of ticked)
        if (detail.kind !== 'photo')
          expect([form, shownValue(detail), has(again, shownValue(detail))]).toEqual([form, shownValue(detail), true]);
    }
    const short = writeCardAsMeCard(composition, plain);
    expect(short.text).toMatch(/^MECARD:N:Müller-Lind,Jörg;/);
    expect(short.text).toContain(';SOUND:MIL-er,YURK\\, der\\;;');
    expect(short.cannotSay).toEqual(expect.arrayContaining(['pronouns', 'role', 'lang', 'photo']));
    for (const { detail } of ticked)
      if (detail.kind === 'email' || detail.kind === 'title')
        expect(has(only(short.text).record, shownValue(detail))).toBe(true);
  });
});

test.each(VERSIONS)('an imported record goes out again in %s with what no detail stands for', (version) => {
  for (const name of ['phone-export-3.vcf', 'mail-export-4.vcf', 'rfc6350-section-8.vcf']) {
    const before = only(fixture(name)).record;
    const after = only(writeRecord(before, context(version))).record;
    const kept = ({ kept }: PersonRecord) =>
      kept.map(({ property }) => property.replace(/;VALUE=\w+/, '').toLowerCase()).sort();
    expect(kept(after)).toEqual(kept(before));
    expect(writtenName(after.name)).toBe(writtenName(before.name));
  }
});

describe('properties of escaping and folding (RFC 6350 3.2, 3.4; RFC 2426 5)', () => {
  const text = fc
    .string({ unit: 'grapheme', maxLength: 200 })
    .map((raw) => raw.replace(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\ufeff]/g, 'x').trim());
  const awkward = fc.oneof(
    text,
    fc.stringMatching(/^[\\;,:="nN\n ä😀]{0,60}$/u).map((raw) => raw.trim()),
  );

  test.each(VERSIONS)('any text goes through %s unchanged, as one property, no line too long', (version) => {
    fc.assert(
      fc.property(awkward, awkward, awkward, (note, part, label) => {
        const properties = [
          ['fn', {}, 'text', 'X'],
          ['note', {}, 'text', note],
          ['adr', {}, 'text', ['', part, 'x', '', '', '', 'y']],
          ['x-ablabel', { group: 'item1' }, 'text', label],
        ];
        const read = readContacts(JSON.stringify(['vcard', properties]))[0]!.card!;
        const written = writeRead(read, version).text;
        for (const line of written.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(76);
        const again = readContacts(written)[0]!.card!.properties.filter(({ name }) => name !== 'n');
        expect(again.map(({ name, values }) => [name, values])).toEqual([
          ['fn', ['X']],
          ['note', [note]],
          ['adr', [['', part, 'x', '', '', '', 'y']]],
          ['x-ablabel', [label]],
        ]);
      }),
      { numRuns: 400 },
    );
  });

  test('ical.js and python3-vobject read the same texts back', () => {
    const samples = fc
      .sample(awkward, { numRuns: 150, seed: 11 })
      .filter((each) => each && !/[\u0085\u2028\u2029]/.test(each));
    const cards = samples.map(
      (note) =>
        readContacts(
          JSON.stringify([
            'vcard',
            [
              ['fn', {}, 'text', 'X'],
              ['note', {}, 'text', note],
            ],
          ]),
        )[0]!.card!,
    );
    for (const version of ['3.0', '4.0'] as const) {
      const file = cards.map((card) => writeRead(card, version).text).join('');
      const theirs = ICAL.parse(file) as unknown as [string, [string, object, string, string][]][];
      // It leaves the escape before a semicolon outside components, which 3.0 wants (RFC 2426 4).
      const notes = theirs.map(([, properties]) => properties.find(([name]) => name === 'note')![3]);
      expect(notes.map((note) => (version === '3.0' ? note.replace(/\\;/g, ';') : note))).toEqual(samples);
    }
    const read = vobject(cards.map((card) => writeRead(card, '3.0').text).join(''));
    expect(read.map((card) => card.find(([name]) => name === 'NOTE')![1])).toEqual(samples);
  });

  test('their output is read here: vobject writes, we read', () => {
    const made = execFileSync(
      '/usr/bin/python3',
      [
        '-c',
        'import vobject\nc=vobject.vCard()\nc.add("n").value=vobject.vcard.Name(family="Łoś, junior",given="Ä;b")\nc.add("fn").value="Ä;b Łoś"\nn=c.add("note");n.value="one, two; three\\nfour "+"long "*40\nprint(c.serialize())',
      ],
      { encoding: 'utf8' },
    );
    const { name, details } = only(made).record;
    expect([name.given, name.family.replace(/,/g, '')]).toEqual(['Ä;b', 'Łoś junior']);
    expect(details.map((detail) => shownValue(detail))).toEqual([`one, two; three\nfour ${'long '.repeat(40)}`.trim()]);
  });

  test('a value never becomes a property, nor a parameter’s value one', () => {
    const hostile = 'x\r\nTEL:+442079460111\nEND:VCARD\u0000\u2028\\nTEL:1';
    const json = [
      'vcard',
      [
        ['fn', {}, 'text', hostile],
        ['url', { 'x-a': `a":\n;TYPE=HOME:${hostile}` }, 'uri', hostile],
        ['x-raw', {}, 'unknown', hostile],
        ['bday', {}, 'date', hostile],
        ['photo', {}, 'uri', `data:image/x\r\nTEL:1;base64,AA\r\nTEL:2`],
      ],
    ];
    for (const version of VERSIONS) {
      const again = readContacts(writeRead(readContacts(JSON.stringify(json))[0]!.card!, version).text);
      expect(again).toHaveLength(1);
      expect(
        again[0]!
          .card!.properties.map(({ name }) => name)
          .filter((name) => name !== 'n')
          .sort(),
      ).toEqual(['bday', 'fn', 'photo', 'url', 'x-raw']);
    }
  });

  test('jCard of a card and back is the same card (RFC 7095 3)', () => {
    for (const name of ['phone-export-3.vcf', 'rfc6350-section-8.vcf']) {
      const card = readContacts(fixture(name))[0]!.card!;
      const again = readContacts(JSON.stringify(jcardOf(card)))[0]!.card!;
      expect(jcardOf(again)).toEqual(jcardOf(card));
    }
  });
});
