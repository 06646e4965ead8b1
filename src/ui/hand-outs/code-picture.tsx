'use client';
import { useMemo } from 'react';
import { CODES } from '@/core/words';
import { codeSvg, drawCode, symbolFor, symbolInStyle, type CodeStyle, type Level, type Outlines } from '@/core/qr';

type Fixed = { version: number; level: Level; mask: number };

/** A code by the function that makes the download, and its size in modules; null of a text that no code holds. */
export function useDrawnCode(text: string, style: CodeStyle, words: Outlines | null, fixed?: Fixed) {
  return useMemo(() => {
    try {
      const symbol = fixed ? symbolFor(text, fixed) : symbolInStyle(text, style);
      const drawing = drawCode(symbol, style, words);
      return { symbol, drawing, svg: codeSvg(drawing, { title: '' }) };
    } catch {
      // Longer than the largest symbol holds.
      return null;
    }
  }, [text, style, words, fixed]);
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
