import { PDFDocument } from '@cantoo/pdf-lib';
import { contrast, hexOf } from '@/core/look';
import { POINTS_PER_MM, type Artwork, type Lying } from '@/core/print';
import { QUIET_ZONE } from '@/core/qr';
import type { ReadArtwork } from '@/core/proof/print';
import type { Grey } from '@/core/proof/scan';
import { marksOf } from './pdfium';
import { paintedPages } from './read';

/** A design as it is given to a piece: its bytes as they were taken in, and what is known of them. */
export type GivenArtwork = { bytes: Buffer; artwork: Artwork };

/** What a design says, laid on its piece, and pixels an inch of its pictures as large as they are there. */
export async function readArtwork(
  { bytes, artwork }: GivenArtwork,
  lying: Lying,
): Promise<Pick<ReadArtwork, 'artwork' | 'lying' | 'text' | 'letters'> & { dpi: number[] }> {
  const { box } = lying;
  if (artwork.kind === 'picture')
    return { artwork, lying, text: '', letters: [], dpi: [artwork.width / (box.width / 25.4)] };
  const { text, letters, dpi, width } = await marksOf(bytes);
  // From points of its own page to millimetres of the piece, and how much larger it became on the way.
  const mm = box.width / width;
  const larger = box.width / artwork.width;
  return {
    ...{ artwork, lying, text },
    letters: letters.map((each) => ({
      ...{ x: box.x + each.x * mm, y: box.y + each.y * mm, width: each.width * mm, height: each.height * mm },
      points: (each.points * mm * 72) / 25.4,
    })),
    dpi: dpi.map((each) => each / larger),
  };
}

type Coded = { x: number; y: number; width: number; height: number; drawing: { width: number } };

/** Within the cut so far a side is looked at for what its edges are, in millimetres; and a grey level that is white to whoever looks. */
const [EDGE_MM, WHITE] = [0.8, 250];

/** What is painted at the edges of each side and around its codes; `codes` from the trim's top left in millimetres. */
export async function paintedSides(
  bytes: Buffer,
  codes: (side: number) => Coded[],
): Promise<Pick<ReadArtwork, 'whiteEdges' | 'zones'>[]> {
  const document = await PDFDocument.load(bytes, { updateMetadata: false });
  const made: Pick<ReadArtwork, 'whiteEdges' | 'zones'>[] = [];
  const pages = document.getPages();
  for await (const { grey, scale } of paintedPages(bytes)) {
    const page = pages[made.length]!;
    const trim = page.getTrimBox();
    const dots = scale * POINTS_PER_MM;
    const [left, top] = [trim.x * scale, (page.getHeight() - trim.y - trim.height) * scale];
    const cut = { left, top, width: trim.width * scale, height: trim.height * scale };
    made.push({
      whiteEdges: Math.min(...ringLevels(grey, cut, EDGE_MM * dots)) >= WHITE,
      zones: codes(made.length).map(({ drawing, ...box }) =>
        zoneOf(grey, {
          ...{ left: left + box.x * dots, top: top + box.y * dots },
          ...{ width: box.width * dots, height: box.height * dots },
          module: (box.width / drawing.width) * dots,
        }),
      ),
    });
  }
  return made;
}

type Framed = { left: number; top: number; width: number; height: number };

/** The grey levels within the edges of a box, so wide. */
function ringLevels(grey: Grey, { left, top, width, height }: Framed, wide: number): number[] {
  const [x0, y0] = [Math.max(0, Math.ceil(left)), Math.max(0, Math.ceil(top))];
  const [x1, y1] = [Math.min(grey.width, Math.floor(left + width)), Math.min(grey.height, Math.floor(top + height))];
  const levels = new Set<number>();
  for (let y = y0; y < y1; y += 1) {
    const lying = y < y0 + wide || y >= y1 - wide;
    for (let x = x0; x < x1; x += 1) {
      if (!lying && x === Math.ceil(x0 + wide)) x = Math.max(x, Math.floor(x1 - wide));
      levels.add(grey.data[y * grey.width + x]!);
    }
  }
  return [...levels].sort((a, b) => a - b);
}

const shade = (level: number): string => hexOf([level / 255, level / 255, level / 255]);

/** The ground of a code's margin, in itself and against the code's own dark or light. */
function zoneOf(grey: Grey, { module, ...box }: Framed & { module: number }): ReadArtwork['zones'][number] {
  // What is painted at the very edges is half of one and half of the other.
  const inset = Math.max(1, module / 2);
  const inner = {
    left: box.left + inset,
    top: box.top + inset,
    width: box.width - 2 * inset,
    height: box.height - 2 * inset,
  };
  const ring = ringLevels(grey, inner, Math.max(1, QUIET_ZONE * module - 2 * inset));
  const [darkest, lightest] = [ring[0] ?? 0, ring.at(-1) ?? 255];
  const zone = QUIET_ZONE * module;
  const symbol = {
    left: box.left + zone,
    top: box.top + zone,
    width: box.width - 2 * zone,
    height: box.height - 2 * zone,
  };
  const finder = finderLevel(grey, symbol, module);
  return { spread: contrast(shade(darkest), shade(lightest)), contrast: contrast(shade(finder), shade(darkest)) };
}

/** The grey level of the middle of a finder pattern, which is as dark as the symbol is. */
function finderLevel(grey: Grey, { left, top }: Framed, module: number): number {
  const [x, y] = [Math.round(left + 3.5 * module), Math.round(top + 3.5 * module)];
  return grey.data[Math.min(grey.data.length - 1, Math.max(0, y * grey.width + x))]!;
}
