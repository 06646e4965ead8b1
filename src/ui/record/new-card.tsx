'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { startOf, STARTS, type Audience } from '@/core/card';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { LayoutName } from '@/core/look';
import { kindIn } from '@/core/messages';
import { BLOCK_WORDS, CARDS, LOOK, STARTS_WORDS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = {
  recordId: string;
  cards: { id: string; audience: string }[];
  audiences: Audience[];
  /** Those that the house style allows. */
  layouts: readonly LayoutName[];
  onClose: () => void;
};

/** A further card of this person: for an audience, from the record, another card, or a starting card for a trade. */
export function NewCard({ recordId, cards, audiences, layouts, onClose }: Props) {
  const router = useRouter();
  // The usual public audience that has no card yet; whoever wants another types over it.
  const [first] = useState(() =>
    audiences.find(({ name, isPrivate }) => !isPrivate && !cards.some((card) => card.audience === name)),
  );
  const [audience, setAudience] = useState(first?.name ?? CARDS.cardNumber(cards.length + 1));
  /** What a person said of it; null while the preset of that name says. */
  const [saidPrivate, setPrivate] = useState<boolean | null>(null);
  const [from, setFrom] = useState('');
  const [layout, setLayout] = useState<LayoutName | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const preset = audiences.find(({ name }) => name === audience);
  const isPrivate = saidPrivate ?? preset?.isPrivate ?? false;
  const [kind, key = ''] = from.split(' ');
  const start = kind === 'start' ? startOf(key) : null;

  async function make(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ cardId: string }>('/api/cards', {
      json: {
        recordId,
        audience,
        isPrivate,
        without: preset?.without ?? [],
        ...(layout && kind !== 'card' ? { layout } : {}),
        from: kind === 'card' ? { card: key } : kind === 'start' ? { start: key } : null,
      },
    });
    if (answer.ok) router.push(`/cards/${answer.value.cardId}`);
    else setProblem(answer.problem);
  }

  return (
    <Modal show onHide={onClose} animation={false} size="lg" aria-labelledby="new-card" scrollable>
      <Form onSubmit={make} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="new-card">{CARDS.newCardTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="audience">
            <Form.Label>{CARDS.audience}</Form.Label>
            <Form.Control
              autoFocus
              value={audience}
              maxLength={LIMITS.audience}
              placeholder={CARDS.audienceHint}
              onChange={(event) => setAudience(event.target.value)}
            />
            <div className="presets">
              {audiences.map((each) => (
                <button
                  key={each.name}
                  type="button"
                  aria-pressed={each.name === audience}
                  onClick={() => {
                    setAudience(each.name);
                    setPrivate(null);
                  }}
                >
                  {each.name}
                </button>
              ))}
            </div>
            <Form.Text>{CARDS.audienceNote}</Form.Text>
          </Form.Group>
          <Form.Check
            id="audience-private"
            label={CARDS.privateAudience}
            checked={isPrivate}
            onChange={(event) => setPrivate(event.target.checked)}
          />
          <Form.Group controlId="card-from">
            <Form.Label>{CARDS.from}</Form.Label>
            <Form.Select value={from} onChange={(event) => setFrom(event.target.value)}>
              <option value="">{CARDS.fromRecord}</option>
              <optgroup label={CARDS.fromStarts}>
                {STARTS.map(({ key: each }) => (
                  <option key={each} value={`start ${each}`}>
                    {STARTS_WORDS[each]}
                  </option>
                ))}
              </optgroup>
              {cards.length > 0 && (
                <optgroup label={CARDS.fromCards}>
                  {cards.map((card) => (
                    <option key={card.id} value={`card ${card.id}`}>
                      {CARDS.fromCard(card.audience)}
                    </option>
                  ))}
                </optgroup>
              )}
            </Form.Select>
            {start && (
              <Form.Text>
                {CARDS.startHas(start.lines.map((line) => line.label ?? kindIn('en', line.kind)))}{' '}
                {CARDS.startBlocks(start.blocks.map((block) => BLOCK_WORDS[block]))}
              </Form.Text>
            )}
          </Form.Group>
          {/* Another card brings its own look. */}
          {kind !== 'card' && (
            <fieldset className="start-layouts">
              <legend>{CARDS.layout}</legend>
              <ul className="layouts">
                {layouts.map((name) => (
                  <li key={name}>
                    <button
                      type="button"
                      aria-pressed={layout === name}
                      onClick={() => setLayout(layout === name ? null : name)}
                    >
                      <img
                        src={`/api/records/${recordId}/faces/card-lying.svg?layout=${name}&start=${key}&private=${isPrivate ? 'yes' : 'no'}`}
                        alt=""
                        width={170}
                        height={110}
                        loading="lazy"
                      />
                      <b>{LOOK.layouts[name][0]}</b>
                      <small>{LOOK.layouts[name][1]}</small>
                    </button>
                  </li>
                ))}
              </ul>
            </fieldset>
          )}
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={!audience.trim()}>
            {CARDS.makeCard}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
