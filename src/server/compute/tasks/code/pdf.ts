import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import type { Drawing } from '@/core/qr';
import { drawingOperators, noResources, type Spot } from '../print/drawing';
import { op, type Matrix } from '../print/operators';

const POINTS_PER_MM = 72 / 25.4;

export type PdfOrder = { drawing: Drawing; widthMm: number; title: string; spot: Spot | null };

/** A code as a page of PDF that is as large as the code with its margin, in vectors; the same order gives the same bytes. */
export async function codePdf({ drawing, widthMm, title, spot }: PdfOrder): Promise<Buffer> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setTitle(title);
  document.setProducer('Heathland');
  const scale = (widthMm * POINTS_PER_MM) / drawing.width;
  const page = document.addPage([drawing.width * scale, drawing.height * scale]);
  const resources = noResources();
  // Modules from the top left, as the drawing has them.
  const matrix: Matrix = [scale, 0, 0, -scale, 0, drawing.height * scale];
  const drawn = await drawingOperators(document, resources, { drawing, matrix, prefix: '', spot });
  const { context } = document;
  page.node.set(PDFName.of('Resources'), context.obj(resources));
  page.node.set(PDFName.of('Contents'), context.register(context.flateStream(`q\n${op('cm', ...matrix)}${drawn}Q\n`)));
  return Buffer.from(await document.save({ useObjectStreams: false }));
}
