import { saidIn } from '@/core/card';
import { faceContent, wordsOnFace } from '@/core/face';
import { loadWords } from '@/core/messages';
import { passFields, textsOfPass } from '@/core/pass';
import type { Proof } from '@/core/proof';
import { provePrintedWords } from '@/core/proof/print';
import { languageOf } from './page';
import type { Held } from './prove';

/** The proof of a draft's words on paper, on a backdrop or on a pass: what is ticked for it stands there and nothing else. What is made of it is proven from its file. */
export async function proveSpecimenPiece(
  { composition, withheld, of }: Held,
  channel: 'print' | 'backdrop' | 'pass',
): Promise<Proof> {
  const language = languageOf(composition, of);
  await loadWords(language);
  const said = saidIn(composition, language);
  const words =
    channel === 'pass'
      ? textsOfPass(passFields(said, language))
      : wordsOnFace(faceContent(said, language, { photo: null, logo: null }, 'lines', channel));
  return provePrintedWords(words.join('\n'), said, withheld, channel);
}
