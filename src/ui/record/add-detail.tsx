'use client';
import { useRef, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { kindIn, RECORD, wordOfUse } from '@/core/messages';
import { readDetail, recognise, USES, type Detail, type TypedKind, type Use } from '@/core/record';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const KINDS: TypedKind[] = [
  'phone',
  'email',
  'link',
  'address',
  'title',
  'organisation',
  'role',
  'licence',
  'credential',
  'pronouns',
  'nickname',
  'language',
  'category',
  'birthday',
  'note',
  'own',
];
const WITH_USES = new Set<TypedKind>(['phone', 'email', 'link', 'address']);
const freshId = () => crypto.randomUUID().slice(0, 8);

/** Adds a detail: the kind is recognised from what is typed or pasted and can be set otherwise. */
export function AddDetail({ country, onAdd }: { country: string; onAdd: (detail: Detail) => void }) {
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState<TypedKind | null>(null);
  const [use, setUse] = useState<Use | ''>('');
  const [label, setLabel] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const photo = useRef<HTMLInputElement>(null);
  const kind = chosen ?? recognise(text, country) ?? 'own';

  function add(event: FormEvent) {
    event.preventDefault();
    const read = readDetail(kind, text, {
      id: freshId(),
      country,
      uses: use && WITH_USES.has(kind) ? [use] : [],
      label: label.trim().slice(0, 120),
    });
    if (!read.ok) return setProblem(read.problem);
    onAdd(read.value);
    setText('');
    setLabel('');
    setChosen(null);
    setUse('');
    setProblem(null);
  }

  async function addPhoto(file: File | undefined) {
    if (!file) return;
    const answer = await call<{ picture: string }>('/api/photos', { bytes: file });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    onAdd({ kind: 'photo', id: freshId(), label: '', preferred: false, picture: answer.value.picture });
  }

  return (
    <Form className="add-detail" onSubmit={add} noValidate>
      <h2 className="caps">{RECORD.addDetail}</h2>
      <div className="pair">
        <Form.Control
          aria-label={RECORD.value}
          placeholder={RECORD.valueHint}
          value={text}
          onChange={(event) => setText(event.target.value)}
          isInvalid={problem !== null}
        />
        <Form.Select
          aria-label={RECORD.kind}
          value={kind}
          onChange={(event) => setChosen(event.target.value as TypedKind)}
        >
          {KINDS.map((each) => (
            <option key={each} value={each}>
              {each === 'own' ? RECORD.ofMyOwn : kindIn('en', each)}
            </option>
          ))}
        </Form.Select>
        {WITH_USES.has(kind) && (
          <Form.Select aria-label={RECORD.use} value={use} onChange={(event) => setUse(event.target.value as Use | '')}>
            <option value="">{RECORD.anyUse}</option>
            {USES.filter((each) => kind === 'phone' || each === 'work' || each === 'home').map((each) => (
              <option key={each} value={each}>
                {wordOfUse('en', each)}
              </option>
            ))}
          </Form.Select>
        )}
        <Form.Control
          aria-label={RECORD.label}
          className="short"
          placeholder={RECORD.label}
          value={label}
          maxLength={120}
          onChange={(event) => setLabel(event.target.value)}
        />
        <Button type="submit" variant="quiet" disabled={!text.trim()}>
          {RECORD.add}
        </Button>
        <Button variant="quiet" onClick={() => photo.current?.click()}>
          {RECORD.setPhoto}
        </Button>
        <input
          ref={photo}
          type="file"
          accept="image/jpeg,image/png,image/webp,image/avif"
          className="visually-hidden"
          aria-label={RECORD.photoFile}
          tabIndex={-1}
          onChange={(event) => {
            void addPhoto(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </div>
      <ProblemNote problem={problem} />
    </Form>
  );
}
