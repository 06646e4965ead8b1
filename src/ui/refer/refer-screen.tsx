'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { MailAllowed, ShownContact } from '@/core/shown';
import { REFER } from '@/core/words';
import { AddDetail } from '@/ui/record/add-detail';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { PassOn } from './pass-on';
import { Passed } from './passed';
import { useContact } from './use-contact';

type Props = { opened: ShownContact; country: string; zone: string; mail: MailAllowed };

/** A contact: its ledger of what is passed on, the ways to do that, and what was passed on so far. */
export function ReferScreen({ opened, country, zone, mail }: Props) {
  const router = useRouter();
  const { contact, problem, setProblem, told, save, tick, refresh } = useContact(opened);
  const [removing, setRemoving] = useState(false);
  const { id, lines, record } = contact;

  async function remove() {
    const answer = await call(`/api/refer/${id}`, { method: 'DELETE' });
    if (answer.ok) router.push('/refer');
    else setProblem(answer.problem);
  }
  return (
    <section className="refer">
      <header className="head">
        <div>
          <p className="sub">
            <Link href="/refer">{REFER.back}</Link>
          </p>
          <h1>{contact.name}</h1>
        </div>
        <div className="acts">
          <Button variant="quiet" onClick={() => setRemoving(true)}>
            {REFER.remove}
          </Button>
        </div>
      </header>
      <div className="halves even">
        <div>
          <h2 className="caps">{REFER.lines}</h2>
          <p className="note">
            {REFER.linesNote} <span role="status">{told}</span>
          </p>
          <ul className="refer-lines">
            {lines.map((line) => (
              <li key={line.id} className={line.privacy && line.ticked ? 'leaving' : undefined}>
                <label>
                  <input
                    type="checkbox"
                    checked={line.ticked}
                    aria-label={REFER.tick(line.label, line.value)}
                    onChange={({ target }) => tick(line.id, target.checked)}
                  />
                  <span className="note">{line.label}</span>
                  <span>{line.value}</span>
                  {line.privacy && <span className="attention">{REFER.private}</span>}
                </label>
                <button
                  type="button"
                  className="plain"
                  aria-label={REFER.take(line.value)}
                  onClick={() => save({ details: record.details.filter((detail) => detail.id !== line.id) })}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          <ProblemNote problem={problem} />
          <AddDetail
            country={country}
            zone={zone}
            name={contact.name}
            known={record.details}
            onName={(name) => save({ name })}
            onAdd={(details) => save({ details: [...record.details, ...details] })}
          />
        </div>
        <div>
          <PassOn contact={contact} zone={zone} mail={mail} onPassed={() => void refresh()} />
          <Passed contact={contact} zone={zone} onEnded={() => void refresh()} />
        </div>
      </div>
      <Modal show={removing} onHide={() => setRemoving(false)} animation={false} aria-labelledby="refer-remove">
        <Modal.Header closeButton>
          <Modal.Title id="refer-remove">{REFER.remove}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{REFER.removeText(contact.name)}</p>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={() => setRemoving(false)}>
            {REFER.keep}
          </Button>
          <Button onClick={() => void remove()}>{REFER.removeAct}</Button>
        </Modal.Footer>
      </Modal>
    </section>
  );
}
