import type { Draft } from '@/core/card';
import type { Proof } from '@/core/proof';
import type { Problem } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import type { SpecimenOf } from '@/core/specimen';
import { proveSpecimen } from '@/core/specimen/prove';

/** What the proof of a specimen is asked for, and what comes back; `at` tells answers apart. */
export type ProofAsked = { at: number; record: PersonRecord; draft: Draft; country: string; of: SpecimenOf };
export type ProofTold = { at: number } & ({ proof: Proof } | { problem: Problem });

/** Bytes of a text at gzip's usual level (6), as a server sends it. */
async function compressedSize(text: string): Promise<number> {
  const stream = new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'));
  return (await new Response(stream).arrayBuffer()).byteLength;
}

// A worker of the browser's: proofs read back what was written, which takes longer than a key stroke may.
addEventListener('message', ({ data }: MessageEvent<ProofAsked>) => {
  const { at, record, draft, country, of } = data;
  void proveSpecimen(record, draft, country, of, compressedSize).then((told) =>
    postMessage({ at, ...told } satisfies ProofTold),
  );
});
