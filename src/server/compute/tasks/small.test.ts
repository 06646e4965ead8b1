import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import sharp from 'sharp';
import ICAL from 'ical.js';
import { prepareZXingModule } from 'zxing-wasm/reader';
import { contrast } from '@/core/look';
import { codeSvg, drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { LIMITS } from '@/core/limits';
import { checkCaptions } from './captions';
import { coloursOf } from './colours';
import { contactsOf, singleContact, type FoundContact } from './contacts';
import { judgePassword } from './password';
import { codesIn, contrastIn } from './read-picture';

const codeOf = (run: () => unknown): string => {
  try {
    run();
    return 'none';
  } catch (error) {
    return (error as { problem: { code: string } }).problem.code;
  }
};

describe('the colours of a picture', () => {
  /** A picture in bands of colours, each with its share of the height. */
  const bands = async (...parts: [colour: string, rows: number][]) => {
    const height = parts.reduce((sum, [, rows]) => sum + rows, 0);
    let top = 0;
    const composite = await Promise.all(
      parts.map(async ([background, rows]) => {
        const at = { left: 0, top };
        top += rows;
        return {
          input: await sharp({ create: { width: 90, height: rows, channels: 4, background } })
            .png()
            .toBuffer(),
          ...at,
        };
      }),
    );
    const blank = { r: 0, g: 0, b: 0, alpha: 0 };
    return sharp({ create: { width: 90, height, channels: 4, background: blank } })
      .composite(composite)
      .png()
      .toBuffer();
  };
  const near = (a: string, b: string) =>
    [1, 3, 5].every((at) => Math.abs(parseInt(a.slice(at, at + 2), 16) - parseInt(b.slice(at, at + 2), 16)) <= 6);

  test('a brand’s colour comes before white and grey, however much of those there is; what is nearly transparent is none', async () => {
    const { colours, darkest, lightest } = await coloursOf({
      bytes: await bands(['#FFFFFF', 60], ['#A8431F', 20], ['#808080', 10], ['#00FF0010', 30]),
    });
    expect(near(colours[0]!, '#A8431F')).toBe(true);
    expect(colours.some((each) => near(each, '#00FF00'))).toBe(false);
    expect([near(lightest, '#FFFFFF'), contrast(darkest, lightest) > 5]).toEqual([true, true]);
    // Where there is no other, white and black are its colours.
    const plain = await coloursOf({ bytes: await bands(['#FFFFFF', 50], ['#000000', 40]) });
    expect([plain.darkest, plain.lightest]).toEqual(['#000000', '#FFFFFF']);
    // Of nothing there is nothing.
    const none = await coloursOf({ bytes: await bands(['#12345600', 40]) });
    expect(none).toEqual({ colours: [], darkest: '#000000', lightest: '#FFFFFF' });
  });

  test('at most six, apart from each other; shades of one are one', async () => {
    const shades = await coloursOf({ bytes: await bands(['#A8431F', 30], ['#AA4521', 30], ['#A6411D', 30]) });
    expect(shades.colours).toHaveLength(1);
    const many = await coloursOf({
      bytes: await bands(
        ...['#E53935', '#1E88E5', '#43A047', '#FDD835', '#8E24AA', '#FB8C00', '#00ACC1', '#6D4C41'].map(
          (each): [string, number] => [each, 11],
        ),
      ),
    });
    expect(many.colours).toHaveLength(6);
  });
});

describe('what is read in a picture', () => {
  beforeAll(() => {
    const bytes = readFileSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'));
    const wasmBinary = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    prepareZXingModule({ overrides: { wasmBinary } });
  });
  const grey = async (svg: string, side: number) => {
    const { data, info } = await sharp(Buffer.from(svg))
      .resize(side, side)
      .flatten({ background: '#FFFFFF' })
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data: new Uint8Array(data) };
  };
  const square = (colour: string, ground: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect width="100" height="100" fill="${ground}"/><rect x="30" y="30" width="40" height="40" fill="${colour}"/></svg>`;

  // WCAG 2.2: #767676 on white is 4.54 to 1, black 21.
  test.each([
    ['#767676', '#FFFFFF', 4.54],
    ['#000000', '#FFFFFF', 21],
    ['#FFFFFF', '#FFFFFF', 1],
  ])('%s on %s has %d to 1 as painted', async (front, back, ratio) => {
    const painted = contrastIn(await grey(square(front, back), 100), { left: 10, top: 10, width: 80, height: 80 });
    expect(Math.abs(painted! - ratio)).toBeLessThan(0.1);
  });

  test('a box beyond the picture, of nothing or of a full stop says nothing', async () => {
    const picture = await grey(square('#000000', '#FFFFFF'), 100);
    for (const [left, width] of [
      [200, 50],
      [-80, 50],
      [50, 0],
      [50, 6],
      [50, -9],
    ] as const)
      expect(contrastIn(picture, { left, top: 50, width, height: 6 })).toBeNull();
  });

  test('a code is found where it was put and read by both readers; what is looked at beside it holds none', async () => {
    const drawing = drawCode(symbolFor('HTTPS://CARDS.EXAMPLE/H/7K3M9QWD'), PLAIN_STYLE);
    const picture = await grey(codeSvg(drawing, { title: 'Code' }), 500);
    const [found, ...more] = await codesIn(picture, [{ left: 0, top: 0, width: 500, height: 500 }], {
      most: 2,
      share: 1,
      exact: true,
    });
    const module = 500 / drawing.width;
    expect([more, found!.text, found!.readers]).toEqual([[], 'HTTPS://CARDS.EXAMPLE/H/7K3M9QWD', 2]);
    // ISO/IEC 18004, 9.1: four light modules around it.
    for (const [read, meant] of [
      [found!.x, 4 * module],
      [found!.y, 4 * module],
      [found!.width, 500 - 8 * module],
    ] as const)
      expect(Math.abs(read - meant)).toBeLessThan(2 * module);
    expect(
      await codesIn(picture, [{ left: 0, top: 0, width: 60, height: 60 }], { most: 2, share: 1, exact: true }),
    ).toEqual([]);
  });
});

describe('contact files', () => {
  const card = (name: string, more = '') =>
    `BEGIN:VCARD\r\nVERSION:3.0\r\nN:${name};Wynne;;;\r\nFN:Wynne ${name}\r\n${more}END:VCARD\r\n`;
  const of = (text: string | Buffer) => ({ bytes: Buffer.from(text), country: 'GB' });
  const all = (text: string | Buffer) => [...contactsOf(of(text))];

  test('one contact that is understood whole needs no review; two, or one with something strange, do', () => {
    expect(singleContact(of(card('Kest')))?.record.name.family).toBe('Kest');
    expect(singleContact(of(card('Kest') + card('Lund')))).toBeNull();
    expect(singleContact(of(card('Kest', 'TEL:not a number\r\nEMAIL\r\n')))).toBeNull();
    // A second one beyond what is read at a time is one all the same.
    expect(singleContact(of(card('Kest', `NOTE:${'x'.repeat(70_000)}\r\n`) + card('Lund')))).toBeNull();
    expect([
      codeOf(() => singleContact(of('')))!,
      codeOf(() => singleContact(of('BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n'))),
    ]).toEqual(['NOT_A_CONTACT_FILE', 'NOT_A_CONTACT_FILE']);
    expect(codeOf(() => singleContact(of('BEGIN:VCARD\r\nVERSION:3.0\r\nEND:VCARD\r\n')))).toBe('CONTACT_FILE_EMPTY');
  });

  test('a file of many comes in handfuls, everybody once, in its order, as another reader finds them (ical.js)', () => {
    const text = Array.from({ length: 137 }, (_, at) =>
      card(`Kest${at}`, at % 10 === 0 ? `NOTE:${'å'.repeat(3_000)}\r\n` : ''),
    ).join('');
    const handfuls = all(text);
    const found = handfuls.flatMap((each): FoundContact[] => each.found);
    const read = (
      ICAL.parse(text.replace(/END:VCARD\r\n/g, '$&')) as unknown as [string, [string, object, string, string][]][]
    ).map(([, properties]) => properties.find(([name]) => name === 'fn')![3]);
    expect(found.map(({ contact }) => `${contact.record.name.given} ${contact.record.name.family}`)).toEqual(read);
    expect(handfuls.map(({ found: each }) => each.length)).toEqual([50, 50, 37]);
    const shares = found.map(({ share }) => share);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    expect(shares.at(-1)).toBe(1);
    // Each at its own line.
    expect(found.every(({ line }) => text.split('\r\n')[line - 1] === 'BEGIN:VCARD')).toBe(true);
  });

  test('of more than may come in at once one more is handed over and no further one is read', () => {
    const most = LIMITS.contactsAtOnce;
    const text = card('Kest').repeat(most + 500);
    expect(all(text).reduce((sum, { found }) => sum + found.length, 0)).toBe(most + 1);
  });

  test('whatever bytes come, reading them ends, and nothing but a refusal is thrown (property)', () => {
    const piece = fc.constantFrom(
      'BEGIN:VCARD\r\n',
      'END:VCARD\r\n',
      'N:;;\r\n',
      'FN:x\r\n',
      'TEL;TYPE=',
      ':\r\n',
      '=0A=\r\n',
      '\\n',
      '\0',
      '\ufeff',
      ' ',
      'PHOTO;ENCODING=b:AAAA\r\n',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 40 }), (parts) => {
        expect(['none', 'NOT_A_CONTACT_FILE', 'CONTACT_FILE_EMPTY']).toContain(
          codeOf(() => singleContact(of(parts.join('')))),
        );
        expect(all(parts.join('')).length).toBeGreaterThan(0);
      }),
      { numRuns: 40 },
    );
  });
});

test('captions are WebVTT in UTF-8, and a fault is told by its line (W3C WebVTT, 4)', () => {
  const sound = 'WEBVTT\n\n00:00.000 --> 00:02.000\nUp we go\n';
  expect(checkCaptions({ bytes: Buffer.from(sound) })).toBeNull();
  expect(codeOf(() => checkCaptions({ bytes: Buffer.from(sound, 'utf16le') }))).toBe('CAPTIONS_UNREADABLE');
  expect(codeOf(() => checkCaptions({ bytes: Buffer.from([...Buffer.from(sound), 0xff]) }))).toBe(
    'CAPTIONS_UNREADABLE',
  );
  expect(codeOf(() => checkCaptions({ bytes: Buffer.from(sound.replace('-->', '->')) }))).toBe('CAPTIONS_UNREADABLE');
});

describe('how easily a password is guessed', () => {
  // The first of every published list of passwords that were broken (common knowledge, no published source).
  test.each([
    '1234567890',
    'qwertyuiop',
    'password123',
    'aaaaaaaaaa',
    'iloveyou12',
    'letmeinplease'.slice(0, 8),
    '19840630',
  ])('“%s” is', (password) => {
    expect(judgePassword({ password, own: [] })).not.toBeNull();
  });
  test('words of one’s own are no secret, whatever stands around them; four words of nobody’s are hard', () => {
    const own = ['Ilse Varrow', 'ilse@tarnhope.example', 'Tarnhope Cableways'];
    for (const password of ['ilsevarrow1', 'Tarnhope!2026', 'cableways-ilse', 'heathland1'])
      expect([password, judgePassword({ password, own })]).toEqual([password, 'your own words']);
    expect(judgePassword({ password: 'a wheatear over the beck', own })).toBeNull();
    expect(judgePassword({ password: 'w9$Kq!zR2vTx', own })).toBeNull();
  });
  test('ten thousand letters are looked at in a moment', () => {
    const began = performance.now();
    judgePassword({ password: 'ab'.repeat(5_000), own: ['ab'.repeat(5_000)] });
    expect(performance.now() - began).toBeLessThan(3_000);
  });
});
