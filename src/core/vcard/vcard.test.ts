import { readFileSync } from 'node:fs';
import ICAL from 'ical.js';
import { compose, firstLines, withheldFrom } from '@/core/card';
import { proveContactFile } from '@/core/proof';
import { defaultLabel, shownValue, type Detail, type PersonRecord } from '@/core/record';
import { readContactFile, writeContactFile, type ContactFileContext } from './index';

const fixture = (name: string) => readFileSync(`tests/fixtures/contacts/${name}`, 'utf8');
const only = (text: string) => {
  const read = readContactFile(text, 'GB');
  if (!read.ok) throw new Error(read.problem.code);
  return read.value[0]!;
};
const shown = (details: Detail[]) => details.map((detail) => `${defaultLabel(detail)}: ${shownValue(detail)}`);

describe('reading', () => {
  test('a 3.0 export with folded lines, labels, several phones and a photo (RFC 2426)', () => {
    const { record, photo } = only(fixture('phone-export-3.vcf'));
    expect(record.name).toEqual({
      prefix: 'Dr.',
      given: 'Jörg',
      additional: 'Aksel',
      family: 'Müller-Lind',
      suffix: '',
      written: '',
    });
    expect(shown(record.details)).toEqual([
      'Firm: Seilbahn, Bau & Söhne · Planung',
      'Job title: Leiter Planung',
      'E-mail, work: joerg@seilbahn.example',
      'E-mail, home: joerg@zuhause.example',
      'Mobile: +44 7700 900123',
      'Phone, work: +44 20 7946 0123',
      'Phone, home: +44 1632 960123',
      'Fax, work: +44 20 7946 0124',
      'Notdienst, Tag und Nacht: +44 20 7946 0999',
      'Web: seilbahn.example/team/joerg',
      'Address, work: Hangweg 4, Halle 2, 12345 Oberthal, Deutschland',
      'Note: Erste Zeile\nZweite Zeile; mit Semikolon, Komma und einem langen Text der gefaltet werden muss: äöüß €',
      'Birthday: 1979-02-28',
      'Network: network.example/joerg',
    ]);
    expect(record.kept.map(({ property }) => property.split(':')[0])).toEqual([
      'item4.X-ABADR',
      'X-PHONETIC-LAST-NAME',
    ]);
    expect(Buffer.from(photo!.base64, 'base64').subarray(1, 4).toString()).toBe('PNG');
  });

  test('a 4.0 export with URIs, quoted types, extension, script address and direction override (RFC 6350)', () => {
    const { record, photo } = only(fixture('mail-export-4.vcf'));
    expect(record.name).toMatchObject({ given: 'Inês', family: 'van der Vael' });
    expect(shown(record.details)).toEqual([
      'Pronouns: she/her',
      'Phone, work: +44 20 7946 0321 ext. 12',
      'Mobile: +44 7700 900321',
      'E-mail, work: ines@vael.example',
      'Web, work: vael.example',
      'Address, work: Quay 3, Brackwater BW1 1AA, United Kingdom',
      'Firm: Vael Surveys',
      'Job title: Surveyor of lines',
      'Birthday: --06-14',
      'Note: <script>alert(1)</script>',
    ]);
    expect(record.kept).toContainEqual({ property: 'URL:javascript:alert(1)', why: 'refused-link' });
    expect(photo).not.toBeNull();
  });

  test('the same names and phones as an independent reader finds (ical.js)', () => {
    for (const name of ['phone-export-3.vcf', 'mail-export-4.vcf']) {
      const [, properties] = ICAL.parse(fixture(name)) as unknown as [string, [string, object, string, ...unknown[]][]];
      const theirs = properties.filter(([property]) => property.replace(/^item\d+\./, '') === 'tel').length;
      const { record } = only(fixture(name));
      expect(record.details.filter(({ kind }) => kind === 'phone')).toHaveLength(theirs);
    }
  });

  test('quoted-printable of 2.1 with soft line breaks, bare types', () => {
    const { record } = only(
      'BEGIN:VCARD\nVERSION:2.1\nN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;J=C3=B6rg\nTEL;CELL;PREF:+447700900123\nTITLE;ENCODING=QUOTED-PRINTABLE:Rope =\ninspector\nEND:vCard\n',
    );
    expect(record.name).toMatchObject({ family: 'Müller', given: 'Jörg' });
    expect(shown(record.details)).toEqual(['Mobile: +44 7700 900123', 'Job title: Rope inspector']);
  });

  test.each([
    ['not a contact', 'NOT_A_CONTACT_FILE'],
    ['', 'NOT_A_CONTACT_FILE'],
    [fixture('phone-export-3.vcf').slice(0, 700), 'CONTACT_FILE_CUT_OFF'],
    ['BEGIN:VCARD\nVERSION:3.0\nEND:VCARD', 'CONTACT_FILE_EMPTY'],
  ])('a file that is none, cut off or empty', (text, code) => {
    expect(readContactFile(text, 'GB')).toMatchObject({ ok: false, problem: { code } });
  });
});

