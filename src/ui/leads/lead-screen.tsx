'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LEAD_STATES, type LeadState, type ShownLead } from '@/core/replies';
import { LEADS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { Act, TakeAway } from './act';
import { Doubles } from './doubles';
import { EraseDialog } from './erase-dialog';
import { FollowUps } from './follow-ups';
import { SendCard } from './send-card';
import { Timeline } from './timeline';

type Named = { id: string; name: string };
type Props = {
  lead: ShownLead;
  isOwn: boolean;
  occasions: Named[];
  colleagues: Named[];
  /** Own cards that can be sent by mail from here. */
  cards: { id: string; audience: string }[];
  zone: string;
};

/** A lead: who it is, what there was, and what is to follow. */
export function LeadScreen({ lead, isOwn, occasions, colleagues, cards, zone }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [erasing, setErasing] = useState(false);
  /** What brings back what was taken away last. */
  const [away, setAway] = useState<Parameters<Act>[0] | null>(null);
  const path = `/api/leads/${lead.id}`;
  const act: Act = async (json) => {
    const answer = await call(path, { json });
    setProblem(answer.ok ? null : answer.problem);
    router.refresh();
    return answer.ok ? null : answer.problem;
  };
  const takeAway: TakeAway = async (json, again) => {
    if (!(await act(json))) setAway(again);
  };
  async function putBack() {
    if (away && !(await act(away))) setAway(null);
  }
  async function erase() {
    const answer = await call(path, { method: 'DELETE' });
    if (answer.ok) router.push('/leads');
    else setProblem(answer.problem);
    setErasing(false);
  }
  return (
    <section className="lead">
      <header className="head">
        <div>
          <h1>{lead.name}</h1>
          <p className="sub">
            {lead.about && <span>{lead.about}</span>}
            <span>{LEADS.came(LEADS.by[lead.by], instantIn(zone, lead.came))}</span>
            {lead.card && <span>{LEADS.byCard(lead.card.audience)}</span>}
            {lead.where && <span>{lead.where}</span>}
            <Link href="/leads">{LEADS.back}</Link>
          </p>
        </div>
        <div className="choice states" role="group" aria-label={LEADS.state}>
          {LEAD_STATES.map((state) => (
            <button
              key={state}
              type="button"
              aria-pressed={lead.state === state}
              onClick={() => void act({ act: 'change', state } satisfies { act: string; state: LeadState })}
            >
              {LEADS.states[state]}
            </button>
          ))}
        </div>
      </header>
      <ProblemNote problem={problem} />
      <p className="note told" role="status">
        {away && (
          <>
            {LEADS.takenAway}{' '}
            <button type="button" className="plain" onClick={() => void putBack()}>
              {LEADS.putBack}
            </button>
          </>
        )}
      </p>
      <div className="halves">
        <div className="lead-who">
          <h2 className="caps">{LEADS.reach}</h2>
          <dl className="lead-lines">
            {lead.lines.map(({ id, label, value, href }) => (
              <div key={id}>
                <dt>{label}</dt>
                <dd>{href ? <a href={href}>{value}</a> : value}</dd>
              </div>
            ))}
          </dl>
          {isOwn && (
            <p>
              <Link href={`/refer/${lead.id}`}>{LEADS.editOrRefer}</Link>
            </p>
          )}
          <Doubles lead={lead} act={act} />
          <FollowUps lead={lead} act={act} takeAway={takeAway} zone={zone} />
          {cards.length > 0 && lead.record.details.some(({ kind }) => kind === 'email') && (
            <SendCard cards={cards} act={act} />
          )}
          <Kept lead={lead} isOwn={isOwn} occasions={occasions} colleagues={colleagues} act={act} />
          <p>
            <button type="button" className="plain" onClick={() => setErasing(true)}>
              {LEADS.erase}
            </button>
          </p>
        </div>
        <Timeline lead={lead} act={act} takeAway={takeAway} zone={zone} />
      </div>
      <EraseDialog
        show={erasing}
        title={LEADS.eraseTitle(lead.name)}
        onClose={() => setErasing(false)}
        onErase={() => void erase()}
      />
    </section>
  );
}

/** How a lead is kept: topics, where it was met, whose it is and who sees it. */
function Kept({
  lead,
  isOwn,
  occasions,
  colleagues,
  act,
}: Pick<Props, 'lead' | 'isOwn' | 'occasions' | 'colleagues'> & { act: Act }) {
  const router = useRouter();
  const [topics, setTopics] = useState(lead.topics.join(', '));
  const [to, setTo] = useState('');
  const known = lead.occasion === null || occasions.some(({ id }) => id === lead.occasion);
  const keepTopics = () =>
    topics !== lead.topics.join(', ') &&
    void act({
      act: 'change',
      topics: topics
        .split(',')
        .map((each) => each.trim())
        .filter(Boolean),
    });
  return (
    <div className="lead-kept">
      <Form.Group controlId="lead-topics">
        <Form.Label>{LEADS.topics}</Form.Label>
        <Form.Control
          size="sm"
          value={topics}
          placeholder={LEADS.topicsHint}
          onChange={({ target }) => setTopics(target.value)}
          onBlur={keepTopics}
          onKeyDown={({ key }) => key === 'Enter' && keepTopics()}
        />
      </Form.Group>
      {(occasions.length > 0 || !known) && (
        <Form.Group controlId="lead-occasion">
          <Form.Label>{LEADS.occasion}</Form.Label>
          <Form.Select
            size="sm"
            value={lead.occasion ?? ''}
            onChange={({ target }) => void act({ act: 'change', occasion: target.value || null })}
          >
            <option value="">{LEADS.nowhere}</option>
            {!known && <option value={lead.occasion!}>{lead.where}</option>}
            {occasions.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      <p className="note">
        {lead.private ? LEADS.privateNote : LEADS.sharedNote}{' '}
        {isOwn ? (
          <button type="button" className="plain" onClick={() => void act({ act: 'change', private: !lead.private })}>
            {lead.private ? LEADS.share : LEADS.makePrivate}
          </button>
        ) : (
          `${LEADS.owner}: ${lead.owner.name}`
        )}
      </p>
      {colleagues.length > 0 && (
        <div className="pair">
          <Form.Select size="sm" aria-label={LEADS.handOver} value={to} onChange={({ target }) => setTo(target.value)}>
            <option value="">{LEADS.handOver}</option>
            {colleagues.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
          {to && (
            <Button
              size="sm"
              variant="quiet"
              onClick={() => void act({ act: 'hand over', to }).then((wrong) => wrong ?? router.push('/leads'))}
            >
              {LEADS.handOverDo}
            </Button>
          )}
        </div>
      )}
      {to && <p className="note">{LEADS.handOverNote}</p>}
    </div>
  );
}
