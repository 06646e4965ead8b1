'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { defaultLabel, isBlock, readBlock, readDetail, recogniseLine, shownValue, type Detail } from '@/core/record';
import { REFER } from '@/core/words';
import { freshId } from '@/ui/record/fresh-id';
import { call } from '@/ui/studio/call';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** What was typed or pasted of somebody, value by value. */
function detailsOf(text: string, country: string, zone: string, patterns: Parameters<typeof readBlock>[1]['patterns']) {
  if (isBlock(text)) return readBlock(text, { country, zone, freshId, ...(patterns ? { patterns } : {}) });
  const kind = text.trim() ? (recogniseLine(text, country) ?? 'own') : null;
  const read = kind && readDetail(kind, text.trim(), { id: freshId(), country, zone });
  return { name: null, details: read?.ok ? [read.value] : [], left: [] };
}

/** Notes somebody from what is typed, pasted or in a contact file: `to` is where it is sent, a file below it unless `onFile` takes it; `opens` says where the new one is then seen. */
export function NewContact({
  country,
  zone,
  title,
  to,
  opens,
  onFile = null,
}: {
  country: string;
  zone: string;
  title: string;
  to: string;
  opens: (id: string) => string;
  onFile?: ((file: File) => void) | null;
}) {
  const router = useRouter();
  const { patterns } = useCompanyDefaults();
  const [name, setName] = useState('');
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const read = useMemo(() => detailsOf(text, country, zone, patterns), [text, country, zone, patterns]);
  const details: Detail[] = read.details;
  const called = name.trim() || (read.name ?? '');
  async function made(asked: ReturnType<typeof call<{ id: string }>>) {
    setBusy(true);
    const answer = await asked;
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(opens(answer.value.id));
  }
  const add = (event: FormEvent) => {
    event.preventDefault();
    void made(call(to, { json: { name: called, details } }));
  };
  return (
    <Form className="refer-new" onSubmit={add} noValidate>
      <h2 className="caps">{title}</h2>
      <Form.Group controlId="refer-name">
        <Form.Label>{REFER.name}</Form.Label>
        <Form.Control
          value={name}
          maxLength={LIMITS.name}
          placeholder={read.name ?? ''}
          autoComplete="off"
          onChange={({ target }) => setName(target.value)}
          {...invalid('refer-problem', problem?.code === 'NAME_MISSING')}
        />
      </Form.Group>
      <Form.Group controlId="refer-known">
        <Form.Label>{REFER.known}</Form.Label>
        <Form.Control
          as="textarea"
          rows={6}
          value={text}
          maxLength={LIMITS.blockText}
          placeholder={REFER.knownHint}
          onChange={({ target }) => setText(target.value)}
        />
      </Form.Group>
      {(details.length > 0 || read.left.length > 0) && (
        <dl className="refer-read" aria-label={REFER.reads}>
          {details.map((detail) => (
            <div key={detail.id}>
              <dt>{defaultLabel(detail)}</dt>
              <dd>{shownValue(detail)}</dd>
            </div>
          ))}
          {read.left.map((each) => (
            <div key={each} className="note">
              <dt>{REFER.notRead}</dt>
              <dd>{each}</dd>
            </div>
          ))}
        </dl>
      )}
      <ProblemNote problem={problem} id="refer-problem" />
      <div className="pair">
        <Button type="submit" disabled={busy || !called}>
          {REFER.add}
        </Button>
        <button type="button" className="plain" disabled={busy} onClick={() => file.current?.click()}>
          {REFER.orFile}
        </button>
        <input
          ref={file}
          type="file"
          accept=".vcf,text/vcard"
          hidden
          aria-label={REFER.orFile}
          onChange={({ target }) => {
            const chosen = target.files?.[0];
            target.value = '';
            if (!chosen) return;
            if (onFile) onFile(chosen);
            else void made(call(`${to}/file`, { bytes: chosen }));
          }}
        />
      </div>
    </Form>
  );
}
