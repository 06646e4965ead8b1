import { Form } from 'react-bootstrap';
import { FIRST_LABELS, LabelsSchema, type Labels, type Piece, type SheetChoice } from '@/core/print';
import { PAPER } from '@/core/words';
import { Typed } from './typed';

type Props = { piece: Piece; sheet: SheetChoice; onPiece: (piece: Piece) => void };

/** Counts are whole; everything else is millimetres, kept in tenths. */
const COUNTED = new Set<keyof Labels>(['columns', 'rows']);
const NAMES = ['columns', 'rows', 'left', 'top', 'stepAcross', 'stepDown'] as const satisfies (keyof Labels)[];
const numberOf = (typed: string): number => Number(typed.replace(',', '.'));

/** The measures of a sheet of labels that are cut already. */
export function LabelFields({ piece, sheet, onPiece }: Props) {
  const { labels } = sheet;
  const set = (next: Labels | null) => onPiece({ ...piece, sheet: { ...sheet, labels: next } });
  return (
    <>
      <Form.Check
        id="paper-labels"
        label={PAPER.labels}
        checked={Boolean(labels)}
        onChange={({ target }) => set(target.checked ? FIRST_LABELS : null)}
      />
      {labels && (
        <>
          <div className="pair">
            {NAMES.map((name) => (
              <Typed
                key={name}
                id={`labels-${name}`}
                label={PAPER.ofLabels[name]}
                value={String(COUNTED.has(name) ? labels[name] : labels[name] / 10)}
                onValue={(typed) => {
                  const next = { ...labels, [name]: Math.round(numberOf(typed) * (COUNTED.has(name) ? 1 : 10)) };
                  if (LabelsSchema.safeParse(next).success) set(next);
                }}
              />
            ))}
          </div>
          <p className="note">{PAPER.labelsNote}</p>
        </>
      )}
    </>
  );
}

/** The size of a label by its measures. */
export function OwnSize({ piece, onPiece }: Pick<Props, 'piece' | 'onPiece'>) {
  return (
    <div className="pair">
      {(['width', 'height'] as const).map((side) => (
        <Typed
          key={side}
          id={`label-${side}`}
          label={PAPER.ofLabel[side]}
          value={String(piece.own[side])}
          onValue={(typed) => {
            const measure = numberOf(typed);
            if (measure >= 15 && measure <= 300) onPiece({ ...piece, own: { ...piece.own, [side]: measure } });
          }}
        />
      ))}
    </div>
  );
}
