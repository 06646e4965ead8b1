'use client';
import { useEffect } from 'react';

declare global {
  interface Window {
    /** Ends the listening of `./hears-presses`: what was pressed, each button once, in order. */
    pressedBefore?: () => HTMLButtonElement[];
  }
}

/** Stands after a screen: what was pressed before its script had come is pressed once more, or it were lost without a word. */
export function PressedBefore() {
  useEffect(() => {
    for (const button of window.pressedBefore?.() ?? []) setTimeout(() => button.isConnected && button.click());
  }, []);
  return null;
}
