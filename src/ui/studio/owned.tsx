'use client';
import { createContext, useContext } from 'react';
import { ownedAs, type Owned } from '@/core/house';
import { GIVEN } from '@/core/words';
import type { Detail } from '@/core/record';

const OwnedContext = createContext<Owned>({});
/** What belongs to the organisation and is not this member's to change, for all that stands inside. */
export const OwnedProvider = OwnedContext.Provider;

/** Why a detail, or the name, is not this member's to change; null where it is. */
export function useClosed(of: Detail | 'name'): string | null {
  const owned = useContext(OwnedContext);
  const kind = of === 'name' ? of : ownedAs(of, owned);
  return (kind && owned[kind]) ?? null;
}

/** A value that is not this member's to change; a press says why. */
export function ClosedCell(props: { row: number; column: number; value: string; name: string; reason: string }) {
  const { row, column, value, name, reason } = props;
  return (
    <details className="closed-cell">
      <summary
        tabIndex={-1}
        data-row={row}
        data-column={column}
        aria-label={`${name}: ${value}. ${GIVEN.closed(reason)}`}
      >
        {value}
        <svg width="11" height="12" viewBox="0 0 13 14" aria-hidden="true">
          <rect x="1" y="6" width="11" height="7.5" rx="1" />
          <path d="M3.5 6V4a3 3 0 0 1 6 0v2" />
        </svg>
      </summary>
      <small>{GIVEN.closed(reason)}</small>
    </details>
  );
}
