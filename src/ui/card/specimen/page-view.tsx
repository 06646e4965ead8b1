'use client';
import morphdom from 'morphdom';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { page as documentOf, type PageParts } from '@/core/page';
import { CARD } from '@/core/words';
import { admitted } from './parsed';

const never = () => () => {};

/** What of a page makes another document: its language, which tells its direction, and how many style sheets it has. */
const headOf = ({ language, styles }: PageParts): string => `${language} ${styles.length}`;

/**
 * The page in a frame that can run nothing; it shows itself at its own height. The frame is loaded once: after that its document
 * becomes the new page node by node, so that it follows every key stroke and its pictures stay.
 */
export function PageView({ page }: { page: PageParts }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [first, setFirst] = useState(page);
  // The nonce is known once there is a document.
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const framed = useMemo(() => (inBrowser ? admitted(documentOf(first)) : null), [inBrowser, first]);
  const [height, setHeight] = useState(480);

  const measure = () => {
    const parts = frame.current?.contentDocument?.querySelectorAll('main > *') ?? [];
    const lowest = Math.max(0, ...[...parts].map((part) => part.getBoundingClientRect().bottom));
    if (lowest > 0) setHeight(Math.max(360, Math.ceil(lowest)));
  };
  const put = useCallback(() => {
    const shown = frame.current?.contentDocument;
    if (!shown?.querySelector('main')) return;
    // A style sheet keeps its element, which the page's policy has let in.
    shown.querySelectorAll('style').forEach((style, at) => {
      const text = page.styles[at] ?? '';
      if (style.textContent !== text) style.textContent = text;
    });
    const { body } = new DOMParser().parseFromString(`<!doctype html><body>${page.body}`, 'text/html');
    morphdom(shown.body, body, { onBeforeElUpdated: (old, next) => !old.isEqualNode(next) });
  }, [page]);
  useLayoutEffect(put, [put]);
  useEffect(() => {
    const timer = setTimeout(measure, 60);
    return () => clearTimeout(timer);
  }, [page]);
  // Another language is another document.
  if (headOf(page) !== headOf(first)) setFirst(page);
  if (framed === null) return <div style={{ height }} />;
  return (
    <iframe
      ref={frame}
      key={headOf(page)}
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
