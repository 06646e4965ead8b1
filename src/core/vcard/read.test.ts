import { readFileSync } from 'node:fs';
import ICAL from 'ical.js';
import { defaultLabel, shownValue, type Detail } from '@/core/record';
import { createContactReader, jcardOf, readContactFile, readContacts, type ReadContact } from './index';

const fixture = (name: string) => readFileSync(`tests/fixtures/contacts/${name}`, 'utf8');
const card = (...lines: string[]) => ['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join('\r\n');
const only = (text: string) => readContactFile(text, 'GB').contacts[0]!;
const shown = (details: Detail[]) => details.map((detail) => `${defaultLabel(detail)}: ${shownValue(detail)}`);
const kept = (text: string) => only(text).record.kept.map(({ property, why }) => `${why} ${property}`);
const bytesOf = (parts: (string | number[])[], encoding: BufferEncoding = 'utf8') =>
  Buffer.concat(parts.map((part) => (typeof part === 'string' ? Buffer.from(part, encoding) : Buffer.from(part))));
const readBytes = (bytes: Uint8Array, size = bytes.length): ReadContact[] => {
  const reader = createContactReader();
  const read: ReadContact[] = [];
  for (let at = 0; at < bytes.length; at += size) read.push(...reader.push(bytes.subarray(at, at + size)));
  return [...read, ...reader.end()];
};
const codes = (text: string) =>
  readContacts(text).flatMap(({ warnings }) => warnings.map(({ code, line }) => `${code} ${line}`));

describe('exports of programs', () => {
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
      'Said as: Jörg Mueller',
    ]);
    expect(record.kept.map(({ property }) => property.split(':')[0])).toEqual(['item4.X-ABADR']);
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
      'Category: fair, 2026',
    ]);
    expect(record.kept).toContainEqual({ property: 'URL:javascript:alert(1)', why: 'refused-link' });
    expect(photo).not.toBeNull();
  });

  test('the same properties and values as ical.js finds in the same files', () => {
    for (const name of ['phone-export-3.vcf', 'mail-export-4.vcf', 'rfc6350-section-8.vcf', 'rfc2426-section-7.vcf']) {
      const text = fixture(name);
      const parsed = ICAL.parse(text) as unknown as [string, unknown[][]] | [string, unknown[][]][];
      const cards = (typeof parsed[0] === 'string' ? [parsed] : parsed) as [string, unknown[][]][];
      const plain = (properties: unknown[][]) =>
        properties
          .filter(
            ([property]) => !['version', 'photo', 'geo', 'rev', 'tz', 'anniversary', 'bday'].includes(String(property)),
          )
          .map(
            ([property, , , ...values]) =>
              `${String(property)
                .replace(/^item\d+\./, '')
                // Ours is the newer name (RFC 9554 3.3); extensions are not unescaped by it.
                .replace('x-socialprofile', 'socialprofile')} ${values.flat(3).join('|').replace(/\\,/g, ',')}`,
          )
          .sort();
      const ours = readContacts(text).flatMap((read) => (read.card ? [jcardOf(read.card)[1] as unknown[][]] : []));
      expect(ours.map(plain)).toEqual(cards.map(([, properties]) => plain(properties)));
    }
  });
});

