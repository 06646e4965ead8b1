import { TAG_ROOM } from '@/core/ndef';
import type { Proof } from '@/core/proof';
import { proveCode } from '@/core/proof/code';
import { proveTag } from '@/core/proof/tag';
import { symbolFor } from '@/core/qr';
import type { Held } from './prove';
import { specimenCode, specimenTag } from './carried';

/** The proof of a code: drawn, and read back from its pixels. */
export function proveSpecimenCode({ composition, withheld, of }: Held): Proof {
  const text = specimenCode(composition, of);
  return proveCode(symbolFor(text), text, withheld);
}

/** The proof of a tag: its bytes decoded. */
export function proveSpecimenTag({ composition, withheld, of }: Held): Proof {
  const { memory, contact } = specimenTag(composition, of);
  return proveTag(memory, { link: of.link ?? '', contact }, withheld, Math.max(...TAG_ROOM));
}
