import sharp from 'sharp';
import { codeSvg } from '@/core/qr';
import { painted } from '@/core/proof/scan';
import { codePdf, type PdfOrder } from './pdf';
import { codePrograms } from './programs';

/** A file of a code: `dpi` of pictures, their pixels follow from the printed width. JPEG has no transparency: it is on white. */
export type CodeFileOrder = PdfOrder & { format: 'png' | 'jpg' | 'pdf'; dpi: number };

/** The width of the largest picture of a code, in pixels: half a metre at 300 dpi, 144 MB while it is painted. What is larger is printed from vectors. */
const MOST_PIXELS = 6_000;

/** A code as PDF, or painted by the painter of its proof, with its resolution in the file. */
export async function codeFile(order: CodeFileOrder): Promise<Buffer> {
  if (order.format === 'pdf') return codePdf(order);
  await codePrograms();
  const { drawing, widthMm, dpi, title } = order;
  const pixels = Math.min(MOST_PIXELS, Math.max(drawing.width, Math.round((widthMm / 25.4) * dpi)));
  const { data, width, height } = painted(codeSvg(drawing, { title, pixels }));
  const picture = sharp(Buffer.from(data), { raw: { width, height, channels: 4 } }).withMetadata({ density: dpi });
  if (order.format === 'jpg')
    return picture.flatten({ background: '#fff' }).jpeg({ quality: 92, chromaSubsampling: '4:4:4' }).toBuffer();
  return (drawing.ground ? picture.removeAlpha() : picture).png({ compressionLevel: 9 }).toBuffer();
}
