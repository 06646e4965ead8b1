'use client';
import { useSyncExternalStore } from 'react';

/** As wide as a phone: where style sheets say the same. */
const NARROW = '(max-width: 640px)';

const subscribe = (again: () => void) => {
  const media = window.matchMedia(NARROW);
  media.addEventListener('change', again);
  return () => media.removeEventListener('change', again);
};

/** Whether the window is as narrow as a phone; a server takes it for wide. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(NARROW).matches,
    () => false,
  );
