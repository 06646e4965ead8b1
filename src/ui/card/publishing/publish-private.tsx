'use client';
import { useMemo } from 'react';
import { leavingOf, privacyOf, type Channel, type Composition, type Leaving } from '@/core/card';
import { CARD, PUBLISH } from '@/core/words';
import type { PersonRecord } from '@/core/record';
import { usePrivacies } from '@/ui/card/ledger/use-privacies';

/** What is private and about to leave, and whether any of it is new, once the numbering plan has told which phones are land lines. */
export function usePrivateLeaving(
  composition: Composition,
  before: Composition | null,
  record: PersonRecord,
  channels: readonly Channel[],
): { leaving: Leaving[]; anyNew: () => Promise<boolean> } {
  const details = useMemo(() => composition.lines.map(({ detail }) => detail), [composition]);
  const privacies = usePrivacies(details, record);
  return {
    leaving: leavingOf(composition, before, channels, ({ id }) => privacies.get(id)),
    anyNew: async () => {
      const { lineTypeOf } = await import('@/core/record/line-type');
      const known = leavingOf(composition, before, channels, (detail) => privacyOf(detail, record, lineTypeOf));
      return known.some(({ isNew }) => isNew);
    },
  };
}

type Props = {
  leaving: (Leaving & { card?: string })[];
  confirmed: boolean;
  onConfirmed: (confirmed: boolean) => void;
  /** Without it a line is taken off where its card is worked on. */
  onTakeOff?: (line: string) => void;
};

/** Private details come first and in the warning colour; those that become public are confirmed once. */
export function PublishPrivate({ leaving, confirmed, onConfirmed, onTakeOff }: Props) {
  if (leaving.length === 0) return null;
  const fresh = leaving.filter(({ isNew }) => isNew).length;
  return (
    <section className="banner leaving" aria-labelledby="leaving">
      <h3 className="caps" id="leaving">
        {PUBLISH.privateLeaving(leaving.length)}
      </h3>
      <ul>
        {leaving.map(({ id, title, value, privacy, on, isNew, card }) => (
          <li key={`${card} ${id}`}>
            {card && `${card}: `}
            <b>{title || value}</b> {title && <span className="mono">{value}</span>}{' '}
            <span className="also">
              {PUBLISH.privateOn(on, isNew)}; {CARD.why[privacy]}
            </span>{' '}
            {onTakeOff && (
              <button
                type="button"
                className="plain"
                aria-label={PUBLISH.takeOffOf(title || value)}
                onClick={() => onTakeOff(id)}
              >
                {PUBLISH.takeOff}
              </button>
            )}
          </li>
        ))}
      </ul>
      {fresh > 0 && (
        <label>
          <input
            type="checkbox"
            id="private-confirmed"
            checked={confirmed}
            onChange={(event) => onConfirmed(event.target.checked)}
          />{' '}
          {PUBLISH.privateConfirm(fresh)}
        </label>
      )}
    </section>
  );
}
