'use client';
import { useMemo } from 'react';
import { privacyOf, type Channel, type Composition, type Privacy } from '@/core/card';
import { CARD, PUBLISH } from '@/core/messages';
import { shownValue, type Detail, type PersonRecord } from '@/core/record';
import { usePrivacies } from './use-privacies';

type Leaving = { id: string; title: string; value: string; why: string; on: Channel[]; isNew: boolean };

/** What is private and about to leave, on these channels; what the last revision did not give out is new. */
function leavingOf(
  composition: Composition,
  before: Composition | null,
  channels: readonly Channel[],
  privacyOfLine: (detail: Detail) => Privacy | null | undefined,
): Leaving[] {
  return composition.lines.flatMap(({ id, label, detail, on }) => {
    const privacy = privacyOfLine(detail);
    const leaves = on.filter((channel) => channels.includes(channel));
    if (!privacy || privacy === 'own words' || leaves.length === 0) return [];
    const was = before?.lines.find((line) => line.id === id);
    const value = shownValue(detail);
    const isNew = !was || shownValue(was.detail) !== value || leaves.some((channel) => !was.on.includes(channel));
    return [{ id, title: label, value, why: CARD.why[privacy], on: leaves, isNew }];
  });
}

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
  leaving: Leaving[];
  confirmed: boolean;
  onConfirmed: (confirmed: boolean) => void;
  onTakeOff: (line: string) => void;
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
        {leaving.map(({ id, title, value, why, on, isNew }) => (
          <li key={id}>
            <b>{title || value}</b> {title && <span className="mono">{value}</span>}{' '}
            <span className="also">
              {PUBLISH.privateOn(on, isNew)}; {why}
            </span>{' '}
            <button
              type="button"
              className="plain"
              aria-label={PUBLISH.takeOffOf(title || value)}
              onClick={() => onTakeOff(id)}
            >
              {PUBLISH.takeOff}
            </button>
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
