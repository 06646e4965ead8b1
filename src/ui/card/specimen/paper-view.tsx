import { CARD } from '@/core/words';

/** The front of a printed card with what is ticked for paper, drawn on the server from what is saved. */
export function PaperView({ card, version }: { card: string; version: number }) {
  return (
    <img
      className="paper-view"
      src={`/api/cards/${card}/faces/card-lying.svg?channel=print&version=${version}`}
      alt={CARD.paperAlt}
    />
  );
}