describe('the standards’ own examples (as remembered)', () => {
  test('RFC 6350 section 8: the author’s own card', () => {
    const { record } = only(fixture('rfc6350-section-8.vcf'));
    expect(record.name).toMatchObject({ family: 'Perreault', given: 'Simon', suffix: 'ing. jr M.Sc.' });
    expect(shown(record.details)).toEqual([
      'Birthday: --02-03',
      'Speaks: fr',
      'Speaks: en',
      'Firm: Viagenie',
      'Address, work: Suite D2-630, 2875 Laurier, Quebec G1V 2M2, QC, Canada',
      'Phone, work: +1 418 656 9254 ext. 102',
      'Mobile, work, video: +1 418 262 6501',
      'E-mail, work: simon.perreault@viagenie.ca',
      'Web, work: geo:46.772673,-71.282945',
      'Web, home: nomis80.org',
    ]);
    expect(record.details.filter(({ preferred }) => preferred).map((detail) => shownValue(detail))).toEqual([
      'fr',
      '+1 418 656 9254 ext. 102',
    ]);
    expect(record.kept.map(({ property }) => property)).toEqual([
      'ANNIVERSARY:20090808T1430-0500',
      'GENDER:M',
      'KEY;TYPE=work:http://www.viagenie.ca/simon.perreault/simon.asc',
      'TZ:-0500',
    ]);
  });

  test('RFC 2426 section 7: two cards in one file', () => {
    const { contacts, warnings } = readContactFile(fixture('rfc2426-section-7.vcf'), 'US');
    expect(warnings).toEqual([]);
    expect(contacts.map(({ record }) => [record.name.written, shown(record.details).length])).toEqual([
      ['Frank Dawson', 7],
      ['Tim Howes', 5],
    ]);
  });

  test.each([
    [
      'RFC 6350 6.2.2',
      'N:Stevenson;John;Philip,Paul;Dr.;Jr.,M.D.,A.C.P.',
      ['n', {}, 'text', ['Stevenson', 'John', ['Philip', 'Paul'], 'Dr.', ['Jr.', 'M.D.', 'A.C.P.']]],
    ],
    [
      'RFC 7095 3.3.1.3',
      'ADR:;;My Street,Left Side,Second Shack;Hometown;PA;18252;U.S.A.',
      ['adr', {}, 'text', ['', '', ['My Street', 'Left Side', 'Second Shack'], 'Hometown', 'PA', '18252', 'U.S.A.']],
    ],
    ['RFC 7095 3.3.1.2', 'CATEGORIES:computers,cameras', ['categories', {}, 'text', 'computers', 'cameras']],
    [
      'RFC 7095 7.1',
      'CONTACT.FN:Mr. John Q. Public\\, Esq.',
      ['fn', { group: 'contact' }, 'text', 'Mr. John Q. Public, Esq.'],
    ],
    [
      'RFC 6868 3.2',
      'X-GEO;X-ADDRESS="Pittsburgh Pirates^n115 Federal St^nPittsburgh, PA 15212":geo:40.446816,-80.00566',
      [
        'x-geo',
        { 'x-address': 'Pittsburgh Pirates\n115 Federal St\nPittsburgh, PA 15212' },
        'unknown',
        'geo:40.446816,-80.00566',
      ],
    ],
    ['RFC 6350 6.2.1', 'FN:Mr. John Q. Public\\, Esq.', ['fn', {}, 'text', 'Mr. John Q. Public, Esq.']],
    [
      'RFC 6350 6.6.4',
      'ORG:ABC\\, Inc.;North American Division;Marketing',
      ['org', {}, 'text', ['ABC, Inc.', 'North American Division', 'Marketing']],
    ],
  ])('%s: %s', (_, line, expected) => {
    const [read] = readContacts(card('VERSION:4.0', line));
    expect(jcardOf(read!.card!)[1].at(-1)).toEqual(expected);
  });
});

