'use client';
import { useEffect, useRef, useState } from 'react';
import type { Draft } from '@/core/card';
import type { Proof } from '@/core/proof';
import type { PersonRecord } from '@/core/record';
import type { SpecimenOf } from '@/core/specimen';
import { readHere } from './read-here';

/** A proof is made once the hand rests this long. */
const REST_MS = 150;

type Asked = { record: PersonRecord; draft: Draft; country: string; of: SpecimenOf };

async function proveHere({ record, draft, country, of }: Asked): Promise<Proof | null> {
  const { compressedSize, held, proveSpecimenPage } = await import('@/core/specimen/prove');
  const read = held(record, draft, country, of);
  return read.ok ? proveSpecimenPage(read.value, compressedSize, readHere) : null;
}

/** The proof of what stands on the table, made by a web worker once something was edited; null while it is being made for the first time. */
export function useProof(record: PersonRecord, draft: Draft, country: string, of: SpecimenOf): Proof | null {
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  const [told, setTold] = useState<{ proof: Proof; channel: string } | null>(null);
  const opened = useRef({ draft, channel: of.channel });
  useEffect(
    () => () => {
      worker.current?.terminate();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    const timer = setTimeout(() => {
      const at = (asked.current += 1);
      const tell = (proof: Proof | null) => {
        if (at === asked.current && proof) setTold({ proof, channel: of.channel });
      };
      // The page as it was opened is proven here, where everything for it is loaded; the worker comes with the first edit.
      const first = draft === opened.current.draft && of.channel === 'page' && opened.current.channel === 'page';
      if (first && !worker.current) return void proveHere({ record, draft, country, of }).then(tell);
      worker.current ??= new Worker(new URL('../../../workers/prove.ts', import.meta.url), { type: 'module' });
      worker.current.onmessage = ({ data }: MessageEvent<{ at: number; proof?: Proof }>) => {
        if (data.at === at) tell(data.proof ?? null);
      };
      worker.current.postMessage({ at, record, draft, country, of });
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [record, draft, country, of]);
  return told?.channel === of.channel ? told.proof : null;
}
