'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import type { CardState } from '@/core/card';
import { CARD, CARDS, COPIES, DELETION, FRAME, REVISIONS, SHARE } from '@/core/words';
import { shownLink } from '@/core/record';
import type { HandOutChannel } from '@/core/shown';
import { CopyButton } from '@/ui/studio/copy-button';

const ShareDialog = dynamic(() => import('@/ui/hand-outs/sharing/share-dialog').then((made) => made.ShareDialog));
const CodeDialog = dynamic(() => import('@/ui/hand-outs/code-dialog').then((made) => made.CodeDialog));

export type CardInHead = {
  id: string;
  person: string;
  recordId: string;
  audience: string;
  state: CardState;
  address: string | null;
  publicUrl: string;
  revision: { number: number } | null;
  wild: number;
  handOuts: { id: string; code: string; placement: string; channel: HandOutChannel; frozen: boolean }[];
};

type Turn = 'lines' | 'look' | 'hand-outs' | 'response';
const TURNS: { turn: Turn; word: string; path: string }[] = [
  { turn: 'lines', word: CARD.turn.lines, path: '' },
  { turn: 'look', word: CARD.turn.look, path: '/look' },
  { turn: 'hand-outs', word: CARD.turn['hand-outs'], path: '/hand-outs' },
  { turn: 'response', word: CARD.turn.response, path: '/response' },
];

/** A mark beside each state's word. */
export const MARKS: Record<CardState, string> = { draft: '○', published: '●', resting: '◐', retired: '×' };

const wordOfState = ({ state, revision }: CardInHead): string =>
  ({
    draft: CARD.headDraft,
    published: CARD.headPublishedAs(revision?.number),
    resting: CARDS.headResting,
    retired: CARDS.headRetired,
  })[state];

/** The header line of a card, the same on each of its turns. `note` says what changed and what was saved, `publish` is the primary act. */
export function CardHead({
  card,
  turn,
  note,
  publish,
  audience,
  onState = null,
  onRevisions = null,
  onDelete = null,
}: {
  card: CardInHead;
  turn: Turn;
  note?: ReactNode;
  publish?: ReactNode;
  audience?: ReactNode;
  onState?: (() => void) | null;
  onRevisions?: (() => void) | null;
  onDelete?: (() => void) | null;
}) {
  const [showing, setShowing] = useState(false);
  const [sharing, setSharing] = useState(false);
  const link = card.address ? `${card.publicUrl}/c/${card.address}` : null;
  const first = card.handOuts.find(({ channel, frozen }) => channel === 'code' && !frozen);
  return (
    <>
      <header className="head">
        <div>
          <h1>
            <Link href={`/people/${card.recordId}`}>{card.person}</Link> {audience ?? <small>{card.audience}</small>}
          </h1>
          <div className="sub">
            {link ? (
              <a className="mono" href={link} target="_blank" rel="noreferrer">
                {shownLink(link)}
              </a>
            ) : null}
            <span className={`state ${card.state}`}>
              <i aria-hidden="true">{MARKS[card.state]}</i> {wordOfState(card)}
            </span>
            {onRevisions && (
              <button type="button" className="plain" onClick={onRevisions}>
                {REVISIONS.open}
              </button>
            )}
            {onState && (
              <button type="button" className="plain" onClick={onState}>
                {CARDS.rest}
              </button>
            )}
            {onDelete && (
              <button type="button" className="plain" onClick={onDelete}>
                {DELETION.card}
              </button>
            )}
            {card.wild > 0 && (
              <Link className="attention" href={`/copies?card=${card.id}`}>
                {COPIES.wild(card.wild)}
              </Link>
            )}
            {note}
          </div>
        </div>
        <div className="acts">
          {link && <CopyButton text={link}>{FRAME.copyLink}</CopyButton>}
          {card.state === 'published' && (
            <Button variant="quiet" onClick={() => setSharing(true)}>
              {SHARE.open}
            </Button>
          )}
          {first && (
            <Button variant="quiet" onClick={() => setShowing(true)}>
              {CARD.showCode}
            </Button>
          )}
          {publish}
        </div>
      </header>
      <nav className="turns" aria-label={CARD.turns}>
        {TURNS.map(({ turn: each, word, path }) => (
          <Link
            key={each}
            href={`/cards/${card.id}${path}`}
            className={each === turn ? 'on' : ''}
            aria-current={each === turn ? 'page' : undefined}
          >
            {word}
            {each === 'hand-outs' && card.handOuts.length > 0 ? (
              <span className="num"> {card.handOuts.length}</span>
            ) : null}
          </Link>
        ))}
      </nav>
      {sharing && <ShareDialog cardId={card.id} onClose={() => setSharing(false)} />}
      {showing && first && <CodeDialog handOut={first} cardId={card.id} onClose={() => setShowing(false)} />}
    </>
  );
}
