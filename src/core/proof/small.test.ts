import fc from 'fast-check';
import { encodeMessage, inTagMemory, mediaRecord, tagMemory, uriRecord } from '@/core/ndef';
import { symbolFor, type Symbol } from '@/core/qr';
import { proveCode } from './code';
import { pictureTells } from './picture-metadata';
import { proveTag } from './tag';
import type { Proof } from './proof';

const LINK = 'https://cards.example/h/0a1b2c';
const CONTACT = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Varrow;Ilse;;;\r\nFN:Ilse Varrow\r\nEND:VCARD\r\n';
const failed = ({ checks }: Proof) => checks.filter(({ passed }) => !passed).map(({ name }) => name);

describe('the proof of a tag', () => {
  const prove = (memory: Uint8Array, contact: string | null = null, withheld: string[] = []) =>
    failed(proveTag(memory, { link: LINK, contact }, withheld, 872));

  // NFC Forum, Type 2 Tag 2.3 (TLV 03, FE) and NDEF 1.0 3.2, URI RTD 1.0 3.2.2 (04 is “https://”): bytes by hand, from memory.
  const byHand = (payload: number[]) =>
    Uint8Array.from([0x03, payload.length + 4, 0xd1, 0x01, payload.length, 0x55, ...payload, 0xfe]);

  test('a link written by hand is read, and one that leads elsewhere is not taken for it', () => {
    const rest = [...Buffer.from('cards.example/h/0a1b2c')];
    expect(prove(byHand([0x04, ...rest]))).toEqual([]);
    expect(prove(byHand([0x03, ...rest]))).toEqual(['read back']);
    expect(prove(byHand([0x00, ...Buffer.from(LINK)]))).toEqual([]);
    expect(prove(byHand([0x04, ...Buffer.from('cards.example/h/0a1b2d')]))).toEqual(['read back']);
    // A record in the long form that breaks off within its length, and nothing at all.
    for (const broken of [[0x03, 0x03, 0xc1, 0x01, 0x00, 0xfe], [0x03, 0x00, 0xfe], [0x03], []])
      expect(prove(Uint8Array.from(broken))).toEqual(['read back', 'link first']);
  });

  test('any byte that another one stands for fails, with a contact of any length (property)', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(null, CONTACT, CONTACT.replace('Ilse Varrow', 'I'.repeat(180)), 'N'.repeat(600)),
        fc.nat(),
        fc.integer({ min: 1, max: 255 }),
        (contact, place, by) => {
          const memory = tagMemory({ link: LINK, contact });
          expect(prove(memory, contact)).toEqual([]);
          const at = place % memory.length;
          const other = Uint8Array.from(memory, (byte, index) => (index === at ? byte ^ by : byte));
          expect(prove(other, contact)).not.toEqual([]);
          // Cut off anywhere, and its length told so that it ends there.
          const cut = memory.slice(0, at);
          expect(prove(cut, contact)).not.toEqual([]);
          // Without its last byte, which only ends the memory, the message itself is whole.
          if (at < memory.length - 1)
            expect(prove(inTagMemory(cut.slice(memory[1] === 0xff ? 4 : 2)), contact)).not.toEqual([]);
        },
      ),
      { numRuns: 400 },
    );
  });

  test('the contact first, another contact, none, or a value that is not ticked in it: each is told', () => {
    const link = uriRecord(LINK);
    const contact = mediaRecord('text/vcard', CONTACT);
    const of = (...records: Parameters<typeof encodeMessage>[0]) => inTagMemory(encodeMessage(records));
    expect(prove(of(link, contact), CONTACT)).toEqual([]);
    expect(prove(of(contact, link), CONTACT)).toEqual(['read back', 'link first']);
    expect(prove(of(link), CONTACT)).toEqual(['read back']);
    expect(prove(of(link, contact))).toEqual(['read back']);
    expect(prove(of(link, contact, contact), CONTACT)).toEqual(['read back']);
    expect(prove(of(link, mediaRecord('text/plain', CONTACT)), CONTACT)).toEqual(['read back']);
    expect(prove(of(link, mediaRecord('text/vcard', CONTACT.replace('Ilse', 'Else'))), CONTACT)).toEqual(['read back']);
    expect(prove(of(link, contact), CONTACT, ['ilse-VARROW'])).toEqual(['unticked lines']);
    expect(prove(of(link, contact), CONTACT, ['Kest'])).toEqual([]);
  });

  test('what a tag does not hold is told with the figures', () => {
    const memory = tagMemory({ link: LINK, contact: CONTACT });
    const room = (bytes: number) => proveTag(memory, { link: LINK, contact: CONTACT }, [], bytes);
    expect(failed(room(memory.length))).toEqual([]);
    expect(failed(room(memory.length - 1))).toEqual(['room']);
    expect(room(144).checks.at(-1)!.finding).toEqual({ code: 'FITS', bytes: memory.length, room: 144 });
  });
});

