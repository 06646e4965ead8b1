'use client';
import { useEffect } from 'react';

type Early =
  | { type: 'click'; at: HTMLButtonElement; checked?: undefined }
  | { type: 'click'; at: HTMLInputElement; checked: boolean }
  | { type: 'change'; at: HTMLSelectElement | HTMLInputElement; value: string }
  | { type: 'input'; at: HTMLInputElement | HTMLTextAreaElement; value: string };

declare global {
  interface Window {
    /** Ends the listening of `./hears-early`: what was done, each thing once, in order. */
    heardEarly?: () => Early[];
  }
}

function repeat(early: Early) {
  const { at, type } = early;
  if (type === 'click') {
    // What this browser kept may have come back since: a box that says what was wanted stays, or it would be turned round.
    if (early.checked === undefined || early.at.checked !== early.checked) at.click();
    return;
  }
  if (type === 'input') {
    // Only what differs from the copy of its value that React keeps on the element is heard as a change; the prototype's way goes past it.
    const prototype = at instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
    at.value = '';
    Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(at, early.value);
  } else if (at instanceof HTMLSelectElement) at.value = early.value;
  at.dispatchEvent(new Event(type, { bubbles: true }));
}

/** Stands after a screen: what was done before its script had come is done once more, or it were lost without a word. */
export function RepeatEarly() {
  useEffect(() => {
    // One after the other: a screen draws itself anew after each, and what is not told yet goes with that.
    for (const early of window.heardEarly?.() ?? []) setTimeout(() => repeat(early));
  }, []);
  return null;
}
