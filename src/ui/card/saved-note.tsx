import { CARD, FRAME } from '@/core/messages';
import type { CardDraft } from './use-card-draft';

/** What changed since the last revision, what is saved, and the way back and forth between edits. */
export function SavedNote({ table, changes }: { table: CardDraft; changes: number }) {
  const saved = table.unsaved
    ? table.problem
      ? FRAME.notSaved
      : FRAME.saving
    : table.savedAt
      ? FRAME.savedAt(new Date(table.savedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }))
      : '';
  return (
    <>
      {changes > 0 && <strong className="attention">{CARD.changesSince(changes)}</strong>}
      <span aria-live="polite">{saved}</span>
      <span className="undo" hidden={!table.canUndo && !table.canRedo}>
        <button type="button" className="plain" disabled={!table.canUndo} onClick={table.undo} title={FRAME.keys.undo}>
          {FRAME.undo}
        </button>
        <button type="button" className="plain" disabled={!table.canRedo} onClick={table.redo} title={FRAME.keys.redo}>
          {FRAME.redo}
        </button>
      </span>
    </>
  );
}
