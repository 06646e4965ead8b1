const STORED = 'heathland.single-keys';

/** Shortcuts of a single key can be switched off (WCAG 2.2, 2.1.4), in this browser. */
export function hasSingleKeys(): boolean {
  try {
    return window.localStorage.getItem(STORED) !== 'off';
  } catch {
    return true;
  }
}
export function setSingleKeys(on: boolean): void {
  try {
    window.localStorage.setItem(STORED, on ? 'on' : 'off');
  } catch {
    // A browser that keeps nothing keeps the shortcuts.
  }
}

/** Whether a key goes into a text that somebody is typing, so that single letters are no shortcuts there. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== 'checkbox'));
