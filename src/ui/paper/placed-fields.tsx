'use client';
import { Form } from 'react-bootstrap';
import {
  BLEED_MM,
  MOST_PLACED,
  PlacedSchema,
  roomsOf,
  trimOf,
  type Piece,
  type Placed,
  type PlacedLine,
} from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { ARTWORK, PAPER } from '@/core/words';
import { ColourField } from './colour-field';
import { inkOn } from './ink-on';
import { Typed } from './typed';

type Props = {
  shown: ShownPiece;
  piece: Piece;
  chosen: number | null;
  onChosen: (at: number | null) => void;
  onPiece: (piece: Piece) => void;
};

const ROUND = (value: number) => String(Math.round(value * 100) / 100);

/** What something on a design is called. */
export function placedName({ lines }: Pick<ShownPiece, 'lines'>, placed: Placed): string {
  if (placed.kind === 'code') return ARTWORK.code;
  return lines.find(({ line }) => line === placed.line)?.value ?? ARTWORK.gone;
}

/** What was put on a design, one by one, and the measures of what is chosen. */
export function PlacedFields({ shown, piece, chosen, onChosen, onPiece }: Props) {
  const { placed } = piece;
  const free = shown.lines.filter(({ line }) => !placed.some((each) => each.kind === 'line' && each.line === line));
  function change(at: number, next: Placed) {
    if (PlacedSchema.safeParse(next).success)
      onPiece({ ...piece, placed: placed.map((each, other) => (other === at ? next : each)) });
  }
  async function add(line: string) {
    const { margin } = roomsOf(piece.size);
    const { width, height } = trimOf(piece);
    const below = Math.max(
      margin,
      ...shown.boxes.flatMap((box, at) => (box && placed[at]?.kind === 'line' ? box.y + box.height + 1 : 0)),
    );
    const widthMm = Math.round(width / 2);
    const whole = { width: width + 2 * BLEED_MM, height: height + 2 * BLEED_MM };
    const ground = {
      ...{ x: (margin + BLEED_MM) / whole.width, y: (below + BLEED_MM) / whole.height },
      ...{ width: widthMm / whole.width, height: 4 / whole.height },
    };
    const next: PlacedLine = {
      ...{ kind: 'line', side: 'front', line, x: margin, y: below, widthMm, colour: await inkOn(shown.front, ground) },
      ...{ points: line === 'name' ? 12 : 8, heavy: line === 'name', align: 'left' },
    };
    onPiece({ ...piece, placed: [...placed, next] });
    onChosen(placed.length);
  }
  return (
    <fieldset className="placed-fields">
      <legend className="form-label">{ARTWORK.placed}</legend>
      <ul>
        {placed.map((each, at) => (
          <li key={at}>
            <button
              type="button"
              className="plain"
              aria-pressed={chosen === at}
              onClick={() => onChosen(chosen === at ? null : at)}
            >
              {placedName(shown, each)}
              {shown.artworks?.back && <span className="note"> · {PAPER.side[each.side]}</span>}
            </button>
            {each.kind === 'line' && (
              <button
                type="button"
                className="plain"
                aria-label={ARTWORK.remove(placedName(shown, each))}
                onClick={() => {
                  onChosen(null);
                  onPiece({ ...piece, placed: placed.filter((_, other) => other !== at) });
                }}
              >
                ✕
              </button>
            )}
            {chosen === at && <Measures shown={shown} placed={each} at={at} onPlaced={(next) => change(at, next)} />}
          </li>
        ))}
      </ul>
      {free.length === 0 || placed.length >= MOST_PLACED ? (
        <p className="note">{ARTWORK.noMore}</p>
      ) : (
        <Form.Group controlId="place-line">
          <Form.Label>{ARTWORK.add}</Form.Label>
          <Form.Select value="" onChange={({ target }) => target.value && void add(target.value)}>
            <option value="">{ARTWORK.addHint}</option>
            {free.map(({ line, title, value }) => (
              <option key={line} value={line}>
                {line === 'name' ? ARTWORK.name : title ? `${title}: ${value}` : value}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
    </fieldset>
  );
}

const NUMBERS = ['x', 'y', 'widthMm'] as const;
const WORD = { x: ARTWORK.x, y: ARTWORK.y, widthMm: ARTWORK.width };

type MeasuresProps = { shown: ShownPiece; placed: Placed; at: number; onPlaced: (placed: Placed) => void };

function Measures({ shown, placed, at, onPlaced }: MeasuresProps) {
  const number = (typed: string) => Number(typed.replace(',', '.'));
  return (
    <div className="measures">
      {shown.artworks?.back && (
        <Form.Group controlId={`placed-side-${at}`}>
          <Form.Label>{ARTWORK.side}</Form.Label>
          <Form.Select
            value={placed.side}
            onChange={({ target }) => onPlaced({ ...placed, side: target.value as Placed['side'] })}
          >
            <option value="front">{PAPER.side.front}</option>
            <option value="back">{PAPER.side.back}</option>
          </Form.Select>
        </Form.Group>
      )}
      <div className="pair">
        {NUMBERS.map((name) => (
          <Typed
            key={`${name} ${placed[name]}`}
            id={`placed-${name}-${at}`}
            label={WORD[name]}
            value={ROUND(placed[name])}
            onValue={(typed) => onPlaced({ ...placed, [name]: number(typed) })}
          />
        ))}
        {placed.kind === 'line' && (
          <Typed
            key={`points ${placed.points}`}
            id={`placed-points-${at}`}
            label={ARTWORK.points}
            value={ROUND(placed.points)}
            onValue={(typed) => onPlaced({ ...placed, points: number(typed) })}
          />
        )}
      </div>
      {placed.kind === 'code' ? (
        <>
          <Form.Check
            id="placed-plate"
            label={ARTWORK.plate}
            checked={placed.plate}
            onChange={({ target }) => onPlaced({ ...placed, plate: target.checked })}
          />
          <p className="note">{ARTWORK.plateNote}</p>
        </>
      ) : (
        <>
          <div className="pair">
            <ColourField
              key={placed.colour}
              id={`placed-colour-${at}`}
              label={ARTWORK.colour}
              value={placed.colour}
              offered={shown.colours}
              onValue={(colour) => onPlaced({ ...placed, colour })}
            />
            <Form.Group controlId={`placed-align-${at}`}>
              <Form.Label>{ARTWORK.align}</Form.Label>
              <Form.Select
                value={placed.align}
                onChange={({ target }) => onPlaced({ ...placed, align: target.value as PlacedLine['align'] })}
              >
                {(['left', 'middle', 'right'] as const).map((each) => (
                  <option key={each} value={each}>
                    {ARTWORK.aligns[each]}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          </div>
          <Form.Check
            id={`placed-heavy-${at}`}
            label={ARTWORK.heavy}
            checked={placed.heavy}
            onChange={({ target }) => onPlaced({ ...placed, heavy: target.checked })}
          />
        </>
      )}
    </div>
  );
}
