'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Stopping, Stops } from '@/core/deletion';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { DELETION } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** What stops with one card, nothing for a draft that was never out. */
function StopsOfCard({ card }: { card: Stopping }) {
  const live = card.handOuts.filter(({ frozen }) => !frozen);
  const frozen = card.handOuts.length - live.length;
  const [address, ...earlier] = card.addresses;
  if (!address && !card.planned && card.insteadOf.length === 0) return null;
  return (
    <li>
      <b>{card.audience}</b>
      <ul>
        {address && (
          <li>
            <span className="mono">{DELETION.address(address, earlier.length)}</span>
            {live.length > 0 && (
              <>
                , {DELETION.handOuts(live.length)} ({live.map(({ placement }) => placement).join(', ')})
              </>
            )}{' '}
            {DELETION.answers}
          </li>
        )}
        {frozen > 0 && <li>{DELETION.frozen(frozen)}</li>}
        {card.saves > 0 && <li>{DELETION.saves(card.saves)}</li>}
        {card.planned && <li>{DELETION.planned}</li>}
        {card.insteadOf.length > 0 && <li>{DELETION.insteadOf(card.insteadOf)}</li>}
      </ul>
    </li>
  );
}

type Props = { what: 'card' | 'person'; id: string; name: string; onClose: () => void };

/** Says what will stop working, and for whom, before a card or a person is deleted; then shows where it can be brought back. */
export function DeleteDialog({ what, id, name, onClose }: Props) {
  const router = useRouter();
  const place = what === 'card' ? `/api/cards/${id}` : `/api/records/${id}`;
  const [stops, setStops] = useState<Stops | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    let current = true;
    void call<Stops>(`${place}/deletion`).then((answer) => {
      if (!current) return;
      if (answer.ok) setStops(answer.value);
      else setProblem(answer.problem);
    });
    return () => {
      current = false;
    };
  }, [place]);

  async function remove() {
    setBusy(true);
    const answer = await call(place, { method: 'DELETE' });
    if (answer.ok) return router.push('/people/deleted');
    setBusy(false);
    setProblem(answer.problem);
  }
  const noticed = stops?.cards.filter(
    ({ addresses, planned, insteadOf }) => addresses.length + insteadOf.length > 0 || planned,
  );
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="delete-title">
      <Modal.Header closeButton>
        <Modal.Title id="delete-title">
          {what === 'card' ? DELETION.cardTitle(name) : DELETION.personTitle(name)}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body aria-busy={stops === null}>
        {!stops && !problem && <p role="status">{DELETION.looking}</p>}
        {noticed?.length === 0 && <p>{DELETION.nothingOut}</p>}
        {noticed && noticed.length > 0 && (
          <div className="banner leaving">
            <h3 className="caps">{DELETION.stops}</h3>
            <ul>
              {noticed.map((card) => (
                <StopsOfCard key={card.id} card={card} />
              ))}
            </ul>
            <p className="small">{DELETION.reserved}</p>
          </div>
        )}
        {stops && stops.members.length > 0 && <p>{DELETION.members(stops.members)}</p>}
        {stops && <p>{DELETION.until(LIMITS.deletedDays)}</p>}
        <ProblemNote problem={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {DELETION.cancel}
        </Button>
        <Button disabled={!stops || busy} onClick={() => void remove()}>
          {DELETION.confirm}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
