'use client';
import type { CardBehind } from '@/core/shown';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { wordingOf, type Problem } from '@/core/errors';
import { CARDS, PUBLISH } from '@/core/words';
import { PublishPrivate } from '@/ui/card/publishing/publish-private';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Told = { recordVersion: number; cards: CardBehind[] };

/** After a change of the record or of its cards (`at` is another then): which published cards no longer say what it says, what changes on each, and all of them at once. */
export function PublishBehind({ recordId, at }: { recordId: string; at: string }) {
  const router = useRouter();
  const [{ recordVersion, cards: behind }, setBehind] = useState<Told>({ recordVersion: 0, cards: [] });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [open, setOpen] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [published, setPublished] = useState(0);
  const [confirmed, setConfirmed] = useState(false);
  useEffect(() => {
    let current = true;
    void call<Told>(`/api/records/${recordId}/publish`).then((answer) => {
      if (current && answer.ok) setBehind(answer.value);
    });
    return () => {
      current = false;
    };
  }, [recordId, at, published]);

  const chosen = behind.filter((card) => !left.has(card.id) && !card.problem);
  const leaving = chosen.flatMap((card) => card.leaving.map((each) => ({ ...each, card: card.audience })));
  const waits = !confirmed && leaving.some(({ isNew }) => isNew);
  async function publish() {
    if (waits) return;
    setBusy(true);
    const answer = await call<{ published: unknown[] }>(`/api/records/${recordId}/publish`, {
      json: { recordVersion, cards: chosen.map(({ id, version: seen }) => ({ id, version: seen })) },
    });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setOpen(false);
    setPublished(published + answer.value.published.length);
    router.refresh();
  }

  if (behind.length === 0)
    return published > 0 ? (
      <p className="banner told" role="status">
        {CARDS.publishedOn(published)}
      </p>
    ) : null;
  return (
    <>
      <div className="banner" role="status">
        <p>{CARDS.behind(behind.length)}</p>
        <Button variant="quiet" onClick={() => setOpen(true)}>
          {CARDS.seeBehind}
        </Button>
      </div>
      {open && (
        <Modal show onHide={() => setOpen(false)} size="lg" animation={false} aria-labelledby="behind-title">
          <Modal.Header closeButton>
            <Modal.Title id="behind-title">{CARDS.publishSeveral}</Modal.Title>
          </Modal.Header>
          <Modal.Body>
            <PublishPrivate leaving={leaving} confirmed={confirmed} onConfirmed={setConfirmed} />
            {behind.map((card) => (
              <div className="behind" key={card.id}>
                <label>
                  <input
                    type="checkbox"
                    aria-label={CARDS.choose(card.audience)}
                    checked={!left.has(card.id) && !card.problem}
                    disabled={card.problem !== null}
                    onChange={(event) => {
                      setConfirmed(false);
                      setLeft(
                        new Set(event.target.checked ? [...left].filter((id) => id !== card.id) : [...left, card.id]),
                      );
                    }}
                  />{' '}
                  <Link href={`/cards/${card.id}`}>{card.audience}</Link>
                </label>
                {card.problem && (
                  <p className="problem">
                    {CARDS.cannot} {wordingOf(card.problem)}
                  </p>
                )}
                <ul className="changes">
                  {card.changes.map((change, index) => (
                    <li key={index}>
                      <strong>{change.line}</strong> {change.what}
                    </li>
                  ))}
                </ul>
              </div>
            ))}
            <ProblemNote problem={problem} />
          </Modal.Body>
          <Modal.Footer>
            {waits && <p className="small">{PUBLISH.privateFirst}</p>}
            <Button disabled={chosen.length === 0 || busy || waits} onClick={() => void publish()}>
              {CARDS.publishOn(chosen.length)}
            </Button>
          </Modal.Footer>
        </Modal>
      )}
    </>
  );
}
