'use client';
import { useEffect } from 'react';

/** Sets a field as a hand does, past the copy of its value that React keeps on the element itself. */
function put(field: HTMLInputElement | HTMLTextAreaElement, value: string) {
  const type = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(type.prototype, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

const isTick = (field: Field): field is HTMLInputElement =>
  field instanceof HTMLInputElement && (field.type === 'checkbox' || field.type === 'radio');

/** Fields whose value is the very text that was written; a colour or a range brings its own into a form of the browser's. */
const TYPED = new Set([
  'text',
  'search',
  'email',
  'tel',
  'url',
  'password',
  'textarea',
  'checkbox',
  'radio',
  'select-one',
]);

/** The fields that say something else than the server wrote, each with the way to say it once more. */
function typedInto(): (() => void)[] {
  return [...document.querySelectorAll<Field>('input, textarea, select')].flatMap((field) => {
    if (field.disabled || !TYPED.has(field.type)) return [];
    if (isTick(field)) {
      if (field.checked === field.defaultChecked) return [];
      return () => {
        field.checked = field.defaultChecked;
        field.click();
      };
    }
    const { value } = field;
    if (field instanceof HTMLSelectElement) {
      if ([...field.options].every((option) => option.selected === option.defaultSelected)) return [];
      return () => {
        field.value = value;
        field.dispatchEvent(new Event('change', { bubbles: true }));
      };
    }
    if (value === field.defaultValue.replace(/\r\n?/g, '\n')) return [];
    return () => {
      // Only what differs from what is known is heard as a change.
      put(field, '');
      put(field, value);
    };
  });
}

/** Stands after a screen: what was typed into it before its script had come is told to it, or the first key stroke after would lose it. */
export function TypedBefore() {
  useEffect(() => {
    // One after the other: a form draws itself anew after each, and what is not told yet goes with that.
    typedInto().forEach((say) => setTimeout(say));
  }, []);
  return null;
}
