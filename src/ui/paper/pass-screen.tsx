'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { PassField } from '@/core/pass';
import { shownLink } from '@/core/record';
import type { ShownPass } from '@/core/shown';
import { CODES, PAPER, PASS_WORDS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { FirstFinding, Measured } from './findings';

const svgUri = (svg: string) => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;

/** A pass: what it says on its two sides, and the ways onto a phone. */
export function PassScreen({ opened: shown }: { opened: ShownPass }) {
  const { fields, colours, proof } = shown;
  return (
    <section className="paper-screen of-pass">
      <div>
        <div className="paper-options">
          <p className="caps">{PASS_WORDS.get}</p>
          <img className="pass-code" src={svgUri(shown.code)} alt={PASS_WORDS.codeAlt} />
          <p className="note">{PASS_WORDS.scan}</p>
          {shown.standIn && <p className="attention">{PASS_WORDS.standIn}</p>}
          <Link href={`/cards/${shown.cardId}`}>{PAPER.ticks}</Link>
          <Link href={`/cards/${shown.cardId}/hand-outs`}>{CODES.back}</Link>
        </div>
      </div>
      <div className="paper-stage">
        <FirstFinding
          proof={proof}
          passed={PASS_WORDS.passed}
          leaving={shown.leaving}
          leavingWord={PASS_WORDS.leaving}
        />
        <div className="pass-sides">
          <section className="pass-front" style={{ background: colours.band, color: colours.onBand }}>
            <p className="caps">{PASS_WORDS.front}</p>
            <Fields fields={[...fields.primary, ...fields.secondary]} />
            <p className="mono">
              {PASS_WORDS.shows} {shownLink(shown.link)}
            </p>
          </section>
          <section className="pass-back">
            <p className="caps">{PASS_WORDS.back}</p>
            <Fields fields={fields.back} />
          </section>
        </div>
        <Measured proof={proof} />
      </div>
      <PassUse shown={shown} />
    </section>
  );
}

const Fields = ({ fields }: { fields: PassField[] }) => (
  <dl>
    {fields.map(({ key, label, value }) => (
      <div key={key}>
        {label && <dt>{label}</dt>}
        <dd>{value}</dd>
      </div>
    ))}
  </dl>
);

function PassUse({ shown: { id, proof, bytes, unpublished, cardId, mail } }: { shown: ShownPass }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [sent, setSent] = useState(false);
  const [busy, setBusy] = useState(false);
  async function send() {
    setBusy(true);
    const answer = await call(`/api/hand-outs/${id}/pass`, { json: {} });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    setSent(answer.ok);
  }
  if (!proof.passed)
    return (
      <div className="paper-use">
        <p className="failed">{PASS_WORDS.failed}</p>
      </div>
    );
  return (
    <div className="paper-use">
      <Button disabled={busy || mail !== 'yes'} onClick={() => void send()}>
        {PASS_WORDS.mail}
      </Button>
      {mail !== 'yes' && <p className="note">{PASS_WORDS.mailWhy[mail]}</p>}
      <span role="status" className="note">
        {sent ? PASS_WORDS.mailed : ''}
      </span>
      <ProblemNote problem={problem} />
      <a className="btn btn-quiet" href={`/api/hand-outs/${id}/card.pkpass`} download>
        {PASS_WORDS.download}
      </a>
      <p className="note">{PASS_WORDS.fileNote(bytes)}</p>
      {unpublished && (
        <p className="attention">
          {PASS_WORDS.outdated} <Link href={`/cards/${cardId}`}>{PAPER.publishFirst}</Link>
        </p>
      )}
    </div>
  );
}
