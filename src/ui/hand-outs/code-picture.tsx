'use client';
import { useDeferredValue, useMemo } from 'react';
import { CODES } from '@/core/words';
import { codeSvg, drawCode, symbolFor, symbolInStyle, type CodeStyle, type Level, type Outlines } from '@/core/qr';

type Fixed = { version: number; level: Level; mask: number };

/**
 * A code by the function that makes the download, and its size in modules; null of a text that no code holds. It is drawn after the
 * screen has answered the hand, in a task of its own.
 */
export function useDrawnCode(text: string, style: CodeStyle, words: Outlines | null, fixed?: Fixed) {
  const asked = useMemo(() => ({ text, style, words, fixed }), [text, style, words, fixed]);
  const shown = useDeferredValue(asked);
  // Without a mark the symbol is the same in every style.
  const decides = shown.style.mark ? shown.style : null;
  const symbol = useMemo(() => {
    try {
      if (shown.fixed) return symbolFor(shown.text, shown.fixed);
      return decides ? symbolInStyle(shown.text, decides) : symbolFor(shown.text);
    } catch {
      // Longer than the largest symbol holds.
      return null;
    }
  }, [shown.text, shown.fixed, decides]);
  return useMemo(() => {
    if (!symbol) return null;
    const drawing = drawCode(symbol, shown.style, shown.words);
    return { symbol, drawing, svg: codeSvg(drawing, { title: '' }) };
  }, [symbol, shown.style, shown.words]);
}

/** A code large enough to look at, and beside it at its true size; on a chequered ground where nothing is printed behind it. */
export function CodePicture({
  svg,
  widthMm,
  alt,
  clear,
}: {
  svg: string;
  widthMm: number;
  alt: string;
  clear: boolean;
}) {
  const source = `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
  const ground = clear ? 'drawn-code clear' : 'drawn-code';
  return (
    <div className="code-pictures">
      <img className={`${ground} large`} src={source} alt={alt} />
      {widthMm <= LARGEST_MM && (
        <figure>
          <img className={ground} src={source} alt="" style={{ width: `${widthMm}mm` }} />
          <figcaption>{CODES.trueSize}</figcaption>
        </figure>
      )}
    </div>
  );
}

/** What is larger has no room beside its picture, in millimetres. */
const LARGEST_MM = 45;