describe('the proof of a code', () => {
  const other = (symbol: Symbol, share: number): Symbol => ({
    ...symbol,
    // Modules in the middle, away from what a reader finds a code by.
    dark: symbol.dark.map((dark, at) => {
      const [x, y] = [at % symbol.size, Math.floor(at / symbol.size)];
      const inside = x > 9 && y > 9 && x < symbol.size - 3 && y < symbol.size - 3;
      return inside && (x * 31 + y * 17) % 100 < share ? 1 - dark : dark;
    }),
  });

  test('a code reads back at every size; beyond what its level mends it does not (ISO/IEC 18004 table 13: Q about 25 %)', () => {
    const symbol = symbolFor(LINK, 'Q');
    expect(failed(proveCode(symbol, LINK, []))).toEqual([]);
    expect(proveCode(symbol, LINK, []).checks[0]!.finding).toEqual({ code: 'CODE_READ', read: 4, of: 4 });
    expect(failed(proveCode(other(symbol, 2), LINK, []))).toEqual([]);
    expect(failed(proveCode(other(symbol, 60), LINK, []))).toEqual(['read back']);
  });

  test('a code of another text, and one that holds what is not ticked, fail', () => {
    expect(failed(proveCode(symbolFor(`${LINK}?`), LINK, []))).toEqual(['read back']);
    expect(failed(proveCode(symbolFor(CONTACT), CONTACT, ['Ilse  Varrow', 'Kest']))).toEqual(['unticked lines']);
    expect(failed(proveCode({ ...symbolFor(LINK), dark: symbolFor(LINK).dark.map(() => 0) }, LINK, []))).toEqual([
      'read back',
    ]);
  });
});

describe('what a picture tells about itself', () => {
  const png = (...chunks: [string, string][]) =>
    Buffer.concat([
      Buffer.from('89504e470d0a1a0a', 'hex'),
      ...chunks.map(([kind, data]) => {
        const length = Buffer.alloc(4);
        length.writeUInt32BE(data.length);
        return Buffer.concat([length, Buffer.from(kind + data, 'latin1'), Buffer.alloc(4)]);
      }),
    ]).toString('base64');
  const jpeg = (...segments: [number, string][]) =>
    Buffer.concat([
      Buffer.from('ffd8', 'hex'),
      ...segments.map(([marker, data]) => {
        const length = Buffer.alloc(2);
        length.writeUInt16BE(data.length + 2);
        return Buffer.concat([Buffer.from([0xff, marker]), length, Buffer.from(data, 'latin1')]);
      }),
      Buffer.from('ffda0002ffd9', 'hex'),
    ]).toString('base64');

  // W3C PNG 11.3: text, time and Exif are told; colours and points are not.
  test.each([
    ['tEXt', true],
    ['zTXt', true],
    ['iTXt', true],
    ['eXIf', true],
    ['tIME', true],
    ['IDAT', false],
    ['gAMA', false],
    ['iCCP', false],
  ])('a PNG chunk %s: %s', (kind, tells) => {
    expect(pictureTells(png(['IHDR', 'x'], [kind, 'at home'], ['IEND', '']))).toEqual({
      tells,
      texts: tells ? 'at home' : '',
    });
  });

  // ITU-T T.81 B.1.1.4: application segments and comments; JFIF's, Adobe's and those of colours are harmless.
  test.each([
    [0xe1, 'Exif\0\0at home', true],
    [0xef, 'Maker\0at home', true],
    [0xfe, 'at home', true],
    [0xe0, 'JFIF\0at home', false],
    [0xe0, 'JFXX\0at home', false],
    [0xe2, 'ICC_PROFILE\0at home', false],
    [0xee, 'Adobe\0at home', false],
    [0xee, 'AdobedDat home', false],
    [0xdb, 'at home', false],
    [0xf0, 'at home', false],
  ])('a JPEG segment %i with %j: %s', (marker, data, tells) => {
    expect(pictureTells(jpeg([0xe0, 'JFIF\0'], [marker, data]))).toEqual({ tells, texts: tells ? data : '' });
  });

  test('several pieces are all read; points after the start of the scan, and what is no picture, tell nothing', () => {
    expect(pictureTells(jpeg([0xfe, 'one'], [0xfe, 'two'])).texts).toBe('one\ntwo');
    expect(pictureTells(png(['tEXt', 'one'], ['tEXt', 'two'])).texts).toBe('one\ntwo');
    expect(pictureTells(jpeg([0xda, 'x'], [0xfe, 'after'])).tells).toBe(false);
    expect(pictureTells(Buffer.from('GIF89a at home').toString('base64'))).toEqual({ tells: false, texts: '' });
    expect(pictureTells('')).toEqual({ tells: false, texts: '' });
    expect(pictureTells('***')).toEqual({ tells: false, texts: '' });
  });
});
