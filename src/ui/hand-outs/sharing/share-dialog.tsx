'use client';
import { useEffect, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { readPhone } from '@/core/record';
import type { SharedCard } from '@/core/shown';
import { SHARE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { OccasionField } from '../occasion-field';
import { OwnContact } from './own-contact';

type Turn = keyof typeof SHARE.turns;

/** A moment after the last letter, in milliseconds: a placement is a hand-out, and half a word is none. */
const QUIET_MS = 500;

/** Shares a card with somebody, from the device or as a link; or makes it the phone's own contact. */
export function ShareDialog({ cardId, onClose }: { cardId: string; onClose: () => void }) {
  const [turn, setTurn] = useState<Turn>('others');
  const [placement, setPlacement] = useState<string>(SHARE.first);
  const [occasion, setOccasion] = useState<{ id: string | null; name: string }>({ id: null, name: '' });
  const [shared, setShared] = useState<SharedCard | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  // Made before the button is pressed: a device shares only while the press is fresh.
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      async () => {
        const json = { placement: placement.trim() || SHARE.first, occasionId: occasion.id };
        const answer = await call<SharedCard>(`/api/cards/${cardId}/share`, { json });
        if (!current) return;
        setProblem(answer.ok ? null : answer.problem);
        if (answer.ok) setShared(answer.value);
      },
      placement === SHARE.first ? 0 : QUIET_MS,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [cardId, placement, occasion.id]);
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="share-title" className="change-dialog">
      <Modal.Header closeButton>
        <Modal.Title id="share-title">{SHARE.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <div className="choice" role="group" aria-label={SHARE.turn}>
          {(Object.keys(SHARE.turns) as Turn[]).map((each) => (
            <button key={each} type="button" aria-pressed={turn === each} onClick={() => setTurn(each)}>
              {SHARE.turns[each]}
            </button>
          ))}
        </div>
        <ProblemNote problem={problem} />
        {shared && shared.leaving.length > 0 && (
          <div className="attention" role="status">
            {SHARE.carries}
            <ul>
              {shared.leaving.map((value) => (
                <li key={value}>{value}</li>
              ))}
            </ul>
          </div>
        )}
        {turn === 'own' ? (
          <OwnContact shared={shared} />
        ) : (
          <>
            <fieldset>
              <Form.Group controlId="share-placement">
                <Form.Label>{SHARE.where}</Form.Label>
                <Form.Control
                  value={placement}
                  maxLength={LIMITS.placement}
                  onChange={({ target }) => {
                    setPlacement(target.value);
                    setShared(null);
                  }}
                />
              </Form.Group>
              <OccasionField
                value={occasion.id}
                onValue={(id, chosen) => {
                  setOccasion({ id, name: chosen?.name ?? '' });
                  setShared(null);
                }}
              />
            </fieldset>
            <WithSomebody shared={shared} occasion={occasion.name} />
          </>
        )}
      </Modal.Body>
    </Modal>
  );
}

function WithSomebody({ shared, occasion }: { shared: SharedCard | null; occasion: string }) {
  const [own, setOwn] = useState<string | null>(null);
  const [withFile, setWithFile] = useState(true);
  const [told, setTold] = useState('');
  const [number, setNumber] = useState('');
  const words = own ?? SHARE.note(occasion);
  const text = shared ? `${words}\n${shared.link}` : words;
  const file = shared && new File([shared.file.text], shared.file.name, { type: 'text/vcard' });
  const hasSheet = typeof navigator.share === 'function';
  const takesFile = hasSheet && file !== null && (navigator.canShare?.({ files: [file] }) ?? false);
  async function share() {
    if (!shared || !file) return;
    const link = { title: shared.name, text: words, url: shared.link };
    // Some devices drop the words beside a file: the link stands in them as well.
    const data = takesFile && withFile ? { title: shared.name, text, files: [file] } : link;
    await navigator.share(data).then(
      () => {
        setTold(SHARE.shared);
        // The contact is out from now on.
        if (takesFile && withFile) void call(`/api/hand-outs/${shared.id}/shared`, { json: {} });
      },
      (error: Error) => setTold(error.name === 'AbortError' ? SHARE.left : SHARE.failed),
    );
  }
  const phone = number.trim() && shared ? readPhone(number, shared.country) : null;
  const unreadable = phone && !phone.ok ? phone.problem : null;
  const body = encodeURIComponent(text);
  return (
    <div className="share-ways" aria-busy={shared === null}>
      <Form.Group controlId="share-words">
        <Form.Label>{SHARE.words}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          value={words}
          maxLength={LIMITS.text}
          onChange={({ target }) => setOwn(target.value)}
        />
      </Form.Group>
      {hasSheet ? (
        <>
          <Button disabled={!shared} onClick={() => void share()}>
            {SHARE.device}
          </Button>
          {takesFile ? (
            <label>
              <input type="checkbox" checked={withFile} onChange={({ target }) => setWithFile(target.checked)} />{' '}
              {SHARE.withFile} <small className="note">{SHARE.fileNote}</small>
            </label>
          ) : (
            shared && <p className="note">{SHARE.linkAlone}</p>
          )}
        </>
      ) : (
        <p className="note">{SHARE.noDevice}</p>
      )}
      <p role="status">{told}</p>
      <Form.Group controlId="share-number">
        <Form.Label>{SHARE.text}</Form.Label>
        <div className="pair">
          <Form.Control
            type="tel"
            aria-label={SHARE.number}
            value={number}
            onChange={({ target }) => setNumber(target.value)}
            {...invalid('share-number-problem', unreadable !== null)}
          />
          {/* RFC 5724: the number, and the words as its body. */}
          <a
            className={`btn btn-quiet${phone?.ok ? '' : ' disabled'}`}
            aria-disabled={!phone?.ok}
            href={phone?.ok ? `sms:${phone.value.number}?body=${body}` : undefined}
          >
            {SHARE.openText}
          </a>
        </div>
        <ProblemNote problem={unreadable} id="share-number-problem" />
      </Form.Group>
      {shared && (
        <div className="pair">
          {/* RFC 6068. */}
          <a className="btn btn-quiet" href={`mailto:?subject=${encodeURIComponent(shared.name)}&body=${body}`}>
            {SHARE.mail}
          </a>
          <CopyButton text={text}>{SHARE.chat}</CopyButton>
          <CopyButton text={shared.link}>{SHARE.copy}</CopyButton>
        </div>
      )}
      {shared && (
        <p className="note">
          {SHARE.link}: <span className="mono">{shared.link}</span>
        </p>
      )}
    </div>
  );
}
