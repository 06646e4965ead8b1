import { cellOf, type Edit, type Line } from '@/core/card';
import { CARD } from '@/core/words';
import { shownValue } from '@/core/record';

/** A value as a person reads it: a tick, a wording, a detail of the card's own. */
function shown(value: unknown): string {
  if (typeof value === 'boolean') return value ? CARD.yes : CARD.no;
  if (value === null || value === '') return CARD.whole;
  if (typeof value === 'string') return value;
  return shownValue(value as Parameters<typeof shownValue>[0]);
}

function theirsIn(line: Line, clash: Extract<Edit, { edit: 'cell' }>): unknown {
  return cellOf(line, clash.cell);
}

/** Two people set the same cell: theirs stands, ours is kept beside it until somebody decides. */
export function ClashNote({
  clash,
  line,
  onSettle,
}: {
  clash: Edit;
  line: Line | null;
  onSettle: (clash: Edit, mine: boolean) => void;
}) {
  if (clash.edit !== 'cell') return null;
  return (
    <span className="clash" role="alert">
      {line ? CARD.clash(shown(theirsIn(line, clash)), shown(clash.to)) : CARD.clashGone(shown(clash.to))}
      <button type="button" className="plain" onClick={() => onSettle(clash, false)}>
        {line ? CARD.keepTheirs : CARD.close}
      </button>
      {line && (
        <button type="button" className="plain" onClick={() => onSettle(clash, true)}>
          {CARD.putMine}
        </button>
      )}
    </span>
  );
}
