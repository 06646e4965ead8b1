'use client';
import Link from 'next/link';
import { useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { sayFinding } from '@/core/findings';
import type { ShownSignature } from '@/core/shown';
import {
  SIGNATURE_LAYOUTS,
  VARIANTS,
  type SignatureOptions,
  type SignatureParts,
  type Variant,
} from '@/core/signature';
import { CODES, SIGNATURE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { SignatureUse } from './signature-use';

type View = keyof typeof SIGNATURE.views;

/** The signature of a card: how it is laid out, how it is seen, what its proof says, and how it gets into a mail program. */
export function SignatureScreen({ opened }: { opened: ShownSignature }) {
  const [shown, setShown] = useState(opened);
  const [options, setOptions] = useState(opened.options);
  const [variant, setVariant] = useState<Variant>('message');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  async function change(next: SignatureOptions) {
    const at = (asked.current += 1);
    setOptions(next);
    setBusy(true);
    const answer = await call<ShownSignature>(`/api/hand-outs/${shown.id}/signature`, { method: 'PUT', json: next });
    if (at !== asked.current) return;
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  const isLocked = shown.locked !== null;
  return (
    <section className="signature-screen">
      <div className="signature-options">
        {shown.locked !== null && (
          <p className="attention">
            {SIGNATURE.locked} {shown.locked}
          </p>
        )}
        <Form.Group controlId="signature-layout">
          <Form.Label>{SIGNATURE.layout}</Form.Label>
          <Form.Select
            value={options.layout}
            disabled={isLocked}
            onChange={({ target }) => void change({ ...options, layout: target.value as SignatureOptions['layout'] })}
          >
            {SIGNATURE_LAYOUTS.map((each) => (
              <option key={each} value={each}>
                {SIGNATURE.layouts[each]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        {VARIANTS.map((each) => (
          <Parts
            key={each}
            variant={each}
            options={options}
            locked={isLocked}
            onOptions={(next) => void change(next)}
          />
        ))}
        <p className="note">{SIGNATURE.contactNote}</p>
        <Form.Group controlId="signature-pictures">
          <Form.Label>{SIGNATURE.pictures}</Form.Label>
          <Form.Select
            value={options.pictures}
            disabled={isLocked || (!shown.has.photo && !shown.has.logo)}
            onChange={({ target }) =>
              void change({ ...options, pictures: target.value as SignatureOptions['pictures'] })
            }
          >
            {(['linked', 'inside'] as const).map((each) => (
              <option key={each} value={each}>
                {SIGNATURE.picturesAre[each]}
              </option>
            ))}
          </Form.Select>
          <p className="note">
            {shown.has.photo || shown.has.logo ? SIGNATURE.picturesNote[options.pictures] : SIGNATURE.noPicture}
          </p>
        </Form.Group>
        <p className="note">{SIGNATURE.published}</p>
        <Link href={`/cards/${shown.cardId}`}>{SIGNATURE.ticks}</Link>
        <span role="status" className="note">
          {busy ? SIGNATURE.saving : ''}
        </span>
        <ProblemNote problem={problem} />
        <Link href={`/cards/${shown.cardId}/hand-outs`}>{CODES.back}</Link>
      </div>
      <Stage shown={shown} variant={variant} onVariant={setVariant} />
      <SignatureUse shown={shown} variant={variant} />
    </section>
  );
}

function Parts({
  variant,
  options,
  locked,
  onOptions,
}: {
  variant: Variant;
  options: SignatureOptions;
  locked: boolean;
  onOptions: (options: SignatureOptions) => void;
}) {
  return (
    <fieldset>
      <legend className="caps">{SIGNATURE.partsOf(variant)}</legend>
      {(Object.keys(SIGNATURE.parts) as (keyof SignatureParts)[]).map((part) => (
        <Form.Check
          key={part}
          id={`${variant}-${part}`}
          label={SIGNATURE.parts[part]}
          disabled={locked}
          checked={options[variant][part]}
          onChange={({ target }) =>
            onOptions({ ...options, [variant]: { ...options[variant], [part]: target.checked } })
          }
        />
      ))}
    </fieldset>
  );
}

/** A variant as it is seen, and its proof below. */
function Stage({
  shown,
  variant,
  onVariant,
}: {
  shown: ShownSignature;
  variant: Variant;
  onVariant: (variant: Variant) => void;
}) {
  const [view, setView] = useState<View>('day');
  const { signature, proof } = shown.variants[variant];
  const failed = proof.checks.filter(({ passed }) => !passed);
  return (
    <div className="signature-stage">
      <div className="pair">
        <div className="choice" role="group" aria-label={SIGNATURE.variant}>
          {VARIANTS.map((each) => (
            <button key={each} type="button" aria-pressed={each === variant} onClick={() => onVariant(each)}>
              {SIGNATURE.variants[each]}
            </button>
          ))}
        </div>
        <div className="choice" role="group" aria-label={SIGNATURE.seen}>
          {(Object.keys(SIGNATURE.views) as View[]).map((each) => (
            <button key={each} type="button" aria-pressed={each === view} onClick={() => setView(each)}>
              {SIGNATURE.views[each]}
            </button>
          ))}
        </div>
      </div>
      {view === 'text' || view === 'short' ? (
        <pre tabIndex={0} className="signature-text">
          {view === 'text' ? signature.text : signature.short}
        </pre>
      ) : (
        <iframe
          className={`mail-frame ${view}`}
          title={view === 'night' ? SIGNATURE.darkFrame : SIGNATURE.frame}
          // It runs nothing; with the studio's origin it shows the studio's pictures.
          sandbox="allow-same-origin"
          srcDoc={framed(shown, signature.html, view)}
        />
      )}
      {shown.leaving.length > 0 && (
        <p className="attention">
          {SIGNATURE.leaving} {shown.leaving.map(({ title, value }) => `${title} ${value}`).join(' · ')}
        </p>
      )}
      <p className={failed.length === 0 ? 'passed' : 'failed'}>
        <span aria-hidden="true">{failed.length === 0 ? '✓' : '✕'}</span>{' '}
        {sayFinding(
          (failed[0] ?? proof.checks.find(({ finding }) => finding.code === 'WITHOUT_PICTURES') ?? proof.checks[0]!)
            .finding,
        )}
      </p>
      <details>
        <summary>{SIGNATURE.proof}</summary>
        <ul className="signature-checks">
          {proof.checks.map(({ name, passed, finding }) => (
            <li key={name} className={passed ? 'passed' : 'failed'}>
              <span aria-hidden="true">{passed ? '✓' : '✕'}</span> {sayFinding(finding)}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

/** The signature with the ground and the text colour that a mail program gives it; its pictures are the studio's own, or blocked. */
function framed({ preview }: ShownSignature, html: string, view: View): string {
  const [ground, ink] = view === 'night' ? ['#1f1f1f', '#e8e6e3'] : ['#ffffff', '#1f1f1f'];
  const shown =
    view === 'blocked'
      ? html.replace(/ src="[^"]*"/g, '')
      : preview.reduce((text, [address, own]) => text.replaceAll(`src="${address}"`, `src="${own}"`), html);
  return `<body style="margin:20px;background:${ground};color:${ink}">${shown}</body>`;
}
