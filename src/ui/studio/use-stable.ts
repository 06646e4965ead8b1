'use client';
import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that stays the same between renders and runs the latest version, so that rows that did not change stay as they are. */
export function useStable<A extends unknown[], R>(work: (...args: A) => R): (...args: A) => R {
  const latest = useRef(work);
  useLayoutEffect(() => {
    latest.current = work;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
