'use client';
import Link from 'next/link';
import { useState, type DragEvent } from 'react';
import type { Problem } from '@/core/errors';
import { distanceMm, sideOf } from '@/core/qr';
import { readByBoth } from '@/core/proof/scan/shape';
import type { ShownDesign } from '@/core/shown';
import { CODES, COPIES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Dropped = { design: ShownDesign; picture: string | null };

/** Tests anything with a code on it: a picture or PDF is dropped, chosen or photographed; what it holds and how it reads is told beside it. */
export function TestDesign() {
  const [found, setFound] = useState<Dropped | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function test(file: File | undefined) {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    const answer = await call<ShownDesign>('/api/designs', { method: 'POST', bytes: file });
    setBusy(false);
    if (found?.picture) URL.revokeObjectURL(found.picture);
    if (!answer.ok) {
      setFound(null);
      return setProblem(answer.problem);
    }
    const isPicture = file.type.startsWith('image/');
    setFound({ design: answer.value, picture: isPicture ? URL.createObjectURL(file) : null });
  }
  const drop = (event: DragEvent) => {
    event.preventDefault();
    void test(event.dataTransfer.files[0]);
  };
  return (
    <section className="test-design" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <p className="caps">{CODES.testDesign}</p>
      <p>{CODES.testDesignText}</p>
      <label className="btn btn-quiet">
        {CODES.chooseDesign}
        <input
          type="file"
          className="visually-hidden"
          accept="image/*,application/pdf,.svg"
          onChange={({ target }) => {
            void test(target.files?.[0]);
            target.value = '';
          }}
        />
      </label>
      {busy && <p role="status">{CODES.testing}</p>}
      <ProblemNote problem={problem} />
      {found && !busy && <Found {...found} />}
    </section>
  );
}

function Found({ design, picture }: Dropped) {
  if (design.codes.length === 0) return <p className="attention">{CODES.noCode(design.looked, design.pages)}</p>;
  return (
    <div className="found-codes">
      {picture && (
        <div className="where">
          <img src={picture} alt="" />
          <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
            {design.codes.map(({ corners }, at) => (
              <polygon key={at} points={corners.map(([x, y]) => `${x * 100},${y * 100}`).join(' ')} />
            ))}
          </svg>
        </div>
      )}
      {design.codes.map((code, at) => (
        <Code key={at} code={code} many={design.pages > 1} />
      ))}
    </div>
  );
}

function Code({ code, many }: { code: ShownDesign['codes'][number]; many: boolean }) {
  const { report, repair, widthMm, ours } = code;
  const { read, of } = readByBoth(report.proof);
  const passed = report.faults.length === 0;
  const { fewestPixels, size } = report;
  const whole = widthMm && (widthMm * sideOf(size)) / size;
  return (
    <article className="found-code">
      {many && <p className="caps">{CODES.foundOn(code.page)}</p>}
      <p className={`finding ${passed ? 'passed' : 'failed'}`}>
        <span aria-hidden="true">{passed ? '✓' : '✕'}</span>{' '}
        {passed
          ? whole && fewestPixels
            ? CODES.scansAt(whole, distanceMm(whole, sideOf(size), fewestPixels))
            : CODES.readOf(read, of)
          : CODES.doesNotScan}
      </p>
      {report.faults.map((fault) => (
        <p key={fault} className="problem">
          {CODES.faults[fault]}
        </p>
      ))}
      {repair && <p className="remedy">{CODES.repaired(repair)}</p>}
      <p className="mono held">{report.text}</p>
      <p>{oursIn(ours)}</p>
      <p className="note">
        {widthMm ? CODES.designWidth(widthMm) : CODES.designPixels(report.widthPixels, report.widthPixels / size)} ·{' '}
        {CODES.marginOf(report.measures.margin)} · {CODES.contrast}: {report.measures.contrast}
      </p>
      {ours && (
        <p className="pair">
          <Link href={`/cards/${ours.cardId}/hand-outs/${ours.id}`}>{CODES.ours(ours.placement)}</Link>
          <Link href={`/copies?all&handOut=${ours.id}`}>{COPIES.ofIt}</Link>
        </p>
      )}
    </article>
  );
}

function oursIn(ours: ShownDesign['codes'][number]['ours']): string {
  if (!ours) return CODES.notOurs;
  if (ours.state !== 'published') return CODES.oursNotOut;
  if (ours.live) return CODES.oursLive;
  if (!ours.changedAt) return CODES.oursCurrent;
  const day = new Date(ours.changedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
  return CODES.oursStale(ours.gone, day);
}
