'use client';
import Link from 'next/link';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LONGEST_PARAMETERS } from '@/core/profile';
import type { ShownElsewhere, ShownProfile } from '@/core/shown';
import { PROFILE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

type Props = { opened: ShownProfile; seen: ShownElsewhere | null };

/** What a profile page elsewhere is filled with, and what it sees of the link. */
export function ProfileScreen({ opened, seen }: Props) {
  const { title, texts, link, cardId } = opened;
  const said = texts.filter(({ text }) => text);
  return (
    <section className="profile-screen">
      <div>
        <h2 className="caps">{PROFILE.kit}</h2>
        <p className="note">{PROFILE.kitNote}</p>
        <Piece word={PROFILE.link} text={link} mono />
        <Piece word={PROFILE.title} text={title.text} limit={title.limit} />
        {texts.map(({ text, limit }, at) =>
          text ? <Piece key={limit} word={PROFILE.texts[at]!} text={text} limit={limit} /> : null,
        )}
        {said.length === 0 && <p className="attention">{PROFILE.none}</p>}
        <Parameters opened={opened} />
        <Link href={`/cards/${cardId}/hand-outs`}>{PROFILE.open}</Link>
      </div>
      <div className="profile-seen">
        <h2 className="caps">{PROFILE.seen}</h2>
        {seen ? <Seen seen={seen} /> : <p className="attention">{PROFILE.notSeen}</p>}
        <p className="note">{PROFILE.seenNote}</p>
      </div>
    </section>
  );
}

function Piece({ word, text, limit, mono }: { word: string; text: string; limit?: number; mono?: boolean }) {
  return (
    <div className="profile-piece">
      <p className="caps">{word}</p>
      <p className={mono ? 'mono' : undefined}>{text}</p>
      <span className="num note">{limit ? PROFILE.length([...text].length, limit) : ''}</span>
      <CopyButton text={text}>{PROFILE.copy}</CopyButton>
    </div>
  );
}

function Seen({ seen: { title, description, picture, imageAlt, address, hidden } }: { seen: ShownElsewhere }) {
  return (
    <>
      <figure>
        {picture ? (
          <img src={picture} alt={imageAlt || PROFILE.pictureOf(title)} />
        ) : (
          <p className="attention">{PROFILE.noPicture}</p>
        )}
        <figcaption>
          <strong>{title}</strong>
          <span>{description}</span>
          <span className="mono">{address}</span>
        </figcaption>
      </figure>
      <p className="note">{hidden ? PROFILE.hidden : PROFILE.listed}</p>
      {picture && (
        <a className="btn btn-quiet" href={picture} download="profile.jpg">
          {PROFILE.picture}
        </a>
      )}
    </>
  );
}

function Parameters({ opened: { id, parameters } }: { opened: ShownProfile }) {
  const [typed, setTyped] = useState(parameters);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  async function save(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ parameters: string }>(`/api/hand-outs/${id}/profile`, {
      method: 'PUT',
      json: { parameters: typed },
    });
    setProblem(answer.ok ? null : answer.problem);
    setTold(answer.ok ? PROFILE.saved : '');
    if (answer.ok) setTyped(answer.value.parameters);
  }
  const wrong = problem?.code === 'INPUT';
  return (
    <Form onSubmit={(event) => void save(event)} noValidate>
      <Form.Group controlId="profile-parameters">
        <Form.Label>{PROFILE.parameters}</Form.Label>
        <div className="pair">
          <Form.Control
            className="mono"
            value={typed}
            maxLength={LONGEST_PARAMETERS}
            placeholder={PROFILE.parametersHint}
            onChange={({ target }) => (setTyped(target.value), setTold(''))}
            {...invalid('profile-parameters-problem', wrong)}
          />
          <Button type="submit" variant="quiet">
            {PROFILE.save}
          </Button>
        </div>
        {wrong && (
          <p className="problem" id="profile-parameters-problem" role="alert">
            {PROFILE.wrong}
          </p>
        )}
        {!wrong && <ProblemNote problem={problem} />}
        <p className="note">
          {PROFILE.parametersNote} <span role="status">{told}</span>
        </p>
      </Form.Group>
    </Form>
  );
}
