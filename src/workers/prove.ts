import type { Draft } from '@/core/card';
import type { Proof } from '@/core/proof';
import { readPage } from '@/core/proof/parse-page';
import type { PersonRecord } from '@/core/record';
import type { SpecimenOf } from '@/core/specimen';
import { compressedSize, held, proveSpecimenPage, type Held } from '@/core/specimen/prove';

/** What the proof of a specimen is asked for, and what comes back; `at` tells answers apart. */
export type ProofAsked = { at: number; record: PersonRecord; draft: Draft; country: string; of: SpecimenOf };
export type ProofTold = { at: number; proof: Proof | null };

/** Readers of files and codes are large: each is loaded when its channel is first looked at. */
async function prove(draft: Held): Promise<Proof> {
  switch (draft.of.channel) {
    case 'page':
      return proveSpecimenPage(draft, compressedSize, readPage);
    case 'file':
      return (await import('@/core/specimen/prove-file')).proveSpecimenFile(draft);
    case 'code':
      return (await import('@/core/specimen/prove-code')).proveSpecimenCode(draft);
    case 'signature':
      return (await import('@/core/specimen/prove-signature')).proveSpecimenSignature(draft);
    case 'print':
    case 'backdrop':
    case 'pass':
      return (await import('@/core/specimen/prove-paper')).proveSpecimenPiece(draft, draft.of.channel);
    case 'tag':
      return (await import('@/core/specimen/prove-code')).proveSpecimenTag(draft);
  }
}

// A worker of the browser's: proofs read back what was written, which takes longer than a key stroke may.
addEventListener('message', ({ data }: MessageEvent<ProofAsked>) => {
  const draft = held(data.record, data.draft, data.country, data.of);
  if (!draft.ok) return postMessage({ at: data.at, proof: null } satisfies ProofTold);
  void prove(draft.value).then((proof) => postMessage({ at: data.at, proof } satisfies ProofTold));
});
