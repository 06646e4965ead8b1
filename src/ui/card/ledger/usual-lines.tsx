'use client';
import { useMemo } from 'react';
import { goesOut, missingFrom, startOf, type Line } from '@/core/card';
import { kindIn } from '@/core/messages';
import { CARD, STARTS_WORDS } from '@/core/words';
import type { Detail } from '@/core/record';

/** The lines that a trade's card usually has and this one does not yet. */
export function UsualLines({
  start: key,
  lines,
  details,
  onWanted,
}: {
  start: string;
  lines: Line[];
  details: ReadonlyMap<string, Detail | null>;
  onWanted: (wanted: { kind: Detail['kind']; label: string | null }) => void;
}) {
  const start = startOf(key);
  const missing = useMemo(() => {
    const showing = lines.filter(goesOut).flatMap((line) => details.get(line.detail) ?? []);
    return start ? missingFrom(start, showing) : [];
  }, [start, lines, details]);
  if (!start || missing.length === 0) return null;
  return (
    <p className="usual">
      {CARD.usual(STARTS_WORDS[start.key] ?? start.key)}{' '}
      {missing
        .filter(({ kind }) => kind !== 'photo' && kind !== 'logo')
        .map(({ kind, label }, at) => (
          <button key={at} type="button" className="plain" onClick={() => onWanted({ kind, label: label ?? null })}>
            {label ?? kindIn('en', kind)}
          </button>
        ))}
    </p>
  );
}
