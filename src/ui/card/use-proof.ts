'use client';
import { useEffect, useRef, useState } from 'react';
import type { Draft } from '@/core/card';
import type { Proof } from '@/core/proof';
import type { PersonRecord } from '@/core/record';
import type { SpecimenOf } from '@/core/specimen';

/** A proof is made once the hand rests this long. */
const REST_MS = 150;

/** The proof of what stands on the table, made by a web worker; null while it is being made for the first time. */
export function useProof(record: PersonRecord, draft: Draft, country: string, of: SpecimenOf): Proof | null {
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  const [told, setTold] = useState<{ proof: Proof; channel: string } | null>(null);
  useEffect(() => {
    const made = new Worker(new URL('../../workers/prove.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    return () => {
      worker.current = null;
      made.terminate();
    };
  }, []);
  useEffect(() => {
    const timer = setTimeout(() => {
      const at = (asked.current += 1);
      if (!worker.current) return;
      worker.current.onmessage = ({ data }: MessageEvent<{ at: number; proof?: Proof }>) => {
        if (data.at === asked.current && data.proof) setTold({ proof: data.proof, channel: of.channel });
      };
      worker.current.postMessage({ at, record, draft, country, of });
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [record, draft, country, of]);
  return told?.channel === of.channel ? told.proof : null;
}
