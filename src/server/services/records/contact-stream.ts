import { Readable, type PassThrough } from 'node:stream';
import { ZipFile } from 'yazl';
import { drained } from '@/server/services/media/drained';
import type { ExportedContact } from './export-contacts';

/** Contacts as the bytes of one file, made while they are sent: one after the other, or a ZIP of one file each. */
export const contactStream = (contacts: AsyncGenerator<ExportedContact>, zip: boolean): ReadableStream<Uint8Array> =>
  Readable.toWeb(zip ? zipOf(contacts) : Readable.from(textsOf(contacts))) as ReadableStream<Uint8Array>;

async function* textsOf(contacts: AsyncGenerator<ExportedContact>): AsyncGenerator<Buffer> {
  for await (const { text } of contacts) yield Buffer.from(text);
}

/** Two of the same name are told apart by a number. The next contact is made once the ones before it were taken, and none when nobody takes them any more. */
function zipOf(contacts: AsyncGenerator<ExportedContact>): Readable {
  const zip = new ZipFile();
  const used = new Map<string, number>();
  // What the library writes to.
  const out = zip.outputStream as PassThrough;
  const fill = async () => {
    for await (const { fileName, text } of contacts) {
      const before = used.get(fileName) ?? 0;
      used.set(fileName, before + 1);
      zip.addBuffer(Buffer.from(text), before === 0 ? fileName : fileName.replace(/\.vcf$/, `-${before + 1}.vcf`));
      await drained(out);
      if (out.destroyed) return;
    }
    zip.end();
  };
  fill().catch((error: Error) => out.destroy(error));
  return out;
}
