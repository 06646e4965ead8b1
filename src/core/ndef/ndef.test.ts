import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { decodeMessage, encodeMessage, inTagMemory, messageInMemory, tagMemory, tagRecords } from './message';
import { mediaRecord, seenRecord, textRecord, uriRecord, type NdefRecord } from './records';
import { saysTheSame, seenByWeb, webRecords } from './web';

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex').toUpperCase();
const LINK = 'https://c.example/h/7K3M9QWD';
const CONTACT = 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ilse Värrow\r\nEND:VCARD\r\n';
const decoded = (message: Uint8Array) => {
  const read = decodeMessage(message);
  return read.ok ? read.value.map(seenRecord) : null;
};

test('a link record has the bytes of the URI record type’s own example (NFC Forum, URI RTD 1.0, A.1; from memory)', () => {
  expect(hex(encodeMessage([uriRecord('http://www.nfc.com')]))).toBe('D1010855016E66632E636F6D');
});

test('a text record has the bytes of the Text record type’s own example: “Hello, World!” in English of the United States (Text RTD 1.0; from memory)', () => {
  expect(hex(textRecord('Hello, World!', 'en-US').payload)).toBe('05656E2D555348656C6C6F2C20576F726C6421');
});

test('in a tag’s memory stand the TLV of the message and its end; from 255 bytes on the length takes three (Type 2 Tag, 2.3)', () => {
  expect(hex(inTagMemory(Uint8Array.from([0xd0, 0, 0])))).toBe('0303D00000FE');
  expect(hex(inTagMemory(new Uint8Array(254)).subarray(0, 2))).toBe('03FE');
  expect(hex(inTagMemory(new Uint8Array(255)).subarray(0, 4))).toBe('03FF00FF');
  const long = inTagMemory(new Uint8Array(300));
  expect([long.length, hex(long.subarray(0, 4)), long.at(-1)]).toEqual([305, '03FF012C', 0xfe]);
});

test('a payload of 256 bytes and more takes the long form, and only the last record ends the message (NDEF 1.0, 3.2)', () => {
  const message = encodeMessage([uriRecord(LINK), mediaRecord('text/vcard', 'x'.repeat(256))]);
  expect(message[0]).toBe(0x91); // begin, short, well-known
  const second = 3 + 1 + message[2]!;
  expect(hex(message.subarray(second, second + 6))).toBe('420A00000100'); // end, media type, 10 letters of type, 256 bytes
});

/** Messages as Qt reads them (Debian's python3-pyqt6.qtnfc). */
const readByQt = (messages: Uint8Array[]) =>
  execFileSync('/usr/bin/python3', ['tests/fixtures/read-ndef.py'], {
    input: messages.map((each) => Buffer.from(each).toString('hex')).join('\n'),
    encoding: 'utf8',
  })
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as [string, string, string][]);

/** Addresses of every kind that we write, and the beginnings that the URI record type has a code for. */
const STARTS = [
  'http://www.',
  'https://www.',
  'http://',
  'https://',
  'tel:',
  'mailto:',
  'sip:',
  'urn:epc:id:',
  'urn:nfc:',
];

test('Qt reads what we write: links of each beginning, words of a language, contacts of any length', () => {
  const links = STARTS.map((start) => `${start}ilse.example`);
  const messages = [
    ...links.map((link) => encodeMessage([uriRecord(link)])),
    encodeMessage(tagRecords({ link: LINK, words: { text: 'Grüezi, 你好', language: 'de-CH' } })),
    encodeMessage(tagRecords({ link: LINK, contact: CONTACT })),
    encodeMessage(tagRecords({ link: LINK, contact: CONTACT.repeat(12) })),
  ];
  const read = readByQt(messages);
  links.forEach((link, at) => {
    const [kind, uri, payload] = read[at]![0]!;
    // One byte stands for the beginning.
    expect([kind, uri, payload.length / 2]).toEqual(['link', link, 1 + 'ilse.example'.length]);
  });
  expect(read.at(-3)!.map((record) => record.slice(0, 2))).toEqual([
    ['link', LINK],
    ['text', 'Grüezi, 你好'],
  ]);
  expect(read.at(-3)![1]![2]).toBe('de-CH');
  expect(read.slice(-2).map(([, contact]) => contact!.slice(0, 2))).toEqual([
    ['text/vcard', CONTACT],
    ['text/vcard', CONTACT.repeat(12)],
  ]);
});