describe('what programs write otherwise', () => {
  test('2.1: quoted-printable with soft breaks, charsets, bare types, folding that keeps its space (text of 1998, from memory)', () => {
    const { record } = only(
      'BEGIN:VCARD\nVERSION:2.1\nN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;J=C3=B6rg\nTEL;CELL;PREF:+447700900123\nTITLE;ENCODING=QUOTED-PRINTABLE:Rope =\ninspector\nROLE;CHARSET=ISO-8859-1;QUOTED-PRINTABLE:Pr=FCfer\nNOTE:folded at\n a space\nEND:vCard\n',
    );
    expect(record.name).toMatchObject({ family: 'Müller', given: 'Jörg' });
    expect(shown(record.details)).toEqual([
      'Mobile: +44 7700 900123',
      'Job title: Rope inspector',
      'Role: Prüfer',
      'Note: folded at a space',
    ]);
    expect(record.details[0]!.preferred).toBe(true);
  });

  test.each([
    ['UTF-8 with a byte-order mark', bytesOf([[0xef, 0xbb, 0xbf], card('VERSION:3.0', 'FN:Jörg')])],
    ['UTF-16, little end first', bytesOf([[0xff, 0xfe], card('VERSION:3.0', 'FN:Jörg')], 'utf16le')],
    ['UTF-16 without a mark', bytesOf([card('VERSION:3.0', 'FN:Jörg')], 'utf16le')],
    ['UTF-16, big end first', bytesOf(['\ufeff', card('VERSION:3.0', 'FN:Jörg')], 'utf16le').swap16()],
    ['Latin-1', bytesOf([card('VERSION:3.0', 'FN:Jörg')], 'latin1')],
    [
      'a charset that the line names',
      bytesOf(['BEGIN:VCARD\r\nVERSION:2.1\r\nFN;CHARSET=windows-1251:', [0xc6], '\r\nEND:VCARD\r\n']),
    ],
    ['line ends of one letter', bytesOf([card('VERSION:3.0', 'FN:Jörg').replace(/\r\n/g, '\r')])],
  ])('%s, in pieces of any size', (_, bytes) => {
    for (const size of [1, 7, bytes.length]) {
      const [read] = readBytes(bytes, size);
      expect(read!.card!.properties.find(({ name }) => name === 'fn')!.values).toEqual([
        bytes.includes(0xc6) && bytes.length < 80 ? 'Ж' : 'Jörg',
      ]);
    }
  });

  test.each<[string, string[], string[]]>([
    [
      'a break without the space, in the middle of a word',
      ['NOTE:the rope was inspected on the second day of the fair and then on the thi', 'rd day'],
      ['Note: the rope was inspected on the second day of the fair and then on the third day'],
    ],
    [
      'a line end that should have been escaped',
      ['NOTE:first', 'second, without a colon'],
      ['Note: first\nsecond, without a colon'],
    ],
    ['wrong escapes', ['NOTE:at 10\\:30\\, \\q', 'TITLE:a, b; c'], ['Note: at 10:30, \\q', 'Job title: a, b; c']],
    [
      'base64 broken without the space',
      ['TITLE:Inspector', 'PHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQSkZJRgABAQEASABIAAD/', '2wBDAAEBAQEBAQEBAQEB'],
      ['Job title: Inspector'],
    ],
    [
      'labels of groups and of programs',
      [
        'item1.TEL:+442079460111',
        'item1.X-ABLabel:_$!<Work>!$_',
        'item2.EMAIL:a@b.example',
        'item2.X-ABLabel:Night shift',
      ],
      ['Phone, work: +44 20 7946 0111', 'Night shift: a@b.example'],
    ],
    [
      'profiles as extension, URL and message address',
      [
        'X-SOCIALPROFILE;TYPE=network:https://network.example/p',
        'IMPP;X-SERVICE-TYPE=Chat:xmpp:p@chat.example',
        'X-BOOKING-PAGE:https://book.example/p',
      ],
      ['Network: network.example/p', 'Web: xmpp:p@chat.example', 'Booking page: book.example/p'],
    ],
    ['a place in three forms', ['GEO:51.5;-0.12'], ['Map: geo:51.5,-0.12']],
    ['a date of which the year only fills the form', ['BDAY;X-OMIT-YEAR=1604:1604-06-30'], ['Birthday: --06-30']],
    ['partial dates', ['BDAY:198406', 'TITLE:x'], ['Job title: x']],
  ])('%s', (_, lines, expected) => {
    expect(shown(only(card('VERSION:3.0', 'FN:X', ...lines)).record.details)).toEqual(expected);
  });

  test('nothing is dropped in silence: what no detail stands for is kept, with the reason', () => {
    expect(
      kept(
        card(
          'VERSION:4.0',
          'FN:X',
          'TITLE;ALTID=1;LANGUAGE=en:Inspector',
          'TITLE;ALTID=1;LANGUAGE=fr:Contrôleuse',
          'RELATED;TYPE=friend:urn:uuid:f81d4fae-7dec-11d0-a765-00a0c91e6bf6',
          'TEL:no number',
          'PHOTO:https://photos.example/x.jpg',
          'a line without a colon at all, which is long enough to stand for itself as a broken one in the file',
        ),
      ),
    ).toEqual([
      'another-language TITLE;ALTID=1;LANGUAGE=fr:Contrôleuse',
      'not-understood RELATED;TYPE=friend:urn:uuid:f81d4fae-7dec-11d0-a765-00a0c91e6bf6',
      'unreadable-value TEL:no number',
      'linked-photo PHOTO:https://photos.example/x.jpg',
      expect.stringContaining('not-understood X-UNREADABLE:a line without a colon'),
    ]);
  });

  test('files put together, a byte-order mark before each and before a line (common practice, no published source)', () => {
    const one = '\ufeffBEGIN:VCARD\r\nVERSION:4.0\r\n\ufeffFN:Odile\r\nEND:VCARD\r\n';
    const bytes = bytesOf([one, one]);
    for (const size of [bytes.length, bytes.length / 2, 31, 1])
      expect(
        readBytes(bytes, size).map(({ card, warnings }) => [card!.properties.map(({ name }) => name), warnings]),
      ).toEqual(Array(2).fill([['fn'], []]));
  });

  test('MeCard, its escapes and its fields (the published list, from memory)', () => {
    const { record } = only(
      'MECARD:N:Brandreth,Odile;SOUND:BRAN-dreth,OH-deel;TEL:+447700900456;EMAIL:odile@brandreth.example;URL:https\\://brandreth.example;ADR:,,Mill Lane 2,Wexcombe,,WX1 1AA,United Kingdom;NOTE:a\\;b;BDAY:19840630;X:y;;',
    );
    expect([record.name.given, record.name.family]).toEqual(['Odile', 'Brandreth']);
    expect(shown(record.details)).toEqual([
      'Phone: +44 7700 900456',
      'E-mail: odile@brandreth.example',
      'Web: brandreth.example',
      'Address: Mill Lane 2, Wexcombe WX1 1AA, United Kingdom',
      'Note: a;b',
      'Birthday: 1984-06-30',
      'Said as: OH-deel BRAN-dreth',
    ]);
    expect(record.kept).toEqual([{ property: 'X-UNREADABLE:X:y', why: 'not-understood' }]);
  });

  test('jCard, one and several (RFC 7095 3.2)', () => {
    const one =
      '["vcard",[["version",{},"text","4.0"],["fn",{},"text","Odile"],["tel",{"type":["cell","voice"],"pref":"1"},"uri","tel:+447700900456"]]]';
    for (const text of [one, `[${one}]`]) expect(shown(only(text).record.details)).toEqual(['Mobile: +44 7700 900456']);
    expect(codes('["vcard",[["fn"')).toEqual(['JSON_UNREADABLE 1']);
  });
});

