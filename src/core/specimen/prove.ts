import {
  composeDraft,
  languagesOf,
  linesIn,
  saidIn,
  withheldFrom,
  withheldFromAll,
  type Composition,
  type Draft,
} from '@/core/card';
import { err, ok, type Result } from '@/core/errors';
import { applyHouseStyle, withoutHouse } from '@/core/house';
import { loadWords } from '@/core/messages';
import { page } from '@/core/page';
import type { Proof } from '@/core/proof';
import { proveRead } from '@/core/proof/page';
import type { ReadPage } from '@/core/proof/read-page';
import type { PersonRecord } from '@/core/record';
import { languageOf, specimenPage, type SpecimenOf } from './page';

/** Headers of an answer with the page: content type, policy, caching and the rest, rounded up, in bytes. */
const HEADER_BYTES = 900;

/** A draft as one channel has it: what goes out, and the values that must not. */
export type Held = { composition: Composition; withheld: string[]; of: SpecimenOf };

/** What a proof is held against. Error: the first wording that cannot be read. */
export function held(record: PersonRecord, draft: Draft, country: string, of: SpecimenOf): Result<Held> {
  const composed = composeDraft(record, draft, country);
  if (!composed.ok) return err(composed.problem);
  const shown = applyHouseStyle(composed.value, of.house);
  const composition = of.language && of.channel === 'page' ? saidIn(shown, of.language) : shown;
  const withheld = withoutHouse(unticked(record, draft, country, of, shown), draft.look, of.house, of.channel);
  return ok({ composition, withheld, of });
}

/** A card of several languages is held against what it says in the one that is shown; a contact file may say it in all of them. */
function unticked(record: PersonRecord, draft: Draft, country: string, of: SpecimenOf, shown: Composition): string[] {
  if (of.channel === 'file') return withheldFromAll(record, draft, languagesOf(shown), 'file', country);
  const lines = of.language ? linesIn(draft.lines, record, draft.words, of.language) : draft.lines;
  return withheldFrom(record, lines, of.channel, country);
}

/** Bytes of a text at gzip's usual level (6), as a server sends it. */
export async function compressedSize(text: string): Promise<number> {
  const stream = new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'));
  return (await new Response(stream).arrayBuffer()).byteLength;
}

/** The proof of the page of a draft: the very page is made and read back. `compressed` tells its size in bytes at gzip level 6, `read` what a parser finds in it. */
export async function proveSpecimenPage(
  { composition, withheld, of }: Held,
  compressed: (html: string) => Promise<number>,
  read: (html: string) => ReadPage,
): Promise<Proof> {
  await loadWords(languageOf(composition, of));
  const html = page(specimenPage(composition, of));
  return proveRead(read(html), (await compressed(html)) + HEADER_BYTES, composition, withheld);
}
