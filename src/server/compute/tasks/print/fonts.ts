import { createHash } from 'node:crypto';
import { PDFHexString, PDFNumber, type PDFContext, type PDFDocument, type PDFRef } from '@cantoo/pdf-lib';
import type { SetGlyph, Typesetter } from '@/core/face';
import { FAMILIES, type FamilyName, type Weight } from '@/core/look';
import { glyphsOf } from './subset';

type Used = { ref: PDFRef; name: string; family: FamilyName; weight: Weight; glyphs: Map<number, string> };

/** The typefaces of a document: each is embedded once, cut down to what was set in it, whatever page that stands on. */
export type Fonts = {
  /** The name and the reference that a page's content and resources know a typeface by. */
  use: (glyph: Pick<SetGlyph, 'family' | 'weight'>) => Pick<Used, 'name' | 'ref'>;
  /** Notes what a glyph says, and answers its code. */
  code: (glyph: SetGlyph) => string;
  /** Writes them into the document, once all is set. */
  embed: () => Promise<void>;
};

const hex4 = (value: number): string => value.toString(16).padStart(4, '0');

export function documentFonts(
  document: PDFDocument,
  typesetter: Pick<Typesetter, 'advance'>,
  file: (family: FamilyName, weight: Weight) => Uint8Array,
): Fonts {
  const used = new Map<string, Used>();
  const of = ({ family, weight }: Pick<SetGlyph, 'family' | 'weight'>): Used => {
    const key = `${family} ${weight}`;
    const known = used.get(key);
    if (known) return known;
    const made = { ref: document.context.nextRef(), name: `F${used.size}`, family, weight, glyphs: new Map() };
    used.set(key, made);
    return made;
  };
  return {
    use: of,
    code: (glyph) => {
      const { glyphs } = of(glyph);
      // What one glyph says first, it says everywhere: a narrow space and a usual one are one to whoever searches.
      if (!glyphs.get(glyph.glyph)) glyphs.set(glyph.glyph, glyph.letters.replace(/\u00a0/g, ' '));
      return hex4(glyph.glyph);
    },
    embed: async () => {
      for (const each of used.values()) await embedFont(document.context, each, typesetter, file);
    },
  };
}

/** What a font's file says of itself, in thousandths of its size: tables head and hhea of OpenType. */
function measuresOf(bytes: Uint8Array): { box: number[]; ascent: number; descent: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tables = new Map<string, number>();
  for (let at = 0; at < view.getUint16(4); at += 1) {
    const record = 12 + at * 16;
    tables.set(String.fromCharCode(...bytes.subarray(record, record + 4)), view.getUint32(record + 8));
  }
  const [head, hhea] = [tables.get('head')!, tables.get('hhea')!];
  const scale = 1_000 / view.getUint16(head + 18);
  const read = (at: number) => Math.round(view.getInt16(at) * scale);
  return { box: [36, 38, 40, 42].map((each) => read(head + each)), ascent: read(hhea + 4), descent: read(hhea + 6) };
}

/** Six letters that tell one subset from another (ISO 32000-1, 9.6.4), the same for the same glyphs. */
const subsetTag = (glyphs: number[]): string =>
  [...createHash('sha256').update(glyphs.join()).digest().subarray(0, 6)]
    .map((each) => String.fromCharCode(65 + (each % 26)))
    .join('');

/** A typeface by glyph numbers, with what they say (ISO 32000-1, 9.7: Type 0, Identity-H, ToUnicode). */
async function embedFont(
  context: PDFContext,
  { ref, family, weight, glyphs }: Used,
  typesetter: Pick<Typesetter, 'advance'>,
  file: (family: FamilyName, weight: Weight) => Uint8Array,
): Promise<void> {
  const numbers = [...glyphs.keys()].sort((a, b) => a - b);
  const bytes = await glyphsOf(file(family, weight), numbers);
  const { box, ascent, descent } = measuresOf(bytes);
  const name = `${subsetTag(numbers)}+${FAMILIES[family].name.replace(/[^A-Za-z0-9]/g, '')}-${weight === 'heavy' ? 'Bold' : 'Regular'}`;
  const descriptor = context.register(
    context.obj({
      ...{ Type: 'FontDescriptor', FontName: name, Flags: 4, FontBBox: box, ItalicAngle: 0 },
      ...{
        Ascent: ascent,
        Descent: descent,
        CapHeight: Math.round(ascent * 0.7),
        StemV: weight === 'heavy' ? 140 : 80,
      },
      FontFile2: context.register(context.flateStream(bytes, { Length1: bytes.length })),
    }),
  );
  const widths = numbers.flatMap((glyph) => [
    PDFNumber.of(glyph),
    context.obj([Math.round(typesetter.advance({ family, weight, glyph }) * 1_000)]),
  ]);
  const system = {
    Registry: PDFHexString.fromText('Adobe'),
    Ordering: PDFHexString.fromText('Identity'),
    Supplement: 0,
  };
  const descendant = context.register(
    context.obj({
      ...{ Type: 'Font', Subtype: 'CIDFontType2', BaseFont: name, CIDToGIDMap: 'Identity', DW: 0 },
      ...{ CIDSystemInfo: context.obj(system), FontDescriptor: descriptor, W: context.obj(widths) },
    }),
  );
  context.assign(
    ref,
    context.obj({
      ...{ Type: 'Font', Subtype: 'Type0', BaseFont: name, Encoding: 'Identity-H' },
      DescendantFonts: [descendant],
      ToUnicode: context.register(context.flateStream(toUnicode(glyphs))),
    }),
  );
}

/** What each code says, as UTF-16 (ISO 32000-1, 9.10.3). */
function toUnicode(glyphs: ReadonlyMap<number, string>): string {
  const said = [...glyphs].filter(([, letters]) => letters !== '').sort(([a], [b]) => a - b);
  const utf16 = (letters: string) =>
    Array.from({ length: letters.length }, (_, at) => hex4(letters.charCodeAt(at))).join('');
  const parts: string[] = [];
  for (let at = 0; at < said.length; at += 100) {
    const some = said.slice(at, at + 100);
    const lines = some.map(([glyph, letters]) => `<${hex4(glyph)}> <${utf16(letters)}>`);
    parts.push(`${some.length} beginbfchar\n${lines.join('\n')}\nendbfchar`);
  }
  return (
    '/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n' +
    '/CMapName /Heathland def\n/CMapType 2 def\n1 begincodespacerange\n<0000> <ffff>\nendcodespacerange\n' +
    `${parts.join('\n')}\nendcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n`
  );
}
