import { saidIn } from '@/core/card';
import { withoutBelow } from '@/core/house';
import type { Proof } from '@/core/proof';
import { proveSignature } from '@/core/proof/signature';
import { belowIn } from '@/core/signature';
import { specimenSignature } from './carried';
import type { Held } from './prove';

/** The proof of a signature: read back with its pictures blocked, as a word processor's engine has it, in the dark and as text. */
export function proveSpecimenSignature({ composition, withheld, of }: Held): Proof {
  const said = saidIn(composition, composition.language ?? 'en');
  // Its pictures are the studio's own here, and linked where it goes out.
  const { html, ...texts } = specimenSignature(said, of);
  const made = { ...texts, html: html.replaceAll('src="/api/pictures/', 'src="cid:') };
  const below = belowIn(of.house?.signature, said.language ?? 'en');
  return proveSignature(made, {
    ...{ composition: said, withheld: withoutBelow(withheld, below), below },
    ...{ link: of.link, pictures: 'linked', pictureBytes: 0 },
  });
}
