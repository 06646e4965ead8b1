'use client';
import { useState } from 'react';
import { CARD } from '@/core/words';

/** The card's internal name, edited where it stands. Recipients never see it. */
export function AudienceName({ audience, onChange }: { audience: string; onChange: (audience: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null) {
    return (
      <button type="button" className="audience" onClick={() => setTyped(audience)} title={CARD.renameNote}>
        {audience}
      </button>
    );
  }
  const leave = (keep: boolean) => {
    const next = typed.trim().slice(0, 80);
    if (keep && next && next !== audience) onChange(next);
    setTyped(null);
  };
  return (
    <input
      className="audience"
      aria-label={CARD.audience}
      autoFocus
      value={typed}
      maxLength={80}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => leave(true)}
      onKeyDown={(event) => (event.key === 'Enter' ? leave(true) : event.key === 'Escape' ? leave(false) : undefined)}
    />
  );
}