test('a library of the registry reads it as well, and we read what it writes', async () => {
  const { default: library } = await import('@taptrack/ndef');
  const ours = encodeMessage(tagRecords({ link: LINK, contact: CONTACT.repeat(9) }));
  const records = library.Message.fromBytes(ours).getRecords();
  expect(records.map((record) => Buffer.from(record.getType()).toString())).toEqual(['U', 'text/vcard']);
  expect(Buffer.from(records[1]!.getPayload()).toString()).toBe(CONTACT.repeat(9));
  expect(library.Utils.resolveUriRecordToString(records[0]!)).toBe(LINK);
  const theirs = new library.Message([
    library.Utils.createUriRecord('https://www.fells.example/x'),
    library.Utils.createTextRecord('Here you are', 'en'),
  ]).toByteArray();
  expect(decoded(theirs)).toEqual([
    { kind: 'link', uri: 'https://www.fells.example/x' },
    { kind: 'text', text: 'Here you are', language: 'en' },
  ]);
});

test('records with ids and in pieces are read as one (NDEF 1.0, 2.3.3 and 3.2), others’ TLVs before the message are passed over (Type 2 Tag 2.3)', () => {
  // By hand: begin, in pieces, short, well-known, “T” … then a piece of the unchanged type that ends it.
  const pieces = Uint8Array.from([0xb1, 1, 3, 0x54, 2, 0x65, 0x6e, 0x56, 0, 2, 0x48, 0x69]);
  expect(decoded(pieces)).toEqual([{ kind: 'text', text: 'Hi', language: 'en' }]);
  const withId = Uint8Array.from([0xd9, 1, 2, 1, 0x55, 0x61, 4, 0x78]);
  expect(decoded(withId)).toEqual([{ kind: 'link', uri: 'https://x' }]);
  const memory = Uint8Array.from([0, 1, 3, 0xa0, 0x10, 0x44, ...inTagMemory(withId)]);
  const found = messageInMemory(memory);
  expect(found.ok && hex(found.value)).toBe(hex(withId));
});

test('whatever bytes lie on a tag, reading them ends with records or with none (property)', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 120 }), (bytes) => {
      decodeMessage(bytes);
      messageInMemory(bytes);
      const cut = tagMemory({ link: LINK, contact: CONTACT }).slice(0, bytes.length);
      const message = messageInMemory(cut);
      // What is cut off is never taken for whole.
      if (bytes.length < 60) expect(message.ok).toBe(false);
    }),
    { numRuns: 500 },
  );
});

test('a browser is given the records that lie in the bytes, and what it reads is compared with them (W3C Web NFC: url, text, mime)', () => {
  const records: NdefRecord[] = tagRecords({ link: LINK, contact: CONTACT, words: { text: 'Hi', language: 'en' } });
  const given = webRecords(records);
  expect(given.map(({ recordType }) => recordType)).toEqual(['url', 'mime', 'text']);
  const view = (text: string) => {
    const bytes = new TextEncoder().encode(text);
    return new DataView(bytes.buffer);
  };
  const read = [
    seenByWeb({ recordType: 'url', data: view(LINK) }),
    seenByWeb({ recordType: 'mime', mediaType: 'text/vcard', data: view(CONTACT) }),
    seenByWeb({ recordType: 'text', lang: 'en', encoding: 'utf-8', data: view('Hi') }),
  ];
  const wanted = records.map(seenRecord);
  expect(saysTheSame(read, wanted)).toBe(true);
  expect(saysTheSame(read.slice(0, 2), wanted)).toBe(false);
  expect(saysTheSame([seenByWeb({ recordType: 'url', data: view(`${LINK}x`) }), ...read.slice(1)], wanted)).toBe(false);
});
