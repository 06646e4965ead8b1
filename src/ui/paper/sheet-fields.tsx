import { Form } from 'react-bootstrap';
import {
  FIRST_SHEET,
  PAPER_NAMES,
  planSheet,
  sizeOf,
  trimOf,
  type PaperName,
  type Piece,
  type SheetChoice,
} from '@/core/print';
import { PAPER } from '@/core/words';
import { LabelFields } from './label-fields';
import { Typed } from './typed';

/** Whether several go on a sheet, how backs are turned, and how far a printer shifts them. */
export function SheetFields({ piece, onPiece }: { piece: Piece; onPiece: (piece: Piece) => void }) {
  const { sheet } = piece;
  const change = (more: Partial<SheetChoice>) => onPiece({ ...piece, sheet: { ...(sheet ?? FIRST_SHEET), ...more } });
  return (
    <>
      <Form.Group controlId="paper-sheet">
        <Form.Label>{PAPER.sheet}</Form.Label>
        <Form.Select
          value={sheet?.paper ?? 'none'}
          onChange={({ target }) =>
            target.value === 'none' ? onPiece({ ...piece, sheet: null }) : change({ paper: target.value as PaperName })
          }
        >
          {(['none', ...PAPER_NAMES] as const).map((each) => (
            <option key={each} value={each}>
              {PAPER.sheets[each]}
            </option>
          ))}
        </Form.Select>
        {sheet && <p className="note">{PAPER.onSheet(planSheet(sheet, trimOf(piece)).places.length)}</p>}
      </Form.Group>
      {sheet && sizeOf(piece.size).stock === 'label' && <LabelFields piece={piece} sheet={sheet} onPiece={onPiece} />}
      {sheet && (
        <>
          <Form.Group controlId="paper-turn">
            <Form.Label>{PAPER.turn}</Form.Label>
            <Form.Select
              value={sheet.turn}
              onChange={({ target }) => change({ turn: target.value as SheetChoice['turn'] })}
            >
              {(['long', 'short'] as const).map((each) => (
                <option key={each} value={each}>
                  {PAPER.turns[each]}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <div className="pair">
            {(['across', 'down'] as const).map((way) => (
              <Typed
                key={way}
                id={`paper-${way}`}
                label={PAPER.shift[way]}
                value={String(sheet[way] / 10)}
                onValue={(typed) => {
                  const shift = Math.round(Number(typed.replace(',', '.').replace('−', '-')) * 10);
                  if (Number.isFinite(shift)) change({ [way]: Math.max(-100, Math.min(100, shift)) });
                }}
              />
            ))}
          </div>
          <p className="note">{PAPER.shiftNote}</p>
        </>
      )}
    </>
  );
}
