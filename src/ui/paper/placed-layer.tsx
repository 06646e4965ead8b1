'use client';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { BLEED_MM, roomsOf, snap, trimOf, type Piece, type SideName, type Snapped } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { ARTWORK } from '@/core/words';
import { useStable } from '@/ui/studio/use-stable';
import { placedName } from './placed-fields';

type Props = {
  shown: ShownPiece;
  piece: Piece;
  side: SideName;
  chosen: number | null;
  onChosen: (at: number | null) => void;
  onPiece: (piece: Piece) => void;
};

type Box = { x: number; y: number; width: number; height: number };
/** Something that is being moved: where it is meanwhile, and the lines that it is on. */
type Moving = { at: number; box: Box; lines: Pick<Snapped, 'across' | 'down'>; of: ShownPiece };

const STEPS: Record<string, [x: number, y: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Steps of the keyboard are kept once no other follows for so long, in milliseconds. */
const SETTLED_MS = 450;
const NO_LINES = { across: null, down: null };
const tenth = (value: number) => Math.round(value * 10) / 10;

/** What was put on a side of a design, to be taken hold of: dragged, moved by arrow keys, made wider at its corner. */
export function PlacedLayer({ shown, piece, side, chosen, onChosen, onPiece }: Props) {
  const layer = useRef<HTMLDivElement>(null);
  const [moved, setMoving] = useState<Moving | null>(null);
  // What was moved stays where it was left until the server has drawn it there.
  const moving = moved?.of === shown ? moved : null;
  const held = useRef<{ from: [number, number]; box: Box; wider: boolean } | null>(null);
  const trim = trimOf(piece);
  const { margin } = roomsOf(piece.size);
  const whole = { width: trim.width + 2 * BLEED_MM, height: trim.height + 2 * BLEED_MM };
  const boxes = shown.boxes.map((box, at) => (moving?.at === at ? moving.box : box));
  const others = (at: number) =>
    boxes.filter((box, other): box is Box => box !== null && other !== at && piece.placed[other]?.side === side);
  const keep = useStable(({ at, box }: Moving) => {
    const placed = piece.placed.map((each, other) =>
      other === at ? { ...each, x: box.x, y: box.y, widthMm: Math.max(5, tenth(box.width)) } : each,
    );
    onPiece({ ...piece, placed });
  });
  const settling = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(settling.current), []);

  function began(event: PointerEvent, at: number, wider: boolean) {
    const box = boxes[at];
    if (!box) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { from: [event.clientX, event.clientY], box, wider };
    onChosen(at);
  }
  function drag(event: PointerEvent, at: number) {
    const { current } = held;
    if (!current || !layer.current) return;
    const mm = whole.width / layer.current.clientWidth;
    const [dx, dy] = [(event.clientX - current.from[0]) * mm, (event.clientY - current.from[1]) * mm];
    const { box } = current;
    if (current.wider) {
      const width = Math.max(5, Math.min(tenth(box.width + dx), trim.width - box.x));
      const height = piece.placed[at]?.kind === 'code' ? (box.height * width) / box.width : box.height;
      return setMoving({ at, box: { ...box, width, height }, lines: NO_LINES, of: shown });
    }
    const { x, y, ...lines } = snap({ ...box, x: box.x + dx, y: box.y + dy }, trim, margin, others(at));
    setMoving({ at, box: { ...box, x, y }, lines, of: shown });
  }
  function ended() {
    if (held.current && moving) keep(moving);
    held.current = null;
  }
  function pressed(event: KeyboardEvent, at: number) {
    const step = STEPS[event.key];
    const box = boxes[at];
    if (!step || !box) return;
    event.preventDefault();
    const by = event.shiftKey ? 0.1 : 1;
    const within = (value: number, size: number, most: number) => tenth(Math.max(0, Math.min(value, most - size)));
    const next: Moving = {
      at,
      box: {
        ...box,
        x: within(box.x + step[0] * by, box.width, trim.width),
        y: within(box.y + step[1] * by, box.height, trim.height),
      },
      ...{ lines: NO_LINES, of: shown },
    };
    setMoving(next);
    clearTimeout(settling.current);
    settling.current = setTimeout(() => keep(next), SETTLED_MS);
  }
  const share = (value: number, of: number) => `${(value / of) * 100}%`;
  const placeOf = ({ x, y, width, height }: Box) => ({
    ...{ left: share(x + BLEED_MM, whole.width), top: share(y + BLEED_MM, whole.height) },
    ...{ width: share(width, whole.width), height: share(height, whole.height) },
  });
  return (
    <div className="placed-layer" ref={layer}>
      {boxes.map((box, at) => {
        const placed = piece.placed[at];
        if (!box || placed?.side !== side) return null;
        const name = placedName(shown, placed);
        return (
          <button
            key={at}
            type="button"
            className={`placed ${chosen === at ? 'chosen' : ''}`}
            style={placeOf(box)}
            aria-label={ARTWORK.moved(name, box.x, box.y)}
            aria-pressed={chosen === at}
            title={ARTWORK.keys}
            onClick={() => onChosen(at)}
            onPointerDown={(event) => began(event, at, false)}
            onPointerMove={(event) => drag(event, at)}
            onPointerUp={ended}
            onPointerCancel={ended}
            onKeyDown={(event) => pressed(event, at)}
          >
            <span
              className="wider"
              aria-hidden="true"
              onPointerDown={(event) => began(event, at, true)}
              onPointerMove={(event) => {
                event.stopPropagation();
                drag(event, at);
              }}
              onPointerUp={(event) => {
                event.stopPropagation();
                ended();
              }}
            />
          </button>
        );
      })}
      {moving && moving.lines.across !== null && (
        <span className="on-line upright" style={{ left: share(moving.lines.across + BLEED_MM, whole.width) }} />
      )}
      {moving && moving.lines.down !== null && (
        <span className="on-line lying" style={{ top: share(moving.lines.down + BLEED_MM, whole.height) }} />
      )}
    </div>
  );
}
