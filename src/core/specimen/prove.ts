import { compose, withheldFrom, type Draft } from '@/core/card';
import type { Problem } from '@/core/errors';
import { TAG_ROOM } from '@/core/ndef';
import { proveCode, proveContactFile, provePage, proveTag, type Proof } from '@/core/proof';
import { symbolFor } from '@/core/qr';
import type { PersonRecord } from '@/core/record';
import { writeContactFile } from '@/core/vcard';
import { specimenCode, specimenPage, specimenTag, type SpecimenOf } from './specimen';

/** Headers of an answer with the page: content type, policy, caching and the rest, rounded up, in bytes. */
const HEADER_BYTES = 900;

/**
 * The proof of a draft on one channel: the very output is made, read back and held against the ticks. `compressed` tells the size
 * of a page in bytes at gzip level 6. Error: the first wording that cannot be read.
 */
export async function proveSpecimen(
  record: PersonRecord,
  draft: Draft,
  country: string,
  of: SpecimenOf,
  compressed: (html: string) => Promise<number>,
): Promise<{ proof: Proof } | { problem: Problem }> {
  const composed = compose(record, draft.lines, country, draft.language);
  if (!composed.ok) return { problem: composed.problem };
  const composition = composed.value;
  const withheld = withheldFrom(record, draft.lines, of.channel, country);
  switch (of.channel) {
    case 'page': {
      const html = specimenPage(composition, of);
      return { proof: provePage(html, (await compressed(html)) + HEADER_BYTES, composition, withheld) };
    }
    case 'file':
      return { proof: proveContactFile(writeContactFile(composition, of.file), composition, withheld, of.file) };
    case 'code': {
      const text = specimenCode(composition, of);
      return { proof: proveCode(symbolFor(text), text, withheld) };
    }
    case 'tag': {
      const { memory, contact } = specimenTag(composition, of);
      return { proof: proveTag(memory, contact, withheld, Math.max(...TAG_ROOM)) };
    }
  }
}
