'use client';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { CARD } from '@/core/words';

/** What of the head makes another document: its language, and how many style sheets it has. */
const headOf = (html: string): string => html.slice(0, html.indexOf('>', 15)) + html.split('<style>').length;

/** The style sheets of a page. */
const stylesOf = (html: string): string[] => [...html.matchAll(/<style>(.*?)<\/style>/gs)].map((found) => found[1]!);

/** What stands in the page's body. */
const bodyOf = (html: string): string =>
  html.slice(html.indexOf('>', html.indexOf('<body')) + 1, html.lastIndexOf('</body>'));

const never = () => () => {};

/** The page as its frame takes it: its style sheets may come in by the nonce of the document around it. */
function admitted(html: string): string {
  const { nonce } = document.querySelector<HTMLElement>('script[nonce]') ?? { nonce: '' };
  return nonce ? html.replaceAll('<style>', `<style nonce="${nonce}">`) : html;
}

/**
 * The page in a frame that can run nothing; it shows itself at its own height. The frame is loaded once: what changes after
 * that is put into it part by part, so that it follows every key stroke and its pictures stay.
 */
export function PageView({ html }: { html: string }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [first, setFirst] = useState(html);
  // The nonce is known once there is a document.
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const framed = useMemo(() => (inBrowser ? admitted(first) : null), [inBrowser, first]);
  const shown = useRef(first);
  const [height, setHeight] = useState(480);

  const measure = () => {
    const parts = frame.current?.contentDocument?.querySelectorAll('main > *') ?? [];
    const lowest = Math.max(0, ...[...parts].map((part) => part.getBoundingClientRect().bottom));
    if (lowest > 0) setHeight(Math.max(360, Math.ceil(lowest)));
  };
  const put = () => {
    const document = frame.current?.contentDocument;
    const main = document?.querySelector('main');
    if (!document || !main || shown.current === html) return;
    const before = shown.current;
    shown.current = html;
    if (putRow(main, before, html)) return;
    const [had, has] = [stylesOf(before), stylesOf(html)];
    document.querySelectorAll('style').forEach((style, at) => {
      if (had[at] !== has[at]) style.textContent = has[at] ?? '';
    });
    const next = document.createElement('body');
    next.innerHTML = bodyOf(html);
    become(document.body, next);
  };
  useLayoutEffect(put);
  useEffect(() => {
    const timer = setTimeout(measure, 60);
    return () => clearTimeout(timer);
  }, [html]);
  // Another language is another document: direction and style sheets belong to its head.
  const language = headOf(html);
  if (language !== headOf(first)) {
    setFirst(html);
  }
  if (framed === null) return <div style={{ height }} />;
  return (
    <iframe
      ref={frame}
      key={language}
      title={CARD.pageFrame}
      sandbox="allow-same-origin"
      srcDoc={framed}
      onLoad={() => {
        shown.current = first;
        put();
        measure();
      }}
      style={{ height }}
      tabIndex={-1}
    />
  );
}

/** Makes an element what another is, leaving alone every part that is the same already: a picture stays, a key stroke costs a row. */
function become(old: Element, next: Element): void {
  const [had, has] = [[...old.children], [...next.children]];
  const text = [...next.childNodes].some((node) => node.nodeType === Node.TEXT_NODE);
  if (text || had.length !== has.length || has.length === 0) return old.replaceWith(next);
  has.forEach((part, at) => {
    const before = had[at]!;
    if (before.isEqualNode(part)) return;
    if (before.cloneNode(false).isEqualNode(part.cloneNode(false))) become(before, part);
    else before.replaceWith(part);
  });
}

/** The rows of the page's list, as {@link renderPage} writes them. */
const ROWS = /<div(?: class="[^"]*")?>(?:<dt[^>]*>.*?<\/dt>)?<dd>.*?<\/dd><\/div>/gs;

/** Puts in the one row that differs, where nothing else does: the usual case while somebody types. */
function putRow(main: Element, before: string, after: string): boolean {
  const [had, has] = [before.match(ROWS) ?? [], after.match(ROWS) ?? []];
  if (had.length !== has.length || before.replace(ROWS, '') !== after.replace(ROWS, '')) return false;
  const list = main.querySelector('dl');
  const changed = has.flatMap((row, at) => (row === had[at] ? [] : [at]));
  if (!list || list.children.length !== has.length || changed.length > 3) return false;
  for (const at of changed) {
    const row = main.ownerDocument.createElement('dl');
    row.innerHTML = has[at]!;
    list.children[at]!.replaceWith(row.firstElementChild!);
  }
  return true;
}
