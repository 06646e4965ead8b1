'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { isLive, linesFor, LINE_ACTS, TAG_CONTENTS, type Content, type LineAct } from '@/core/code';
import type { Composition } from '@/core/card';
import type { Problem } from '@/core/errors';
import { shownValue, type PersonRecord } from '@/core/record';
import { CODES, TAGS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { ContactInTag } from '@/ui/tags/contact-in-tag';
import { ContactForms } from './contact-forms';
import { LeavingLines } from './leaving';
import { PlacementField } from './placement-field';
import { OtherFields, OTHERS, type Other } from './other-fields';
import { OccasionField } from './occasion-field';

type What = Content['what'];
type Props = {
  channel: 'code' | 'tag';
  cardId: string;
  composition: Composition;
  record: PersonRecord;
  link: string;
  onClose: () => void;
};

const IN_TAGS = new Set<What>(TAG_CONTENTS);
const ABOUT_CARD: readonly What[] = ['card', 'save', ...LINE_ACTS, 'contact'];

/** What a scan or a tap should do, answered from the card's lines, and where the code or tag will be; then it is made. */
export function NewCode({ channel, cardId, composition, record, link, onClose }: Props) {
  const router = useRouter();
  const [content, take] = useState<Content>({ what: 'card' });
  const [placement, setPlacement] = useState('');
  const [occasionId, setOccasion] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const lines = useMemo(
    () =>
      Object.fromEntries(LINE_ACTS.map((act) => [act, linesFor(composition, act)])) as Record<
        LineAct,
        ReturnType<typeof linesFor>
      >,
    [composition],
  );
  const setContent = (next: Content) => {
    take(next);
    setProblem(null);
  };

  async function make(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const answer = await call<{ id: string }>('/api/hand-outs', {
      json: { cardId, placement, occasionId, channel, content },
    });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    router.push(`/cards/${cardId}/hand-outs/${answer.value.id}`);
  }

  const asked = channel === 'tag' ? TAGS.whatShould : CODES.whatShould;
  const others = channel === 'tag' ? OTHERS.filter((each) => IN_TAGS.has(each)) : OTHERS;
  const choose = (what: What) => setContent(firstOf(what, lines));
  const option = (what: What) => {
    const isLine = (LINE_ACTS as readonly string[]).includes(what);
    const none = isLine && lines[what as LineAct].length === 0;
    return (
      <Form.Check
        key={what}
        type="radio"
        name="what"
        id={`what-${what}`}
        label={CODES.does[what]}
        title={none ? CODES.noLine : undefined}
        disabled={none}
        checked={content.what === what}
        onChange={() => choose(what)}
      />
    );
  };
  return (
    <Modal
      show
      onHide={onClose}
      animation={false}
      aria-labelledby="new-code-title"
      scrollable
      className="new-code"
      size="lg"
    >
      <Modal.Header closeButton>
        <Modal.Title id="new-code-title">{asked}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Form id="new-code" onSubmit={(event) => void make(event)} noValidate>
          <fieldset>
            <legend className="visually-hidden">{asked}</legend>
            {ABOUT_CARD.map(option)}
            <details open={others.some((each) => each === content.what)}>
              <summary>{CODES.notAbout}</summary>
              {others.map(option)}
            </details>
          </fieldset>
          <div className="content-of">
            {'line' in content && (
              <Form.Select
                aria-label={CODES.does[content.what]}
                value={content.line}
                onChange={({ target }) => setContent({ what: content.what, line: target.value })}
              >
                {lines[content.what].map((line) => (
                  <option key={line.id} value={line.id}>
                    {shownValue(line.detail)}
                  </option>
                ))}
              </Form.Select>
            )}
            {'line' in content && (
              <LeavingLines lines={lines[content.what].filter(({ id }) => id === content.line)} record={record} />
            )}
            {content.what === 'contact' && channel === 'tag' && (
              <ContactInTag composition={composition} record={record} link={link} />
            )}
            {content.what === 'contact' && channel === 'code' && (
              <ContactForms
                composition={composition}
                record={record}
                link={link}
                content={content}
                onContent={setContent}
              />
            )}
            {OTHERS.some((each) => each === content.what) && (
              <OtherFields content={content as Other} onContent={setContent} />
            )}
            <p className={isLive(content) ? 'note' : 'attention'}>
              {channel === 'tag' ? (isLive(content) ? TAGS.live : TAGS.frozen) : noteOf(content)}
            </p>
          </div>
          <PlacementField value={placement} onValue={setPlacement} wrong={problem !== null} />
          <OccasionField value={occasionId} onValue={setOccasion} />
          <ProblemNote problem={problem} id="code-problem" />
        </Form>
      </Modal.Body>
      <Modal.Footer>
        <Button type="submit" form="new-code" disabled={busy || !placement.trim()}>
          {channel === 'tag' ? TAGS.make : CODES.make}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

function noteOf({ what }: Content): string {
  if (what === 'card' || what === 'save' || what === 'contact') return CODES.doesNote[what];
  return CODES.doesNote.line;
}

function firstOf(what: What, lines: Record<LineAct, { id: string }[]>): Content {
  switch (what) {
    case 'card':
    case 'save':
      return { what };
    case 'contact':
      return { what, form: 'vCard 3.0', link: true };
    case 'address':
      return { what, url: '' };
    case 'words':
      return { what, text: '' };
    case 'wifi':
      return { what, name: '', password: '', kind: 'WPA', hidden: false };
    case 'place':
      return { what, latitude: 0, longitude: 0, label: '' };
    case 'appointment':
      return { what, title: '', from: '', until: '', place: '' };
    default:
      return { what, line: lines[what][0]?.id ?? '' };
  }
}
