import { useEffect, useRef, useState } from 'react';
import type { CodeStyle, Level } from '@/core/qr';
import type { CodeAsked, CodeReport, CodeTold, ScanProof, Tested } from '@/core/proof/scan';

/** A proof is made once the hand rests this long. */
const REST_MS = 250;
/** So many workers share the full proof. */
const PARTS = 2;

type Asked = { text: string; style: CodeStyle; fixed?: { version: number; level: Level; mask: number } };

const start = () => new Worker(new URL('../../workers/prove-code.ts', import.meta.url), { type: 'module' });

/** The quick proof of a code as it stands on the screen, made by a web worker, and the remedy where it fails, null where none helps. */
export function useCodeProof({ text, style, fixed }: Asked) {
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  const [report, setReport] = useState<CodeReport | null>(null);
  const [remedy, setRemedy] = useState<Tested | null | 'looking'>('looking');
  const [busy, setBusy] = useState(true);
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
      worker.current ??= start();
      setBusy(true);
      setRemedy('looking');
      worker.current.onmessage = ({ data }: MessageEvent<CodeTold>) => {
        if (data.at !== at) return;
        if ('report' in data) {
          setReport(data.report);
          setBusy(false);
        }
        if ('remedy' in data) setRemedy(data.remedy);
        if ('tooLong' in data) setBusy(false);
      };
      worker.current.postMessage({ at, text, style, fixed, remedy: true } satisfies CodeAsked);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [text, style, fixed]);
  return { report, remedy, busy };
}

export type FullProof =
  { state: 'none' } | { state: 'running'; done: number; of: number } | { state: 'done'; proof: ScanProof };

/** The full proof on demand: two workers of its own, whose pictures are counted while they are made; `stop` ends them, as another style does. */
export function useFullProof(asked: Asked) {
  const workers = useRef<Worker[]>([]);
  const [found, setFound] = useState<{ of: CodeStyle; full: FullProof } | null>(null);
  const { text, style } = asked;
  useEffect(
    () => () => {
      workers.current.forEach((worker) => worker.terminate());
      workers.current = [];
    },
    [text, style],
  );
  const stop = () => {
    workers.current.forEach((worker) => worker.terminate());
    setFound(null);
  };
  const run = () => {
    const set = (full: FullProof) => setFound({ of: style, full });
    const done = new Array<number>(PARTS).fill(0);
    const proofs: ScanProof[] = [];
    set({ state: 'running', done: 0, of: 1 });
    workers.current = Array.from({ length: PARTS }, (_, part) => {
      const worker = start();
      worker.onmessage = ({ data }: MessageEvent<CodeTold>) => {
        if ('done' in data) {
          done[part] = data.done;
          set({ state: 'running', done: done.reduce((sum, each) => sum + each, 0), of: data.of * PARTS });
        }
        if (!('full' in data)) return;
        proofs.push(data.full);
        worker.terminate();
        if (proofs.length === PARTS) set({ state: 'done', proof: joined(proofs) });
      };
      worker.postMessage({ at: 1, ...asked, parts: PARTS, part } satisfies CodeAsked);
      return worker;
    });
  };
  const full: FullProof = found?.of === style ? found.full : { state: 'none' };
  return { full, run, stop };
}

function joined(proofs: ScanProof[]): ScanProof {
  const read: ScanProof['read'] = {};
  for (const each of proofs)
    for (const [name, count] of Object.entries(each.read)) read[name as 'zxing'] = (read[name as 'zxing'] ?? 0) + count;
  return {
    trials: proofs.flatMap(({ trials }) => trials),
    read,
    misread: proofs.reduce((sum, each) => sum + each.misread, 0),
  };
}
