'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { changesSince, compose, withheldFrom, type Channel, type Composition, type Line } from '@/core/card';
import { wordingOf } from '@/core/errors';
import type { Language } from '@/core/messages';
import type { PersonRecord } from '@/core/record';
import { AudienceName } from './audience-name';
import { CardHead, type CardInHead } from './card-head';
import { Ledger } from './ledger';
import { PublishDialog } from './publish-dialog';
import { Specimen } from './specimen';
import { useCardDraft } from './use-card-draft';

export type CardOnTable = CardInHead & {
  version: number;
  lines: Line[];
  language: Language | null;
  isPrivate: boolean;
  record: PersonRecord;
  revision: { number: number; publishedAt: string; composition: Composition } | null;
  photo: string | null;
};

/** The working table of a card: the ledger on the left, what the recipient of one channel gets on the right. */
export function CardTable({ card, country }: { card: CardOnTable; country: string }) {
  const router = useRouter();
  const table = useCardDraft(card);
  const { draft, problem } = table;
  const [channel, setChannel] = useState<Channel>('page');
  const [publishing, setPublishing] = useState(false);
  const composed = useMemo(
    () => compose(card.record, draft.lines, country, draft.language),
    [card.record, draft.lines, country, draft.language],
  );
  const composition = composed.ok ? composed.value : null;
  const withheld = useMemo(
    () => withheldFrom(card.record, draft.lines, channel, country),
    [card.record, draft.lines, channel, country],
  );
  const changes = useMemo(
    () => (composition && card.revision ? changesSince(card.revision.composition, composition) : []),
    [composition, card.revision],
  );

  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      if (event.target instanceof HTMLInputElement && event.target.type !== 'checkbox') return;
      if (event.target instanceof HTMLTextAreaElement) return;
      event.preventDefault();
      if (event.shiftKey) table.redo();
      else table.undo();
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });

  const saved = table.unsaved
    ? problem
      ? 'not saved'
      : 'saving …'
    : table.savedAt
      ? `saved ${new Date(table.savedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`
      : '';
  return (
    <div className="card-table">
      <CardHead
        card={{ ...card, audience: draft.audience }}
        turn="lines"
        audience={
          <AudienceName audience={draft.audience} onChange={(audience) => table.edit({ ...draft, audience })} />
        }
        note={
          <>
            {changes.length > 0 && (
              <strong className="attention">
                {changes.length === 1 ? '1 change since' : `${changes.length} changes since`}
              </strong>
            )}
            <span aria-live="polite">{saved}</span>
            <span className="undo" hidden={!table.canUndo && !table.canRedo}>
              <button type="button" className="plain" disabled={!table.canUndo} onClick={table.undo} title="Ctrl Z">
                Undo
              </button>
              <button
                type="button"
                className="plain"
                disabled={!table.canRedo}
                onClick={table.redo}
                title="Ctrl Shift Z"
              >
                Redo
              </button>
            </span>
          </>
        }
        publish={
          <Button onClick={() => setPublishing(true)} disabled={!composition}>
            Publish
          </Button>
        }
      />
      {problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(problem)}</p>
          {problem.code === 'CARD_CHANGED' && (
            <>
              <Button variant="quiet" onClick={() => window.location.reload()}>
                Show theirs, drop mine
              </Button>
              <Button variant="quiet" onClick={() => table.putMineOver(problem.version)}>
                Put mine over it
              </Button>
            </>
          )}
        </div>
      )}
      <div className="two">
        <Ledger
          card={card}
          lines={draft.lines}
          country={country}
          channel={channel}
          onChannel={setChannel}
          onChange={(lines) => table.edit({ ...draft, lines })}
        />
        <Specimen
          channel={channel}
          composition={composition}
          withheld={withheld}
          card={card}
          problem={composed.ok ? null : composed.problem}
        />
      </div>
      {publishing && composition && (
        <PublishDialog
          card={card}
          composition={composition}
          changes={changes}
          language={draft.language}
          onLanguage={(language) => table.edit({ ...draft, language })}
          flush={table.flush}
          onClose={(published) => {
            setPublishing(false);
            if (published) router.refresh();
          }}
        />
      )}
    </div>
  );
}
