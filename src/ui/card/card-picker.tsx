'use client';
import { useCallback, useState } from 'react';
import { CARDS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { Picker, type Choice } from '@/ui/studio/picker';

type Found = { kind: string; name: string; about: string; href: string };

/** Chooses one of the organisation's cards by typing a name or an audience. */
export function CardPicker({
  word,
  hint,
  except,
  chosen,
  chosenName = CARDS.chosenCard,
  onChoose,
}: {
  word: string;
  hint: string;
  except: string | null;
  chosen: string | null;
  /** What is chosen already is called. */
  chosenName?: string;
  onChoose: (id: string | null) => void;
}) {
  const [name, setName] = useState<string>(chosenName);
  const search = useCallback(
    async (typed: string): Promise<Choice[]> => {
      const answer = await call<{ found: Found[] }>(`/api/go-to?q=${encodeURIComponent(typed)}`);
      if (!answer.ok) return [];
      return answer.value.found
        .filter(({ kind, href }) => kind === 'card' && !(except && href.endsWith(except)))
        .map((card) => ({ id: card.href.split('/').at(-1)!, name: card.name }));
    },
    [except],
  );
  return (
    <Picker
      word={word}
      hint={hint}
      chosen={chosen === null ? null : { id: chosen, name }}
      search={search}
      onChoose={(card) => {
        if (card) setName(card.name);
        onChoose(card?.id ?? null);
      }}
    />
  );
}
