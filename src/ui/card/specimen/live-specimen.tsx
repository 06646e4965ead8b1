'use client';
import { useMemo, useSyncExternalStore } from 'react';
import { composeDraft, type Channel, type Composition, type Draft } from '@/core/card';
import type { Result } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import type { CardOnTable, Typing } from '@/ui/card/card-on-table';
import { Specimen } from './specimen';
import type { TypingStore } from '@/ui/card/draft/typing';

/** The draft with the text that is being typed in it, as if it had been kept. */
function withTyping(draft: Draft, typing: Typing | null): Draft {
  if (!typing) return draft;
  const text = typing.text.trim();
  return {
    ...draft,
    lines: draft.lines.map((line) =>
      line.detail !== typing.line
        ? line
        : typing.cell === 'label'
          ? { ...line, label: typing.text }
          : { ...line, wording: text || null },
    ),
  };
}

type Props = {
  channel: Channel;
  draft: Draft;
  composed: Result<Composition>;
  record: PersonRecord;
  country: string;
  card: CardOnTable;
  saved: number;
  typing: TypingStore;
};

/** The specimen as it follows the hand: what is being typed shows where it can be read; where not, what stood before stays. */
export function LiveSpecimen({ channel, draft, composed, record, country, card, saved, typing }: Props) {
  const typed = useSyncExternalStore(typing.subscribe, typing.get, () => null);
  const live = useMemo(() => withTyping(draft, typed), [draft, typed]);
  const read = useMemo(
    () => (live === draft ? composed : composeDraft(record, live, country)),
    [composed, record, draft, live, country],
  );
  // That it is too much is said at once.
  const shown = read.ok || read.problem.code === 'TOO_MUCH_SHOWN' ? read : composed;
  return (
    <Specimen
      channel={channel}
      composition={shown.ok ? shown.value : null}
      draft={read.ok ? live : draft}
      record={record}
      country={country}
      card={card}
      saved={saved}
      problem={shown.ok ? null : shown.problem}
    />
  );
}
