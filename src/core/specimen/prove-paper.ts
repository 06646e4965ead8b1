import { saidIn } from '@/core/card';
import { faceContent } from '@/core/face';
import { loadWords } from '@/core/messages';
import type { Proof } from '@/core/proof';
import { provePrintedWords } from '@/core/proof/print';
import { languageOf } from './page';
import type { Held } from './prove';

/** The proof of a draft's words on paper: what is ticked for it stands there and nothing else. What is printed is proven from its file. */
export async function proveSpecimenPaper({ composition, withheld, of }: Held): Promise<Proof> {
  const language = languageOf(composition, of);
  await loadWords(language);
  const said = saidIn(composition, language);
  const { name, role, firm, alarm, lines } = faceContent(said, language, { photo: null, logo: null }, 'lines', 'print');
  const words = [
    name,
    role,
    firm,
    ...[...(alarm ? [alarm] : []), ...lines].flatMap(({ label, value }) => [label, value]),
  ];
  return provePrintedWords(words.join('\n'), said, withheld);
}
