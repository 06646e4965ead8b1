'use client';
import { useEffect, useState, type RefObject } from 'react';

/** A scroll bar's width more brings room back, or coming and going of one would change it for ever. */
const BACK = 24;

/** Whether an element is at least this wide, in CSS pixels; a server takes it for so. */
export function useRoom(of: RefObject<HTMLElement | null>, least: number): boolean {
  const [has, setHas] = useState(true);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width } = entry!.contentRect;
      setHas((had) => width >= least + (had ? 0 : BACK));
    });
    observer.observe(of.current!);
    return () => observer.disconnect();
  }, [of, least]);
  return has;
}
