'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { changesSince, compose, withheldFrom, type Channel } from '@/core/card';
import { wordingOf } from '@/core/errors';
import { CARD, FRAME } from '@/core/messages';
import { AudienceName } from './audience-name';
import { CardHead } from './card-head';
import type { CardOnTable } from './card-on-table';
import { Ledger } from './ledger';
import { PublishDialog } from './publish-dialog';
import { Specimen } from './specimen';
import { useCardDraft } from './use-card-draft';

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
      ? FRAME.notSaved
      : FRAME.saving
    : table.savedAt
      ? FRAME.savedAt(new Date(table.savedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }))
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
            {changes.length > 0 && <strong className="attention">{CARD.changesSince(changes.length)}</strong>}
            <span aria-live="polite">{saved}</span>
            <span className="undo" hidden={!table.canUndo && !table.canRedo}>
              <button
                type="button"
                className="plain"
                disabled={!table.canUndo}
                onClick={table.undo}
                title={FRAME.keys.undo}
              >
                {FRAME.undo}
              </button>
              <button
                type="button"
                className="plain"
                disabled={!table.canRedo}
                onClick={table.redo}
                title={FRAME.keys.redo}
              >
                {FRAME.redo}
              </button>
            </span>
          </>
        }
        publish={
          <Button onClick={() => setPublishing(true)} disabled={!composition}>
            {CARD.publish}
          </Button>
        }
      />
      {problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(problem)}</p>
          {problem.code === 'CARD_CHANGED' && (
            <>
              <Button variant="quiet" onClick={() => window.location.reload()}>
                {FRAME.showTheirs}
              </Button>
              <Button variant="quiet" onClick={() => table.putMineOver(problem.version)}>
                {FRAME.putMine}
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
