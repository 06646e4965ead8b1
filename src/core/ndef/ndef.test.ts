import { encodeMessage, inTagMemory, mediaRecord, uriRecord } from './index';

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex').toUpperCase();

test('a link record has the bytes of the URI record type’s own example (NFC Forum, URI RTD 1.0, A.1; from memory)', () => {
  expect(hex(encodeMessage([uriRecord('http://www.nfc.com')]))).toBe('D1010855016E66632E636F6D');
});

test('in a tag’s memory stand the TLV of the message and its end; from 255 bytes on the length takes three (Type 2 Tag, 2.3)', () => {
  expect(hex(inTagMemory(Uint8Array.from([0xd0, 0, 0])))).toBe('0303D00000FE');
  expect(hex(inTagMemory(new Uint8Array(254)).subarray(0, 2))).toBe('03FE');
  expect(hex(inTagMemory(new Uint8Array(255)).subarray(0, 4))).toBe('03FF00FF');
  const long = inTagMemory(new Uint8Array(300));
  expect([long.length, hex(long.subarray(0, 4)), long.at(-1)]).toEqual([305, '03FF012C', 0xfe]);
});

test('a payload of 256 bytes and more takes the long form, and only the last record ends the message (NDEF 1.0, 3.2)', () => {
  const message = encodeMessage([
    uriRecord('https://c.example/h/7K3M9QWD'),
    mediaRecord('text/vcard', 'x'.repeat(256)),
  ]);
  expect(message[0]).toBe(0x91); // begin, short, well-known
  const second = 3 + 1 + message[2]!;
  expect(hex(message.subarray(second, second + 6))).toBe('420A00000100'); // end, media type, 10 letters of type, 256 bytes
});
