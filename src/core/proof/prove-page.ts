import type { Composition } from '@/core/card';
import { proveRead } from './page';
import { readPage } from './parse-page';
import type { Proof } from './proof';

/** The proof of a page as it is served: {@link proveRead} of what a parser that is not ours finds in `html`. */
export const provePage = (
  html: string,
  compressedBytes: number | null,
  composition: Composition,
  withheld: string[],
): Proof => proveRead(readPage(html), compressedBytes, composition, withheld);
