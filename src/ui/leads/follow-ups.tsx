'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import type { ShownLead } from '@/core/replies';
import { LEADS } from '@/core/words';
import { shortDayIn } from '@/ui/studio/instant';
import type { Act, TakeAway } from './act';

/** What is to be done for a lead, each with its day; ticked off and unticked where it stands. */
export function FollowUps({
  lead,
  act,
  takeAway,
  zone,
}: {
  lead: ShownLead;
  act: Act;
  takeAway: TakeAway;
  zone: string;
}) {
  const [what, setWhat] = useState('');
  const [due, setDue] = useState('');
  async function add(event: FormEvent) {
    event.preventDefault();
    if (!(await act({ act: 'follow up', due, what }))) setWhat('');
  }
  return (
    <div className="lead-todo">
      <h2 className="caps">{LEADS.followUps}</h2>
      <ul>
        {lead.followUps.map((each) => (
          <li key={each.id} className={each.done ? 'nowhere' : undefined}>
            <label>
              <input
                type="checkbox"
                checked={each.done}
                onChange={({ target }) =>
                  void act({
                    act: 'follow up',
                    followUp: each.id,
                    due: each.due,
                    what: each.what,
                    done: target.checked,
                  })
                }
              />{' '}
              {each.what}
            </label>
            <span className="note">{shortDayIn(zone, `${each.due}T12:00:00Z`)}</span>
            <button
              type="button"
              className="plain"
              aria-label={LEADS.removeFollowUp(each.what)}
              onClick={() =>
                void takeAway(
                  { act: 'remove follow up', followUp: each.id },
                  { act: 'follow up', due: each.due, what: each.what, done: each.done },
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <Form className="lead-add" onSubmit={(event) => void add(event)}>
        <Form.Control
          size="sm"
          aria-label={LEADS.followUpWhat}
          placeholder={LEADS.followUpHint}
          value={what}
          maxLength={LIMITS.label}
          onChange={({ target }) => setWhat(target.value)}
        />
        <Form.Control
          size="sm"
          type="date"
          aria-label={LEADS.followUpDay}
          value={due}
          onChange={({ target }) => setDue(target.value)}
        />
        <Button size="sm" variant="quiet" type="submit" disabled={!what.trim() || !due}>
          {LEADS.addFollowUp}
        </Button>
      </Form>
    </div>
  );
}
