'use client';
import morphdom from 'morphdom';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { CARD } from '@/core/words';
import { admitted, parsed } from './parsed';

const never = () => () => {};

/** What of a page makes another document: its language and direction, and how many style sheets it has. */
function headOf(page: Document): string {
  const { lang, dir } = page.documentElement;
  return [lang, dir, page.querySelectorAll('style').length].join(' ');
}

/**
 * The page in a frame that can run nothing; it shows itself at its own height. The frame is loaded once: after that its document
 * becomes the new page node by node, so that it follows every key stroke and its pictures stay.
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
  const page = useMemo(() => (inBrowser ? parsed(html) : null), [inBrowser, html]);
  const head = page && headOf(page);
  const [firstHead, setFirstHead] = useState(head);
  const [height, setHeight] = useState(480);

  const measure = () => {
    const parts = frame.current?.contentDocument?.querySelectorAll('main > *') ?? [];
    const lowest = Math.max(0, ...[...parts].map((part) => part.getBoundingClientRect().bottom));
    if (lowest > 0) setHeight(Math.max(360, Math.ceil(lowest)));
  };
  const put = useCallback(() => {
    const shown = frame.current?.contentDocument;
    if (!page || !shown?.querySelector('main')) return;
    const styles = page.querySelectorAll('style');
    // A style sheet keeps its element, which the page's policy has let in.
    shown.querySelectorAll('style').forEach((style, at) => {
      const text = styles[at]?.textContent ?? '';
      if (style.textContent !== text) style.textContent = text;
    });
    // What becomes of the copy is not ours to keep: the parsed page stays whole for the next time.
    morphdom(shown.body, page.body.cloneNode(true), { onBeforeElUpdated: (old, next) => !old.isEqualNode(next) });
  }, [page]);
  useLayoutEffect(put, [put]);
  useEffect(() => {
    const timer = setTimeout(measure, 60);
    return () => clearTimeout(timer);
  }, [html]);
  // Another language is another document.
  if (head !== firstHead) {
    setFirstHead(head);
    setFirst(html);
  }
  if (framed === null) return <div style={{ height }} />;
  return (
    <iframe
      ref={frame}
      key={head}
      title={CARD.pageFrame}
      sandbox="allow-same-origin"
      srcDoc={framed}
      onLoad={() => {
        put();
        measure();
      }}
      style={{ height }}
      tabIndex={-1}
    />
  );
}
