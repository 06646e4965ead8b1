'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { ShownSignature } from '@/core/shown';
import type { Variant } from '@/core/signature';
import { SIGNATURE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { ProblemNote } from '@/ui/studio/problem-note';

type Kind = keyof typeof SIGNATURE.kinds;

/** How a signature gets to where mail is written: copied, as a file, as a test mail, and the steps by kind of mail program. */
export function SignatureUse({ shown, variant }: { shown: ShownSignature; variant: Variant }) {
  const [told, setTold] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [kind, setKind] = useState<Kind>('computer');
  const { signature } = shown.variants[variant];
  const file = (form: string) => `/api/hand-outs/${shown.id}/signature${variant === 'reply' ? '-reply' : ''}.${form}`;
  async function copy() {
    // Rich text for fields that take it, and the plain one for those that do not.
    const parts = { 'text/html': signature.html, 'text/plain': signature.text };
    const blobs = Object.entries(parts).map(([type, text]) => [type, new Blob([text], { type })]);
    await navigator.clipboard.write([new ClipboardItem(Object.fromEntries(blobs) as Record<string, Blob>)]).then(
      () => {
        setTold(SIGNATURE.copied);
        taken();
      },
      () => setTold(SIGNATURE.notCopied),
    );
  }
  /** It is out from now on, and may be out of date one day. */
  const taken = () => void call(`/api/hand-outs/${shown.id}/taken`, { json: {} });
  async function test() {
    setTold('');
    const answer = await call(`/api/hand-outs/${shown.id}/signature`, { json: { variant } });
    setProblem(answer.ok ? null : answer.problem);
    setTold(answer.ok ? SIGNATURE.testSent : '');
  }
  return (
    <div className="signature-use">
      <p className="caps">{SIGNATURE.use}</p>
      <button type="button" className="btn btn-primary" onClick={() => void copy()}>
        {SIGNATURE.copy}
      </button>
      <div className="pair">
        <CopyButton text={signature.html}>{SIGNATURE.copyHtml}</CopyButton>
        <CopyButton text={signature.text}>{SIGNATURE.copyText}</CopyButton>
        <CopyButton text={signature.short}>{SIGNATURE.copyShort}</CopyButton>
      </div>
      <div className="pair">
        <a className="btn btn-quiet btn-sm" href={file('eml')} download>
          {SIGNATURE.draft}
        </a>
        <a className="btn btn-quiet btn-sm" href={file('html')} download>
          {SIGNATURE.html}
        </a>
        {shown.mail && (
          <button
            type="button"
            className="btn btn-quiet btn-sm"
            disabled={!shown.confirmed}
            onClick={() => void test()}
          >
            {SIGNATURE.test}
          </button>
        )}
      </div>
      {!shown.mail && <p className="note">{SIGNATURE.noMail}</p>}
      {shown.mail && !shown.confirmed && <p className="note">{SIGNATURE.testUnconfirmed}</p>}
      <p role="status" className="note">
        {told}
      </p>
      <ProblemNote problem={problem} />
      <Form.Group controlId="signature-steps">
        <Form.Label>{SIGNATURE.steps}</Form.Label>
        <Form.Select size="sm" value={kind} onChange={({ target }) => setKind(target.value as Kind)}>
          {(Object.keys(SIGNATURE.kinds) as Kind[]).map((each) => (
            <option key={each} value={each}>
              {SIGNATURE.kinds[each].name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <ol className="steps">
        {SIGNATURE.kinds[kind].steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {kind === 'many' && (
        <ul className="mono addresses">
          {['html', 'txt'].map((form) => (
            <li key={form}>{`${shown.link}/signature${variant === 'reply' ? '-reply' : ''}.${form}`}</li>
          ))}
          <li>{`${shown.link}.vcf`}</li>
        </ul>
      )}
    </div>
  );
}
