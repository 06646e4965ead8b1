'use client';
import { useMemo } from 'react';
import { CARD } from '@/core/words';
import type { Composition } from '@/core/card';
import type { SpecimenOf } from '@/core/specimen';
import { specimenCode } from '@/core/specimen/carried';
import { CODE_BYTES, drawSymbol, QUIET_ZONE, symbolFor } from '@/core/qr';

/** Printed width of a code unless another is asked for, in millimetres. */
const WIDTH_MM = 25;

/** A code at its true size, made by the function that makes the download, with what it holds. */
export function CodeView({ composition, of }: { composition: Composition; of: SpecimenOf }) {
  const text = specimenCode(composition, of);
  const made = useMemo(() => {
    if (new TextEncoder().encode(text).length > CODE_BYTES) return null;
    const symbol = symbolFor(text);
    return { symbol, svg: drawSymbol(symbol, { title: CARD.specimenOf('code'), widthMm: WIDTH_MM }) };
  }, [text]);
  if (!made) return <p className="problem">{CARD.roomLeft(-1)}</p>;
  const { version, size, level } = made.symbol;
  return (
    <div className="code-view">
      <img
        src={`data:image/svg+xml;utf8,${encodeURIComponent(made.svg)}`}
        alt={CARD.specimenOf('code')}
        style={{ width: `${WIDTH_MM}mm`, height: `${WIDTH_MM}mm` }}
      />
      <p>{CARD.symbolIs(version, size, level, (WIDTH_MM / (size + 2 * QUIET_ZONE)).toFixed(2))}</p>
      <pre tabIndex={0} aria-label={CARD.source}>
        {text}
      </pre>
    </div>
  );
}
