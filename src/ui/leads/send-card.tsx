'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import { LEADS } from '@/core/words';
import type { Act } from './act';

/** Sends a card of one's own to a lead by mail. */
export function SendCard({ cards, act }: { cards: { id: string; audience: string }[]; act: Act }) {
  const [card, setCard] = useState(cards[0]!.id);
  const [note, setNote] = useState('');
  const [told, setTold] = useState('');
  return (
    <details className="lead-send">
      <summary>{LEADS.send}</summary>
      {cards.length > 1 && (
        <Form.Select
          size="sm"
          aria-label={LEADS.sendCard}
          value={card}
          onChange={({ target }) => setCard(target.value)}
        >
          {cards.map(({ id, audience }) => (
            <option key={id} value={id}>
              {audience}
            </option>
          ))}
        </Form.Select>
      )}
      <Form.Control
        size="sm"
        as="textarea"
        rows={2}
        aria-label={LEADS.sendNote}
        placeholder={LEADS.sendNote}
        value={note}
        maxLength={LIMITS.text}
        onChange={({ target }) => setNote(target.value)}
      />
      <Button
        size="sm"
        variant="quiet"
        onClick={() =>
          void act({ act: 'send card', card, note }).then((wrong) => {
            setTold(wrong ? '' : LEADS.sent);
            if (!wrong) setNote('');
          })
        }
      >
        {LEADS.send}
      </Button>
      {told && <p role="status">{told}</p>}
    </details>
  );
}
