import { wordingOf } from '@/core/errors';
import { CARD, FRAME, PLAN } from '@/core/words';
import { instantIn, timeIn } from '@/ui/studio/instant';
import type { ShownPlan } from '@/core/shown';
import type { CardDraft } from './use-card-draft';

/** What changed since the last revision, what is saved, and the way back and forth between edits. */
export function SavedNote({
  table,
  changes,
  plan,
  notPlanned,
  zone,
}: {
  table: CardDraft;
  changes: number;
  plan: ShownPlan | null;
  /** How many edits came since the plan was made. */
  notPlanned: number;
  zone: string;
}) {
  const saved = table.unsaved
    ? table.problem
      ? FRAME.notSaved
      : FRAME.saving
    : table.savedAt
      ? FRAME.savedAt(timeIn(zone, table.savedAt))
      : '';
  return (
    <>
      {changes > 0 && <strong className="attention">{CARD.changesSince(changes)}</strong>}
      {plan?.problem ? (
        <strong className="attention">{PLAN.failed(wordingOf(plan.problem))}</strong>
      ) : (
        plan && (
          <span>
            {[
              plan.publishAt && PLAN.planned(instantIn(zone, plan.publishAt)),
              notPlanned > 0 && PLAN.editsSince(notPlanned),
              plan.endsAt && PLAN.ends(instantIn(zone, plan.endsAt)),
            ]
              .filter(Boolean)
              .join(', ')}
          </span>
        )
      )}
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
