'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import { HAND_KINDS, type HandKind, type ShownEntry, type ShownLead, type ShownReply } from '@/core/replies';
import { LEADS } from '@/core/words';
import { instantIn } from '@/ui/studio/instant';
import type { Act, TakeAway } from './act';

/** What there was with a lead, the latest first, and a place to note more. */
export function Timeline({
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
  const all: ({ at: string } & ({ entry: ShownEntry } | { reply: ShownReply }))[] = [
    ...lead.entries.map((entry) => ({ at: entry.at, entry })),
    ...lead.replies.map((reply) => ({ at: reply.at, reply })),
  ].sort((a, b) => b.at.localeCompare(a.at));
  return (
    <div className="lead-timeline">
      <h2 className="caps">{LEADS.timeline}</h2>
      <NewNote act={act} />
      <ol>
        {all.map((each) =>
          'reply' in each ? (
            <Reply key={each.reply.id} reply={each.reply} act={act} zone={zone} />
          ) : (
            <Entry key={each.entry.id} entry={each.entry} takeAway={takeAway} zone={zone} />
          ),
        )}
      </ol>
    </div>
  );
}

function NewNote({ act }: { act: Act }) {
  const [kind, setKind] = useState<HandKind>('note');
  const [text, setText] = useState('');
  const [place, setPlace] = useState('');
  const [when, setWhen] = useState('');
  const [hidden, setHidden] = useState(false);
  async function keep(event: FormEvent) {
    event.preventDefault();
    const at = when ? new Date(when).toISOString() : null;
    if (await act({ act: 'note', kind, text, place, at, private: hidden })) return;
    setText('');
    setPlace('');
    setWhen('');
  }
  return (
    <Form className="lead-note" onSubmit={(event) => void keep(event)}>
      <div className="choice" role="group" aria-label={LEADS.noteKind}>
        {HAND_KINDS.map((each) => (
          <button key={each} type="button" aria-pressed={kind === each} onClick={() => setKind(each)}>
            {LEADS.kinds[each]}
          </button>
        ))}
      </div>
      <Form.Control
        as="textarea"
        rows={3}
        aria-label={LEADS.note}
        placeholder={LEADS.noteHint}
        value={text}
        maxLength={LIMITS.note}
        onChange={({ target }) => setText(target.value)}
      />
      <div className="lead-note-foot">
        <Form.Control
          size="sm"
          aria-label={LEADS.place}
          placeholder={LEADS.place}
          value={place}
          maxLength={LIMITS.name}
          onChange={({ target }) => setPlace(target.value)}
        />
        <Form.Control
          size="sm"
          type="datetime-local"
          aria-label={LEADS.when}
          value={when}
          onChange={({ target }) => setWhen(target.value)}
        />
        <label className="gap-choice">
          <input type="checkbox" checked={hidden} onChange={({ target }) => setHidden(target.checked)} /> {LEADS.onlyMe}
        </label>
        <Button size="sm" type="submit" disabled={kind === 'note' && !text.trim()}>
          {LEADS.keep}
        </Button>
      </div>
    </Form>
  );
}

function Entry({ entry, takeAway, zone }: { entry: ShownEntry; takeAway: TakeAway; zone: string }) {
  const { id, kind, text, place, at, private: hidden } = entry;
  return (
    <li className={entry.private ? 'private' : undefined}>
      <p className="of">
        <b>{LEADS.entry[entry.kind]}</b>{' '}
        {[instantIn(zone, entry.at), entry.place, entry.by, entry.private && LEADS.onlyMe].filter(Boolean).join(' · ')}
      </p>
      {entry.text && <p className="said">{entry.text}</p>}
      {entry.own && (
        <button
          type="button"
          className="plain"
          onClick={() =>
            void takeAway({ act: 'remove note', entry: id }, { act: 'note', kind, text, place, at, private: hidden })
          }
        >
          {LEADS.removeNote}
        </button>
      )}
    </li>
  );
}

function Reply({ reply, act, zone }: { reply: ShownReply; act: Act; zone: string }) {
  const { told } = reply;
  const said = [told.name, told.reach, told.other, told.firm, told.title].filter(Boolean).join(' · ');
  return (
    <li className={['reply', reply.waits && 'waits'].filter(Boolean).join(' ')}>
      <p className="of">
        <b>{LEADS.replied}</b> {instantIn(zone, reply.at)}
      </p>
      <p className="said">{said}</p>
      {told.note && <p className="said">{told.note}</p>}
      {told.answer && (
        <p className="said">
          <b>{told.question}</b> {told.answer}
        </p>
      )}
      {reply.waits && (
        <div className="attention">
          <p>
            {LEADS.waits} {reply.wrong.map((each) => LEADS.wrong[each]).join(', ')}.
          </p>
          <Button size="sm" onClick={() => void act({ act: 'nod', reply: reply.id })}>
            {LEADS.nod}
          </Button>
        </div>
      )}
      <p className="note">
        {reply.followed ? LEADS.followed : LEADS.notFollowed} {reply.agreed && LEADS.agreed}
      </p>
      <details className="note">
        <summary>{LEADS.consent}</summary>
        <p>{reply.consent}</p>
      </details>
    </li>
  );
}
