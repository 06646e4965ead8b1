'use client';
import { useEffect } from 'react';

/** Sets a field as a hand does, past the copy of its value that React keeps on the element itself. */
function put(field: HTMLInputElement | HTMLTextAreaElement, value: string) {
  const type = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(type.prototype, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Fields whose value is the very text that was written. */
const TYPED = new Set(['text', 'email', 'tel', 'url', 'textarea']);

/** The fields that say something else than the server wrote, each with the way to say it once more. */
const typedInto = (): (() => void)[] =>
  [...document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('[data-keeps-typed] :is(input, textarea)')]
    .filter((field) => !field.disabled && TYPED.has(field.type) && field.value !== field.defaultValue)
    .map((field) => {
      const { value } = field;
      return () => {
        // Only what differs from what is known is heard as a change.
        put(field, '');
        put(field, value);
      };
    });

/**
 * Stands after a screen: what was typed into a form that makes something new before its script had come is told to it, or the first key
 * stroke after would lose it. Never a tick, and nothing that saves by itself: browsers put back what stood there before a reload, and what
 * nobody did now must change nothing.
 */
export function TypedBefore() {
  useEffect(() => {
    // One after the other: a form draws itself anew after each, and what is not told yet goes with that.
    typedInto().forEach((say) => setTimeout(say));
  }, []);
  return null;
}
