'use client';
import { useEffect } from 'react';

declare global {
  interface Window {
    /** Ends the listening of `./hears-presses`: what was pressed, each once, in order; of a list, what was chosen in it. */
    pressedBefore?: () => ([HTMLButtonElement | HTMLInputElement, null] | [HTMLSelectElement, string])[];
  }
}

/** Stands after a screen: what was pressed before its script had come is pressed once more, or it were lost without a word. */
export function PressedBefore() {
  useEffect(() => {
    for (const [at, chosen] of window.pressedBefore?.() ?? [])
      // One after the other: a screen draws itself anew after each.
      setTimeout(() => {
        if (chosen === null) return at.click();
        at.value = chosen;
        at.dispatchEvent(new Event('change', { bubbles: true }));
      });
  }, []);
  return null;
}
