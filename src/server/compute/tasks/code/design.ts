import sharp from 'sharp';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import {
  greyFrom,
  locate,
  paintedGrey,
  proveFound,
  repairOf,
  type FoundReport,
  type Grey,
  type Repair,
} from '@/core/proof/scan';
import { looksLikeSvg, sanitiseSvg } from '../svg';
import { codePrograms } from './programs';

/** A code of a printed design: where it stands, what it holds, how it reads. Sizes in millimetres where the file says its resolution. */
export type DesignCode = {
  report: Omit<FoundReport, 'found' | 'modules'>;
  page: number;
  /** Corners as shares of the page's width and height. */
  corners: [number, number][];
  /** Printed width of the symbol without margin, and of a module. */
  widthMm: number | null;
  repair: Repair | null;
};

export type Design = { pages: number; looked: number; width: number; height: number; codes: DesignCode[] };

/** Codes of one design that are looked at, pages of a document, pixels of a page's longer side. */
const MOST_CODES = 6;
const MOST_PAGES = 12;
const MOST_PIXELS = 2_400;
/** Dots an inch that a page of PDF is painted at, where that is not too many. */
const PAGE_DPI = 300;

type Page = { picture: Grey; number: number; pixelsPerMm: number | null };

const isPdf = (bytes: Buffer): boolean => bytes.subarray(0, 1_024).includes('%PDF-');

/** A picture's pixels on white, made smaller where it is larger than a proof needs. */
async function picturePage(bytes: Buffer): Promise<Page> {
  try {
    const source = () => sharp(bytes, { limitInputPixels: LIMITS.megapixels * 1e6, failOn: 'error' });
    const { density, width = 0, height = 0 } = await source().metadata();
    const { data, info } = await source()
      .rotate()
      .flatten({ background: '#fff' })
      .resize(MOST_PIXELS, MOST_PIXELS, { fit: 'inside', withoutEnlargement: true })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    // 72 is what files say that say nothing.
    const told = density && density !== 72 ? density / 25.4 : null;
    const scale = Math.max(info.width, info.height) / Math.max(width, height, 1);
    return { picture: greyFrom(data, info.width, info.height), number: 1, pixelsPerMm: told && told * scale };
  } catch {
    throw new Refusal({ code: 'DESIGN_UNREADABLE' });
  }
}

async function drawingPage(bytes: Buffer): Promise<Page> {
  const text = (await sanitiseSvg(bytes, { pictures: true })).toString('utf8');
  const width = /<svg[^>]*\swidth="([\d.]+)mm"/.exec(text)?.[1];
  try {
    const picture = paintedGrey(text, MOST_PIXELS / 2);
    return { picture, number: 1, pixelsPerMm: width ? picture.width / Number(width) : null };
  } catch {
    // A drawing of no size, or one that the painter cannot read.
    throw new Refusal({ code: 'DESIGN_UNREADABLE' });
  }
}

async function* pdfPages(bytes: Buffer): AsyncGenerator<Page & { of: number }> {
  const { openDocument, paintedPage } = await import('../print/pdfium');
  const document = await openDocument(bytes);
  try {
    const of = document.getPageCount();
    for (let at = 0; at < Math.min(of, MOST_PAGES); at += 1) {
      const { data, width, height, scale } = await paintedPage(document, at, { dpi: PAGE_DPI, most: MOST_PIXELS });
      yield { picture: greyFrom(data, width, height), number: at + 1, pixelsPerMm: (scale * 72) / 25.4, of };
    }
  } finally {
    document.destroy();
  }
}

async function codesOn({ picture, number, pixelsPerMm }: Page, most: number, repair: boolean): Promise<DesignCode[]> {
  const codes: DesignCode[] = [];
  for (const found of await locate(picture, most)) {
    const proven = (await proveFound(picture, found))!;
    const { found: place, modules: _, ...report } = proven;
    codes.push({
      report,
      page: number,
      corners: place.corners.map(([x, y]) => [x / picture.width, y / picture.height]),
      widthMm: pixelsPerMm && proven.widthPixels / pixelsPerMm,
      repair: repair && report.faults.length > 0 ? await repairOf(picture, proven) : null,
    });
  }
  return codes;
}

/** Looks for codes in a picture, a drawing or a document and proves each; with `repair` what would help is looked for. Errors: DESIGN_UNREADABLE, DESIGN_LOCKED, those of drawings. */
export async function proveDesign({ bytes, repair }: { bytes: Buffer; repair: boolean }): Promise<Design> {
  await codePrograms();
  const design: Design = { pages: 1, looked: 1, width: 0, height: 0, codes: [] };
  const look = async (page: Page) => {
    if (design.codes.length === 0) [design.width, design.height] = [page.picture.width, page.picture.height];
    design.codes.push(...(await codesOn(page, MOST_CODES - design.codes.length, repair)));
  };
  if (!isPdf(bytes)) await look(await (looksLikeSvg(bytes) ? drawingPage(bytes) : picturePage(bytes)));
  else
    for await (const page of pdfPages(bytes)) {
      design.pages = page.of;
      design.looked = page.number;
      await look(page);
      if (design.codes.length >= MOST_CODES) break;
    }
  return design;
}
