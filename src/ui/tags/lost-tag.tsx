'use client';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { RowTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { CardPicker } from '@/ui/card/card-picker';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const W = TAGS.rows;
type Props = { tag: RowTag; onClose: () => void; onResting: () => void; onMoved: () => void };

/** A tag that was lost rests at once, or opens another card; neither needs the tag in hand. */
export function LostTag({ tag, onClose, onResting, onMoved }: Props) {
  const [other, setOther] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function put(json: object, then: () => void) {
    const answer = await call(`/api/hand-outs/${tag.id}/changes`, { method: 'PUT', json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) then();
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="lost-title">
      <Modal.Header closeButton>
        <Modal.Title id="lost-title">{W.lostTitle(tag.person)}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="form-rows">
        <p>{tag.live ? W.lostText : W.frozenLost}</p>
        <Button
          autoFocus
          onClick={() => void put({ what: 'state', state: 'resting', notice: W.restNotice }, onResting)}
        >
          {W.rest}
        </Button>
        <ProblemNote problem={problem} />
        {tag.live && (
          <>
            <CardPicker
              word={W.elsewhere}
              hint={W.elsewhereHint}
              except={tag.cardId}
              chosen={other}
              onChoose={setOther}
            />
            {other && (
              <Button variant="quiet" onClick={() => void put({ what: 'card', cardId: other }, onMoved)}>
                {W.open}
              </Button>
            )}
          </>
        )}
      </Modal.Body>
    </Modal>
  );
}
