'use client';
import { usePathname } from 'next/navigation';
import { useEffect, useRef } from 'react';

/** Longer than whatever moves the focus by itself takes: a cell that becomes a button, a dialog that hands it back. */
const SETTLE_MS = 80;

/** What takes the focus in place of something that went: nothing that opens a phone's keyboard. */
const TAKES = 'a[href], button:not(:disabled), summary, input[type="checkbox"]:not(:disabled)';

type Place = { element: Element; parents: { element: Element; at: number }[]; path: string };

const placeOf = (element: Element): Place => {
  const parents: Place['parents'] = [];
  for (let each = element; each.parentElement; each = each.parentElement)
    parents.push({ element: each.parentElement, at: [...each.parentElement.children].indexOf(each) });
  return { element, parents, path: window.location.pathname };
};

const shown = (element: HTMLElement): boolean => element.checkVisibility?.() ?? true;

/** The title of the screen, which a reader then begins with. */
function focusTitle() {
  const title = document.querySelector<HTMLElement>('#content h1');
  title?.setAttribute('tabindex', '-1');
  title?.focus({ preventScroll: true });
}

/** What stands now where something stood: after it first, before it otherwise, never outside `within`. */
function successorOf({ parents }: Place, within: Element): HTMLElement | null {
  for (const { element, at } of parents) {
    if (!within.contains(element)) return null;
    if (!element.isConnected) continue;
    const children = [...element.children];
    for (const each of [...children.slice(at), ...children.slice(0, at).reverse()]) {
      const found = [...(each.matches(TAKES) ? [each] : []), ...each.querySelectorAll(TAKES)].find(
        (one): one is HTMLElement => one instanceof HTMLElement && shown(one),
      );
      if (found) return found;
    }
  }
  return null;
}

/**
 * Keeps the focus from falling to the start of the page when what had it goes: a row that is removed, a line that is undone, a dialog
 * whose button is gone. It goes to what stands in that place now, on a new screen to its title.
 */
export function KeepFocus() {
  const path = usePathname();
  const first = useRef(path);
  useEffect(() => {
    if (first.current === path) return;
    first.current = '';
    // Whoever came by a link that is gone with its screen begins at the new one's title.
    const timer = setTimeout(() => document.activeElement === document.body && focusTitle(), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [path]);
  useEffect(() => {
    let last: Place | null = null;
    /** The last place on the screen itself, for when a dialog goes. */
    let onScreen: Place | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const content = () => document.getElementById('content');
    const focused = ({ target }: FocusEvent) => {
      if (!(target instanceof Element)) return;
      last = placeOf(target);
      if (content()?.contains(target)) onScreen = last;
    };
    const left = ({ relatedTarget, target }: FocusEvent) => {
      // Left on purpose, by a click on nothing: there is nothing to keep.
      if (relatedTarget === null && target instanceof Element && target.isConnected && document.hasFocus())
        setTimeout(() => target.isConnected && document.activeElement === document.body && (last = null));
    };
    const keep = () => {
      const screen = content();
      if (!screen || !last || last.element.isConnected || document.activeElement !== document.body) return;
      const place = screen.contains(last.parents.find(({ element }) => element.isConnected)?.element ?? null)
        ? last
        : onScreen;
      if (last.path !== window.location.pathname) return focusTitle();
      const there = place?.element.isConnected && place.element instanceof HTMLElement ? place.element : null;
      const to = there ?? (place && successorOf(place, screen));
      if (to) to.focus();
      else focusTitle();
    };
    const watcher = new MutationObserver(() => {
      if (!last || last.element.isConnected) return;
      clearTimeout(timer);
      timer = setTimeout(keep, SETTLE_MS);
    });
    document.addEventListener('focusin', focused);
    document.addEventListener('focusout', left);
    watcher.observe(document.body, { childList: true, subtree: true });
    return () => {
      clearTimeout(timer);
      watcher.disconnect();
      document.removeEventListener('focusin', focused);
      document.removeEventListener('focusout', left);
    };
  }, []);
  return null;
}
