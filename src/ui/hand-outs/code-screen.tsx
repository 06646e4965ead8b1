'use client';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import { contentValue } from '@/core/code';
import type { Composition } from '@/core/card';
import { sideOf, widthForMm, type CodeStyle, type Outlines } from '@/core/qr';
import type { ShownCode } from '@/core/shown';
import { CODES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { CodePicture, useDrawnCode } from './code-picture';
import { CodeProof } from './code-proof';
import { Downloads } from './downloads';
import { ScanNow } from './scan-now';
import { StyleFields } from './style-fields';
import { useCodeProof } from './use-code-proof';

/** Pixels a module where the proof has told none yet. */
const CAREFUL_PIXELS = 3;
/** Saving waits until the hand rests this long, in milliseconds. */
const SAVE_MS = 900;

type Props = {
  code: ShownCode;
  composition: Composition;
  /** Pictures that may stand in the middle: their hashes, by what they are. */
  marks: { hash: string; word: string }[];
};

/** Everything about one code: its style by what that costs, the code as it is printed, its proof, and its files. */
export function CodeScreen({ code, composition, marks }: Props) {
  const [style, setStyle] = useState(code.style);
  const [widthMm, setWidth] = useState(code.widthMm);
  const saved = useSaved(code, style);
  const words = useWords(code, style.words);
  // What is frozen and was not touched is drawn as it was.
  const untouched = style === code.style;
  const [fixed] = useState({ version: code.version, level: code.level, mask: code.mask });
  const drawn = useDrawnCode(code.text, style, words, untouched ? fixed : undefined);
  const { report, remedy, busy } = useCodeProof({ text: code.text, style, fixed: untouched ? fixed : undefined });
  const [takenAt, setTaken] = useState(code.takenAt);
  const closed = code.locked !== null || !code.mayStyle || takenAt !== null;
  const size = drawn?.symbol.size ?? code.modules;
  const side = sideOf(size, style);
  const value = contentValue(code.content, composition);
  return (
    <section className="code-screen">
      <div className="code-style">
        <p className="caps">{CODES.style}</p>
        {code.locked !== null && <p className="attention">{CODES.locked(code.locked)}</p>}
        {takenAt !== null && <p className="attention">{CODES.taken(day(takenAt))}</p>}
        <StyleFields style={style} onStyle={setStyle} marks={marks} house={code.house} disabled={closed} />
        <SavedNote saved={saved} code={code} style={style} closed={closed} />
      </div>
      <div className="code-stage">
        <div className="specimen-title">
          <span className="caps">{CODES.printedAt(widthMm)}</span>
          {drawn && <span className="mono">{CODES.symbolIs(drawn.symbol.version, size, widthMm / side)}</span>}
        </div>
        {drawn && <CodePicture svg={drawn.svg} widthMm={widthMm} alt={code.text} clear={style.ground === null} />}
        <p className="note">{CODES.margin}</p>
        {code.near && (
          <p className="attention" role="alert">
            {CODES.near[code.near]} {CODES.nearHow}
          </p>
        )}
        <dl className="facts">
          <dt>{CODES.holds}</dt>
          <dd>
            {CODES.does[code.content.what]}
            {value && <> · {value}</>}
            <span className="mono held">{code.text}</span>
          </dd>
        </dl>
        <p className={code.live ? 'note' : 'attention'}>{code.live ? CODES.live : CODES.frozen}</p>
        <ScanNow code={code} />
        {!code.live && takenAt === null && <p className="note">{CODES.takenNote}</p>}
        <Downloads
          code={code}
          widthMm={widthMm}
          onWidth={setWidth}
          widthFor={(distance) => widthForMm(distance, side, report?.fewestPixels ?? CAREFUL_PIXELS)}
          svg={drawn?.svg ?? null}
          ready={saved.state === 'saved'}
          onTaken={() => !code.live && setTaken(takenAt ?? new Date().toISOString())}
        />
      </div>
      <div className="code-proof">
        <CodeProof
          report={report}
          remedy={remedy}
          busy={busy}
          widthMm={widthMm}
          text={code.text}
          style={style}
          onRemedy={setStyle}
          disabled={closed}
        />
        <Link href={`/cards/${code.cardId}/hand-outs`}>{CODES.back}</Link>
      </div>
    </section>
  );
}

const day = (instant: string) =>
  new Date(instant).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

type Saved = { state: 'saved' | 'saving' | 'failed'; problem: Problem | null };

/** Keeps a style once the hand rests; what was asked for last holds. */
function useSaved(code: ShownCode, style: CodeStyle): Saved {
  const [saved, setSaved] = useState<Saved>({ state: 'saved', problem: null });
  // One that was never proven is kept once as it is, with its proof.
  const kept = useRef(code.proof || !code.mayStyle || code.takenAt !== null ? code.style : null);
  useEffect(() => {
    if (style === kept.current) return;
    let current = true;
    setSaved({ state: 'saving', problem: null });
    const timer = setTimeout(() => {
      void call(`/api/hand-outs/${code.id}`, { method: 'PUT', json: { style, all: false } }).then((answer) => {
        if (answer.ok) kept.current = style;
        if (current)
          setSaved(answer.ok ? { state: 'saved', problem: null } : { state: 'failed', problem: answer.problem });
      });
    }, SAVE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [code.id, style]);
  return saved;
}

/** Outlines of the words below the code: those that were kept, or those of what is being typed. */
function useWords(code: ShownCode, words: string): Outlines | null {
  const [made, setMade] = useState<{ of: string; outlines: Outlines | null }>({
    of: code.style.words,
    outlines: code.words,
  });
  useEffect(() => {
    if (words === made.of) return;
    let current = true;
    const timer = setTimeout(() => {
      void call<{ outlines: Outlines | null }>(
        `/api/hand-outs/${code.id}/words?text=${encodeURIComponent(words)}`,
      ).then((answer) => current && answer.ok && setMade({ of: words, outlines: answer.value.outlines }));
    }, 250);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [code.id, words, made.of]);
  return words.trim() === '' ? null : made.outlines;
}

/** What was kept, and the style for all codes of the same person. */
function SavedNote({
  saved,
  code,
  style,
  closed,
}: {
  saved: Saved;
  code: ShownCode;
  style: CodeStyle;
  closed: boolean;
}) {
  const [told, setTold] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function forAll() {
    setBusy(true);
    const answer = await call<{ restyled: number; frozen: string[] }>(`/api/hand-outs/${code.id}`, {
      method: 'PUT',
      json: { style, all: true },
    });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    setTold(answer.ok ? CODES.forAllNote(answer.value.restyled, answer.value.frozen) : null);
  }
  return (
    <div className="saved-note">
      <button type="button" className="btn btn-quiet" disabled={busy || closed} onClick={() => void forAll()}>
        {CODES.forAll}
      </button>
      <span role="status">
        {told ?? (saved.state === 'saving' || busy ? CODES.saving : saved.state === 'saved' ? CODES.saved : '')}
      </span>
      <ProblemNote problem={problem ?? saved.problem} />
    </div>
  );
}
