'use client';
import { useRouter } from 'next/navigation';
import { useDeferredValue, useMemo, useRef, useState, type ClipboardEvent, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { wordingOf, type Problem, type ProblemCode } from '@/core/errors';
import { PEOPLE } from '@/core/words';
import { defaultLabel, isBlock, shownValue } from '@/core/record';
import { call } from '@/ui/studio/call';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { KindField } from '@/ui/record/kind-field';
import { ContactFileDrop } from './contact-file-drop';
import { GrowingCard } from './growing-card';
import { recordOf, withSignature, type TypedPerson } from './typed-person';

type Field = 'name' | 'title' | 'firm' | 'phone' | 'email';
const FIELD_OF: Partial<Record<ProblemCode, Field>> = {
  NAME_MISSING: 'name',
  PHONE_UNREADABLE: 'phone',
  EMAIL_UNREADABLE: 'email',
};

type Props = {
  country: string;
  zone: string;
  /** Who makes their own first card: what sign-up knew is not asked for again. */
  self: { name: string; email: string } | null;
};

/** One short form beside the card that grows from it; or a dropped contact file, or a pasted signature. */
export function NewPerson({ country, zone, self }: Props) {
  const router = useRouter();
  const [typed, setTyped] = useState<TypedPerson>({
    name: self?.name ?? '',
    title: '',
    firm: '',
    phone: '',
    email: self?.email ?? '',
    forWork: { phone: false, email: false },
    photo: '',
    more: [],
  });
  const { patterns } = useCompanyDefaults();
  const [both, setBoth] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const shown = useDeferredValue(typed);
  const record = useMemo(() => recordOf(shown, country), [shown, country]);
  const at = problem ? (FIELD_OF[problem.code] ?? null) : null;

  async function make(then: 'table' | 'publish', event?: FormEvent) {
    event?.preventDefault();
    setBusy(true);
    const answer = await call<{ cardId: string }>('/api/records', { json: { ...typed, both } });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    router.push(`/cards/${answer.value.cardId}${then === 'publish' ? '?publish' : ''}`);
  }
  async function addPhoto(chosen: File | undefined) {
    if (!chosen) return;
    setBusy(true);
    const answer = await call<{ picture: string }>('/api/photos', { bytes: chosen });
    setBusy(false);
    if (answer.ok) setTyped((now) => ({ ...now, photo: answer.value.picture }));
    else setProblem(answer.problem);
  }
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text');
    if (!isBlock(text)) return;
    event.preventDefault();
    setTyped(withSignature(typed, text, { country, zone, patterns }));
  };
  const field = (name: Field, label: string, type: string, first = false) => (
    <Form.Group controlId={`new-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type={type}
        autoComplete="off"
        autoFocus={first}
        value={typed[name]}
        {...invalid(`new-${name}-problem`, at === name)}
        onPaste={paste}
        onChange={({ target }) => (setTyped({ ...typed, [name]: target.value }), setProblem(null))}
      />
      {at === name && <ProblemNote problem={problem} id={`new-${name}-problem`} />}
    </Form.Group>
  );
  const forWork = (name: 'phone' | 'email') => (
    <label className="for-work">
      <input
        type="checkbox"
        aria-label={PEOPLE.forWorkOf(name)}
        checked={typed.forWork[name]}
        onChange={({ target }) => setTyped({ ...typed, forWork: { ...typed.forWork, [name]: target.checked } })}
      />{' '}
      {PEOPLE.forWork}
    </label>
  );
  return (
    <div className="new-person">
      <Form onSubmit={(event) => void make('table', event)} noValidate>
        {self ? (
          field('name', PEOPLE.name, 'text')
        ) : (
          <div className="with-use">
            {field('name', PEOPLE.name, 'text', true)}
            <KindField id="new-kind" kind={typed.kind} onKind={(kind) => setTyped({ ...typed, kind })} />
          </div>
        )}
        {field('title', PEOPLE.jobTitle, 'text', self !== null)}
        {field('firm', PEOPLE.firm, 'text')}
        <div className="with-use">
          {field('phone', PEOPLE.phone, 'tel')}
          {forWork('phone')}
        </div>
        <div className="with-use">
          {field('email', PEOPLE.email, 'email')}
          {forWork('email')}
        </div>
        <div className="photo-choice">
          <input
            ref={file}
            type="file"
            accept="image/*"
            hidden
            aria-label={PEOPLE.photoFile}
            onChange={({ target }) => void addPhoto(target.files?.[0])}
          />
          <Button variant="quiet" disabled={busy} onClick={() => file.current?.click()}>
            {typed.photo ? PEOPLE.otherPhoto : PEOPLE.photo}
          </Button>
          <small>{PEOPLE.pasteNote}</small>
        </div>
        {typed.more.length > 0 && (
          <p className="small">
            {PEOPLE.alsoFound} {typed.more.map((each) => `${defaultLabel(each)} ${shownValue(each)}`).join(' · ')}
          </p>
        )}
        <label className="both">
          <input type="checkbox" checked={both} onChange={({ target }) => setBoth(target.checked)} /> {PEOPLE.both}
        </label>
        {problem && !at && (
          <p className="problem" role="alert">
            {wordingOf(problem)}
          </p>
        )}
        <div className="acts">
          <Button type="submit" disabled={busy}>
            {PEOPLE.make}
          </Button>
          <Button variant="quiet" disabled={busy} onClick={() => void make('publish')}>
            {PEOPLE.makeAndPublish}
          </Button>
        </div>
        <ContactFileDrop />
      </Form>
      <div className="growing" aria-label={PEOPLE.growing} role="region">
        <GrowingCard record={record} country={country} />
      </div>
    </div>
  );
}
