import type { Composition } from '@/core/card';
import type { SpecimenOf } from '@/core/specimen';
import { specimenSignature } from '@/core/specimen/carried';
import { SIGNATURE } from '@/core/words';
import { useWords } from './use-words';

/** The signature below a message, in a frame that runs nothing and has no style of the studio's. */
export function SignatureView({ composition, of }: { composition: Composition; of: SpecimenOf }) {
  const worded = useWords(composition.language ?? 'en');
  if (!worded) return null;
  const { html } = specimenSignature(composition, of);
  return (
    <iframe
      className="mail-frame"
      title={SIGNATURE.frame}
      sandbox="allow-same-origin"
      srcDoc={`<body style="margin:16px">${html}</body>`}
    />
  );
}
