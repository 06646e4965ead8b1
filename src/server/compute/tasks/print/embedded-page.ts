import { PDFDict, PDFDocument, PDFName, PDFObjectCopier, PDFRawStream, PDFRef } from '@cantoo/pdf-lib';

/** The only page of a document that was taken in, as something that is drawn one wide and one high (ISO 32000-1, 8.10). */
export async function embeddedPage(document: PDFDocument, bytes: Buffer): Promise<PDFRef> {
  const source = await PDFDocument.load(bytes, { updateMetadata: false });
  const [page] = source.getPages();
  const copier = PDFObjectCopier.for(source.context, document.context);
  const content = source.context.lookup(page!.node.get(PDFName.of('Contents')));
  if (!(content instanceof PDFRawStream)) throw new Error('a page of ours has no content');
  const { width, height } = page!.getSize();
  const form = copier.copy(content);
  const entries = {
    ...{ Type: 'XObject', Subtype: 'Form', FormType: 1, BBox: [0, 0, width, height] },
    Matrix: [1 / width, 0, 0, 1 / height, 0, 0],
  };
  for (const [key, value] of Object.entries(entries))
    form.dict.set(PDFName.of(key), document.context.obj(value as string));
  form.dict.set(PDFName.of('Resources'), copier.copy(page!.node.Resources() ?? PDFDict.withContext(source.context)));
  const group = page!.node.get(PDFName.of('Group'));
  if (group instanceof PDFDict || group instanceof PDFRef) form.dict.set(PDFName.of('Group'), copier.copy(group));
  return document.context.register(form);
}
