'use client';
import { useRouter } from 'next/navigation';
import { useRef, useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { FIRST_PATTERN, NAME_PARTS, PACK_KINDS, readPattern, stemBy, type PackKind } from '@/core/pack';
import { PACK } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

const FIRST_KINDS: PackKind[] = ['contact file', 'code'];

/** Asks for the files of the people chosen in one ZIP, and follows the work. */
export function PackFiles({ chosen, onClose }: { chosen: string[]; onClose: () => void }) {
  const router = useRouter();
  const field = useRef<HTMLInputElement>(null);
  const [kinds, setKinds] = useState<ReadonlySet<PackKind>>(new Set(FIRST_KINDS));
  const [pattern, setPattern] = useState(FIRST_PATTERN);
  const [problem, setProblem] = useState<Problem | null>(null);
  const read = readPattern(pattern);
  const told = read.ok ? problem : read.problem;
  function insert(part: string) {
    const at = field.current?.selectionStart ?? pattern.length;
    setPattern(`${pattern.slice(0, at)}{${part}}${pattern.slice(field.current?.selectionEnd ?? at)}`);
    field.current?.focus();
  }
  async function ask(event: FormEvent) {
    event.preventDefault();
    if (!read.ok) return;
    const json = { records: chosen, kinds: PACK_KINDS.filter((kind) => kinds.has(kind)), pattern };
    const answer = await call<{ job: string }>('/api/pack', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="pack-title">
      <Form onSubmit={(event) => void ask(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="pack-title">{PACK.title(chosen.length)}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <fieldset>
            <legend className="form-label">{PACK.kindsLabel}</legend>
            {PACK_KINDS.map((kind) => (
              <Form.Check
                key={kind}
                id={`pack-${kind.replace(' ', '-')}`}
                label={PACK.kinds[kind]}
                checked={kinds.has(kind)}
                onChange={({ target }) => {
                  const next = new Set(kinds);
                  if (target.checked) next.add(kind);
                  else next.delete(kind);
                  setKinds(next);
                }}
              />
            ))}
          </fieldset>
          <Form.Group controlId="pack-pattern">
            <Form.Label>{PACK.pattern}</Form.Label>
            <Form.Control
              ref={field}
              className="mono"
              value={pattern}
              maxLength={200}
              spellCheck={false}
              {...invalid('pack-problem', told !== null)}
              onChange={({ target }) => setPattern(target.value)}
            />
            <ProblemNote problem={told} id="pack-problem" />
            <p className="name-parts">
              {NAME_PARTS.map((part) => (
                <button
                  key={part}
                  type="button"
                  className="plain"
                  aria-label={PACK.insert(PACK.parts[part])}
                  onClick={() => insert(part)}
                >
                  {PACK.parts[part]}
                </button>
              ))}
            </p>
            <p className="note">
              {read.ok
                ? PACK.example(`${stemBy(read.value, PACK.somebody, PACK.somebody.card)}.vcf`)
                : PACK.patternNote}
            </p>
          </Form.Group>
          <p className="note">{PACK.note}</p>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={kinds.size === 0 || !read.ok}>
            {PACK.ask}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
