import { execFileSync } from 'node:child_process';
import ICAL from 'ical.js';
import { compose, firstLines, withheldFrom } from '@/core/card';
import { proveContactFile } from '@/core/proof';
import { readName, writtenName, type NameKind, type PersonRecord } from '@/core/record';
import { renderPage } from '@/core/page';
import { changesSince } from '@/core/revisions';
import { readContactFile, VERSIONS, writeContactFile, writeRecord, type VcardVersion } from './index';

const context = (version: VcardVersion) => ({
  ...{ version, uid: 'urn:uuid:1b671a64-40d5-491e-99b0-da01ff1f3341', revised: '2026-11-24T09:30:00Z' },
  ...{ source: null, photo: null },
});
const deskOf = (kind: NameKind | undefined): PersonRecord => ({
  name: readName('Helmet desk, north', kind),
  details: [
    { kind: 'organisation', id: 'o', label: '', preferred: false, name: 'Tarnhope Cableways', units: ['Ropes'] },
    { kind: 'phone', id: 'p', label: '', preferred: false, number: '+442079460182', uses: ['work'] },
    { kind: 'email', id: 'e', label: '', preferred: false, address: 'desk@tarnhope.example', uses: ['work'] },
  ],
  kept: [],
});
const cardOf = (record: PersonRecord) => {
  const lines = firstLines(record, { isPrivate: false });
  const composed = compose(record, lines, 'GB');
  if (!composed.ok) throw new Error(composed.problem.code);
  return { composition: composed.value, withheld: withheldFrom(record, lines, 'file', 'GB') };
};
const only = (text: string) => readContactFile(text, 'GB').contacts[0]!.record;

test('the RFC’s own department and group are read as such (RFC 6350 6.1.4 and 6.6.5)', () => {
  const department = only(
    [
      ...['BEGIN:VCARD', 'VERSION:4.0', 'KIND:org', 'FN:ABC Marketing'],
      ...['ORG:ABC\\, Inc.;North American Division;Marketing', 'END:VCARD', ''],
    ].join('\r\n'),
  );
  expect(department.name).toMatchObject({ kind: 'org', written: 'ABC Marketing', given: '', family: '' });
  const family = only(
    [
      ...['BEGIN:VCARD', 'VERSION:4.0', 'KIND:group', 'FN:The Doe family'],
      ...['MEMBER:urn:uuid:03a0e51f-d1aa-4385-8a53-e29025acd8af', 'END:VCARD', ''],
    ].join('\r\n'),
  );
  expect(family.name.kind).toBe('group');
  // What no detail stands for is kept, and goes out again to its owner.
  expect(writeRecord(family, context('4.0'))).toMatch(/KIND:group\r\n[^]*MEMBER:urn:uuid:03a0e51f/);
  for (const plain of ['individual', 'x-robot', '']) {
    const read = only(`BEGIN:VCARD\r\nVERSION:4.0\r\nKIND:${plain}\r\nFN:Ilse Varrow\r\nEND:VCARD\r\n`);
    expect([read.name.kind, read.name.given]).toEqual([undefined, 'Ilse']);
  }
});

test.each(['org', 'group', 'location'] as const)(
  'a card of a %s says so in 4.0 and keeps its name whole in every version, proven',
  (kind) => {
    const { composition, withheld } = cardOf(deskOf(kind));
    for (const version of VERSIONS) {
      const file = writeContactFile(composition, context(version));
      expect(proveContactFile(file, composition, withheld, context(version)).passed).toBe(true);
      expect(writtenName(only(file).name)).toBe('Helmet desk, north');
      // One that says it is something else, or nothing, is not what was published.
      if (version !== '4.0') expect(file).not.toContain('KIND');
      else
        for (const other of ['', 'KIND:individual\r\n', `KIND:${kind}\r\nKIND:${kind}\r\n`])
          expect(
            proveContactFile(file.replace(`KIND:${kind}\r\n`, other), composition, withheld, context(version)).passed,
          ).toBe(false);
    }
    const theirs = new ICAL.Component(ICAL.parse(writeContactFile(composition, context('4.0'))) as [string, [], []]);
    expect(theirs.getFirstPropertyValue('kind')).toBe(kind);
    expect(only(writeContactFile(composition, context('4.0'))).name).toEqual(deskOf(kind).name);
    // python3-vobject finds it under the whole of its name.
    const [read] = JSON.parse(
      execFileSync('/usr/bin/python3', ['tests/fixtures/read-vcards.py'], {
        input: writeContactFile(composition, context('3.0')),
        encoding: 'utf8',
      }),
    ) as [string, unknown][][];
    expect(Object.fromEntries(read!)).toMatchObject({
      N: ['Helmet desk, north', '', '', '', ''],
      FN: 'Helmet desk, north',
    });
  },
);

test('programs are told what the page is of, in the properties of its type (schema.org)', () => {
  const told = (kind: NameKind | undefined) => {
    const html = renderPage(cardOf(deskOf(kind)).composition, {
      ...{ contactFile: '/c/x.vcf', taps: '/c/x/tap', photo: null, logo: null, language: 'en' },
      canonical: 'https://cards.example/c/x',
    });
    return JSON.parse(/ld\+json">(.*?)<\/script>/.exec(html)![1]!) as Record<string, unknown>;
  };
  expect(told(undefined)).toMatchObject({ '@type': 'Person', worksFor: { name: 'Tarnhope Cableways · Ropes' } });
  expect(told('group')).toMatchObject({ '@type': 'Organization', email: ['desk@tarnhope.example'] });
  expect(told('org')).toMatchObject({ parentOrganization: { '@type': 'Organization' } });
  expect(told('org')).not.toHaveProperty('worksFor');
  // A Place has a telephone and no email.
  expect(told('location')).toMatchObject({ '@type': 'Place', telephone: ['+442079460182'] });
  expect(told('location')).not.toHaveProperty('email');
});

test('a card that comes to stand for something else has something to publish', () => {
  const [before, now] = [undefined, 'org' as const].map((kind) => cardOf(deskOf(kind)).composition);
  expect(changesSince(before!, now!)).toEqual([{ line: expect.any(String), what: 'a desk or a duty line' }]);
  expect(changesSince(now!, now!)).toEqual([]);
});
