import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { codeSvg, drawCode, PLAIN_STYLE, symbolFor, type CodeStyle } from '@/core/qr';
import { readByBoth, type Fault } from '@/core/proof/scan';
import { closeCompute, compute } from '@/server/compute';
import '../place';
import { zbarimg } from '../zbarimg';

/*
 * Fifty designs of our own, ten codes in five states each. What a design holds is read as Debian's zbarimg reads it, and each planted fault is
 * named. That these faults are what breaks codes is common practice, no published source (checks.md).
 */
const FOLDER = mkdtempSync(path.join(tmpdir(), 'heathland-designs-'));
const TEXTS = [
  'HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9QWD',
  'Grüße aus Tarnhope',
  'MECARD:N:Varrow,Ilse;TEL:+442079460182;;',
];
const LOOKS: Partial<CodeStyle>[] = [
  {},
  { ink: '#2A2422' },
  { ink: '#6B3F6E', ground: '#F5F3EE' },
  { modules: 'dots', fill: 90 },
  { modules: 'soft', finderShape: 'soft' },
];

type State = {
  name: string;
  fault: Fault | null;
  style?: Partial<CodeStyle>;

  draw?: (svg: string, side: number) => Promise<Buffer>;
};

const pixels = 9;
const png = (svg: string) => sharp(Buffer.from(svg)).png().toBuffer();
/** On a sheet, as a design has its code. */
const onSheet = async (code: Buffer, margin: number, colour: string) =>
  sharp(code).extend({ top: margin, bottom: margin, left: margin, right: margin, background: colour }).png().toBuffer();

/** One module of the first finder pattern's outer ring painted over, as a scratch or a drop of glue leaves it. */
const chipped = async (code: Buffer) =>
  sharp(code)
    .composite([
      {
        input: { create: { width: pixels, height: pixels, channels: 3, background: '#fff' } },
        left: 7 * pixels,
        top: 4 * pixels,
      },
    ])
    .png()
    .toBuffer();

const STATES: State[] = [
  { name: 'sound', fault: null },
  {
    name: 'no margin',
    fault: 'margin',
    draw: async (svg, side) => {
      const inner = (side - 8) * pixels;
      const cut = await sharp(Buffer.from(svg))
        .extract({ left: 4 * pixels, top: 4 * pixels, width: inner, height: inner })
        .png()
        .toBuffer();
      return onSheet(cut, 40, '#46624f');
    },
  },
  { name: 'too pale', fault: 'contrast', style: { ink: '#9C9C9C', ground: '#D8D8D8', finders: null } },
  {
    name: 'light on dark',
    fault: 'inverted',
    draw: async (svg) =>
      sharp(Buffer.from(svg)).flatten({ background: '#fff' }).negate({ alpha: false }).png().toBuffer(),
  },
  {
    name: 'a chipped corner square',
    fault: 'finder',
    draw: async (svg) => onSheet(await chipped(await png(svg)), 30, '#fff'),
  },
];

async function designOf(at: number, { style, draw }: State) {
  const text = TEXTS[at % TEXTS.length]!;
  const symbol = symbolFor(text);
  const look = { ...PLAIN_STYLE, ...LOOKS[at % LOOKS.length], ...style };
  const drawing = drawCode(symbol, look);
  const svg = codeSvg(drawing, { title: '', pixels: drawing.width * pixels });
  const bytes = draw ? await draw(svg, drawing.width) : await onSheet(await png(svg), 30, look.ground ?? '#fff');
  return { text, bytes };
}

afterAll(closeCompute);

describe.each(STATES)('ten designs, $name', (state) => {
  test('each reads as zbarimg reads it, and its fault is named', async () => {
    const judged = Array.from({ length: 10 }, async (_, at) => {
      const { text, bytes } = await designOf(at, state);
      const file = path.join(FOLDER, `${state.name}-${at}.png`);
      writeFileSync(file, bytes);
      const other = zbarimg(file);
      // Of two of the ten what would help is looked for as well, and tried.
      const { codes } = await compute('design', { bytes, repair: at < 2 }, { of: `somebody ${at}` });
      expect([at, codes.map(({ report }) => report.text)]).toEqual([at, [text]]);
      if (other.length > 0) expect([at, other]).toEqual([at, [text]]);
      const { report, repair } = codes[0]!;
      if (state.fault && at < 2) expect(repair?.after).toBeGreaterThanOrEqual(22);
      if (state.fault) expect([at, report.faults]).toEqual([at, expect.arrayContaining([state.fault])]);
      else expect([at, other, report.faults, readByBoth(report.proof).read >= 22]).toEqual([at, [text], [], true]);
    });
    await Promise.all(judged);
  });
});