describe('broken files: said with the line, and the rest is read', () => {
  test.each<[string, string, string[], number]>([
    ['no contact file', 'hello\nworld\n', ['OUTSIDE_A_CARD 1'], 0],
    ['nothing', '', [], 0],
    [
      'an empty card between two',
      card('FN:A') + card('VERSION:3.0') + card('VERSION:3.0', 'FN:B'),
      ['VERSION_UNKNOWN 1', 'CARD_EMPTY 4'],
      2,
    ],
    [
      'an unclosed card',
      'BEGIN:VCARD\nVERSION:3.0\nFN:A\nBEGIN:VCARD\nVERSION:3.0\nFN:B\nEND:VCARD\n',
      ['END_MISSING 4'],
      2,
    ],
    ['a file that breaks off', 'BEGIN:VCARD\nVERSION:3.0\nFN:A\nTEL:+44207', ['END_MISSING 4'], 1],
    ['END before BEGIN', `END:VCARD\n${card('VERSION:3.0', 'FN:A')}`, ['END_WITHOUT_BEGIN 1'], 1],
    [
      'a card within AGENT',
      'BEGIN:VCARD\nVERSION:2.1\nFN:A\nAGENT:\nBEGIN:VCARD\nVERSION:2.1\nFN:B\nEND:VCARD\nTEL:+442079460111\nEND:VCARD\n',
      ['NESTED_CARD 5'],
      2,
    ],
    ['invalid base64', card('VERSION:3.0', 'FN:A', 'PHOTO;ENCODING=b:@@@'), ['BASE64_INVALID 4'], 1],
    ['control characters', card('VERSION:3.0', 'FN:A\u0000\u0007B'), ['CONTROL_CHARACTERS 3'], 1],
    ['a charset that nobody knows', card('VERSION:2.1', 'FN;CHARSET=KLINGON:A'), ['CHARSET_UNKNOWN 3'], 1],
  ])('%s', (_, text, expected, contacts) => {
    expect(codes(text)).toEqual(expected);
    expect(readContactFile(text, 'GB').contacts).toHaveLength(contacts);
  });

  test('1,000 phones: a record’s worth of them, the others kept', () => {
    const { record } = only(
      card(
        'VERSION:3.0',
        'FN:A',
        ...Array.from({ length: 1_000 }, (_, at) => `TEL:+44207946${String(at).padStart(4, '0')}`),
      ),
    );
    expect([record.details.length, record.kept.length, record.kept[0]!.why]).toEqual([400, 600, 'too-many']);
  });

  test('values that spreadsheets take for formulas stay texts', () => {
    expect(shown(only(card('VERSION:3.0', 'FN:=1+1', 'NOTE:=cmd|x')).record.details)).toEqual(['Note: =cmd|x']);
  });
});