describe('writing', () => {
  const imported = only(fixture('phone-export-3.vcf')).record;
  const record: PersonRecord = {
    ...imported,
    details: [
      ...imported.details,
      { kind: 'licence', id: 'lic', label: '', preferred: false, text: 'Ropeway inspector C-4471; valley 3' },
    ],
  };
  const lines = firstLines(record, { isPrivate: false });
  const composed = compose(record, lines, 'GB');
  const composition = composed.ok ? composed.value : undefined!;
  const context = (version: '3.0' | '4.0'): ContactFileContext => ({
    version,
    uid: 'urn:uuid:1b671a64-40d5-491e-99b0-da01ff1f3341',
    revised: '2026-11-24T09:30:00Z',
    source: 'https://cards.example/c/joerg',
    photo: null,
  });
  const withheld = withheldFrom(record, lines, 'file', 'GB');

  test.each(['3.0', '4.0'] as const)(
    'version %s carries every ticked line and no unticked one, read by ical.js',
    (version) => {
      const file = writeContactFile(composition, context(version));
      expect(proveContactFile(file, composition, withheld)).toMatchObject({ passed: true });
      expect(file).not.toMatch(/zuhause|1979|960123/);
      for (const line of file.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75); // RFC 6350 3.2
      expect(file.endsWith('END:VCARD\r\n')).toBe(true);
    },
  );

  test('mutation: a dropped, changed or added property fails the proof', () => {
    const file = writeContactFile(composition, context('3.0'));
    const unfolded = file.replace(/\r\n /g, '');
    const withValue = unfolded
      .split('\r\n')
      .filter((line) => /^(item\d+\.)?(TEL|EMAIL|URL|ADR|ORG|TITLE|NOTE|FN)/.test(line));
    expect(withValue.length).toBeGreaterThan(8);
    for (const line of withValue) {
      expect(proveContactFile(unfolded.replace(`${line}\r\n`, ''), composition, withheld).passed).toBe(false);
      const changed = line.replace(/(:[^:]{2}).{3}/, '$1xyz');
      expect([changed, proveContactFile(unfolded.replace(line, changed), composition, withheld).passed]).toEqual([
        changed,
        false,
      ]);
    }
    for (const value of withheld) {
      expect(
        proveContactFile(
          unfolded.replace('END:VCARD', `X-OTHER:${value.replace(/ /g, '-').replace(/\n/g, '\\n')}\r\nEND:VCARD`),
          composition,
          withheld,
        ).passed,
      ).toBe(false);
    }
  });

  test('what is written is read again with the same values', () => {
    for (const version of ['3.0', '4.0'] as const) {
      const again = only(writeContactFile(composition, context(version))).record;
      const comparable = (details: Detail[]) =>
        shown(details.filter(({ kind }) => !['licence', 'note', 'own', 'photo'].includes(kind))).sort();
      expect(comparable(again.details)).toEqual(
        comparable(
          composition.lines
            .filter(({ on }) => on.includes('file'))
            .map(
              ({ detail, label }) =>
                ({ ...detail, label: defaultLabel({ ...detail, label: '' }) === label ? '' : label }) as Detail,
            ),
        ),
      );
    }
  });
});
