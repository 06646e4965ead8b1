'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { BACKDROP, CODE_SIZE_NAMES, SITTER, type Backdrop } from '@/core/backdrop';
import type { ShownBackdrop } from '@/core/shown';
import { BACKDROP_WORDS, CODES, PAPER } from '@/core/words';
import { PictureInput } from '@/ui/card/blocks/file-input';
import { ProblemNote } from '@/ui/studio/problem-note';
import { FirstFinding, Measured } from './findings';
import { usePiece } from './use-piece';

/** A backdrop: how it is made up, what others see of it, and its file. */
export function BackdropScreen({ opened }: { opened: ShownBackdrop }) {
  const {
    shown,
    made: backdrop,
    problem,
    busy,
    change: keep,
  } = usePiece(`/api/hand-outs/${opened.id}/backdrop`, opened, opened.backdrop);
  const change = (more: Partial<Backdrop>) => keep({ ...backdrop, ...more });
  return (
    <section className="paper-screen">
      <div>
        <div className="paper-options">
          <Form.Group controlId="backdrop-corner">
            <Form.Label>{BACKDROP_WORDS.corner}</Form.Label>
            <Form.Select
              value={backdrop.corner}
              onChange={({ target }) => change({ corner: target.value as Backdrop['corner'] })}
            >
              {(['right', 'left'] as const).map((each) => (
                <option key={each} value={each}>
                  {BACKDROP_WORDS.corners[each]}
                </option>
              ))}
            </Form.Select>
            <p className="note">{BACKDROP_WORDS.cornerNote}</p>
          </Form.Group>
          <Form.Group controlId="backdrop-code">
            <Form.Label>{BACKDROP_WORDS.code}</Form.Label>
            <Form.Select
              value={backdrop.code}
              onChange={({ target }) => change({ code: target.value as Backdrop['code'] })}
            >
              {CODE_SIZE_NAMES.map((each) => (
                <option key={each} value={each}>
                  {BACKDROP_WORDS.codes[each]}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <div>
            <span className="form-label">{BACKDROP_WORDS.behind}</span>
            <PictureInput
              picture={backdrop.picture}
              word={BACKDROP_WORDS.choose}
              onPicture={(picture) => change({ picture })}
            />
            {!backdrop.picture && <p className="note">{BACKDROP_WORDS.plain}</p>}
          </div>
          <Link href={`/cards/${shown.cardId}`}>{PAPER.ticks}</Link>
          <span role="status" className="note">
            {busy ? BACKDROP_WORDS.saving : ''}
          </span>
          <Link href={`/cards/${shown.cardId}/hand-outs`}>{CODES.back}</Link>
        </div>
        <ProblemNote problem={problem} />
      </div>
      <BackdropStage shown={shown} />
      <BackdropUse shown={shown} />
    </section>
  );
}

const percent = (share: number) => `${share * 100}%`;
const SEAT = {
  left: percent(SITTER.x / BACKDROP.width),
  top: percent(SITTER.y / BACKDROP.height),
  width: percent(SITTER.width / BACKDROP.width),
  height: percent(SITTER.height / BACKDROP.height),
};

function BackdropStage({ shown }: { shown: ShownBackdrop }) {
  const [seated, setSeated] = useState(true);
  return (
    <div className="paper-stage">
      <Form.Check
        id="backdrop-sitter"
        type="switch"
        label={BACKDROP_WORDS.sitter}
        checked={seated}
        onChange={({ target }) => setSeated(target.checked)}
      />
      <FirstFinding
        proof={shown.proof}
        passed={BACKDROP_WORDS.passed}
        leaving={shown.leaving}
        leavingWord={BACKDROP_WORDS.leaving}
      />
      <div className="backdrop-picture">
        <img src={shown.picture} alt={BACKDROP_WORDS.alt} />
        {seated && (
          <svg className="sitter" style={SEAT} viewBox="0 0 68 96" preserveAspectRatio="none" aria-hidden="true">
            <path d="M0 96c0-24 10-33 24-37v-6c-6-5-9-13-9-22C15 15 23 4 34 4s19 11 19 27c0 9-3 17-9 22v6c14 4 24 13 24 37z" />
          </svg>
        )}
      </div>
      <Measured proof={shown.proof} />
    </div>
  );
}

function BackdropUse({ shown: { id, proof, bytes, type, unpublished, cardId } }: { shown: ShownBackdrop }) {
  const file = `/api/hand-outs/${id}/backdrop`;
  return (
    <div className="paper-use">
      <p className="caps">{BACKDROP_WORDS.use}</p>
      {proof.passed ? (
        <a className="btn btn-primary" href={`${file}.file`} download>
          {BACKDROP_WORDS.download}
        </a>
      ) : (
        <p className="failed">{BACKDROP_WORDS.failed}</p>
      )}
      {proof.passed && (
        <p className="note">
          {BACKDROP_WORDS.fileNote(bytes, type)}{' '}
          {type !== 'PNG' && (
            <a href={`${file}.png`} download>
              {BACKDROP_WORDS.png}
            </a>
          )}
        </p>
      )}
      {unpublished && (
        <p className="attention">
          {BACKDROP_WORDS.outdated} <Link href={`/cards/${cardId}`}>{PAPER.publishFirst}</Link>
        </p>
      )}
    </div>
  );
}
