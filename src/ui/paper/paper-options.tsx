'use client';
import Link from 'next/link';
import { Button, Form } from 'react-bootstrap';
import {
  BACKS,
  codeOn,
  DISTANCES,
  inSize,
  isOwnSize,
  SENTENCE_LETTERS,
  SIZE_NAMES,
  sizeOf,
  STOCKS,
  trimOf,
  type Piece,
  type SizeName,
} from '@/core/print';
import { QUIET_ZONE } from '@/core/qr';
import type { ShownPiece } from '@/core/shown';
import { ARTWORK, CODES, PAPER } from '@/core/words';
import { ArtworkFields } from './artwork-fields';
import { OwnSize } from './label-fields';
import { PlacedFields } from './placed-fields';
import { SheetFields } from './sheet-fields';
import { Typed } from './typed';

type Props = {
  shown: ShownPiece;
  piece: Piece;
  busy: boolean;
  /** What is chosen of what was put on a design, by its place in the list. */
  chosen: number | null;
  undo: (() => void) | null;
  onChosen: (at: number | null) => void;
  onPiece: (piece: Piece) => void;
  onTaken: (shown: ShownPiece) => void;
};

/** How a piece is made up: each size says its measures and what code it carries before it is chosen. */
export function PaperOptions({ shown, piece, busy, chosen, undo, onChosen, onPiece, onTaken }: Props) {
  const designed = piece.ground === 'artwork' && shown.artworks !== null;
  const { stock } = sizeOf(piece.size);
  const bothWays = stock !== 'sticker' && piece.size !== 'square';
  const coded = !designed && (stock !== 'card' || piece.back === 'code');
  return (
    <div className="paper-options">
      <Form.Group controlId="paper-size">
        <Form.Label>{PAPER.size}</Form.Label>
        <Form.Select value={piece.size} onChange={({ target }) => onPiece(inSize(piece, target.value as SizeName))}>
          {STOCKS.map((each) => (
            <optgroup key={each} label={PAPER.stocks[each]}>
              {SIZE_NAMES.filter((name) => sizeOf(name).stock === each).map((name) => (
                <option key={name} value={name}>
                  {told(shown, piece, name)}
                </option>
              ))}
            </optgroup>
          ))}
        </Form.Select>
        <p className="note">{PAPER.holdsOf.print}</p>
      </Form.Group>
      {isOwnSize(piece.size) && <OwnSize piece={piece} onPiece={onPiece} />}
      {bothWays && (
        <Form.Group controlId="paper-form">
          <Form.Label>{PAPER.form}</Form.Label>
          <Form.Select
            value={piece.form}
            onChange={({ target }) => onPiece({ ...piece, form: target.value as Piece['form'], codeMm: null })}
          >
            {(['lying', 'standing'] as const).map((each) => (
              <option key={each} value={each}>
                {PAPER.forms[each]}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      <ArtworkFields shown={shown} piece={piece} onPiece={onPiece} onTaken={onTaken} />
      {designed && <PlacedFields {...{ shown, piece, chosen, onChosen, onPiece }} />}
      {!designed && stock === 'card' && (
        <Form.Group controlId="paper-back">
          <Form.Label>{PAPER.back}</Form.Label>
          <Form.Select
            value={piece.back}
            onChange={({ target }) => onPiece({ ...piece, back: target.value as Piece['back'] })}
          >
            {BACKS.map((each) => (
              <option key={each} value={each}>
                {PAPER.backs[each]}
              </option>
            ))}
          </Form.Select>
          <p className="note">{PAPER.backNote[piece.back]}</p>
        </Form.Group>
      )}
      {coded && (stock === 'card' || stock === 'sign') && (
        <Typed
          key={`sentence ${piece.size}`}
          id="paper-sentence"
          label={PAPER.sentence}
          value={piece.sentence}
          most={SENTENCE_LETTERS}
          hint={shown.sentence}
          onValue={(sentence) => onPiece({ ...piece, sentence })}
        />
      )}
      {stock === 'sign' && (
        <Typed
          id="paper-distance"
          label={PAPER.distance}
          value={String(piece.distanceMm / 1_000)}
          note={PAPER.distanceNote}
          onValue={(metres) => {
            const distance = Math.round(Number(metres.replace(',', '.')) * 1_000);
            if (distance > 0)
              onPiece({ ...piece, distanceMm: Math.min(DISTANCES.most, Math.max(DISTANCES.least, distance)) });
          }}
        />
      )}
      {coded && stock !== 'sign' && (
        <Typed
          key={`code ${piece.size} ${piece.form}`}
          id="paper-code"
          label={PAPER.codeMm}
          value={piece.codeMm === null ? '' : String(piece.codeMm)}
          hint={String(Math.round(shown.code.widthMm * 10) / 10)}
          note={PAPER.codeRoom(shown.code.roomMm)}
          onValue={(typed) => {
            const wide = Number(typed.replace(',', '.'));
            onPiece({ ...piece, codeMm: wide > 0 ? Math.min(300, Math.max(5, wide)) : null });
          }}
        />
      )}
      <SheetFields piece={piece} onPiece={onPiece} />
      {!piece.sheet && (
        <Form.Check
          id="paper-marks"
          label={PAPER.marks}
          checked={piece.marks}
          onChange={({ target }) => onPiece({ ...piece, marks: target.checked })}
        />
      )}
      <Button variant="quiet" size="sm" disabled={!undo} onClick={() => undo?.()}>
        {ARTWORK.undo}
      </Button>
      <Link href={`/cards/${shown.cardId}`}>{PAPER.ticks}</Link>
      <span role="status" className="note">
        {busy ? PAPER.saving : ''}
      </span>
      <Link href={`/cards/${shown.cardId}/hand-outs`}>{CODES.back}</Link>
    </div>
  );
}

/** A size by its name, its measures as it lies or stands, and the code that it would carry. */
function told({ code }: ShownPiece, piece: Piece, name: SizeName): string {
  const wanted = inSize(piece, name);
  const { width, height } = trimOf(wanted);
  const measures = `${PAPER.sizes[name]} · ${PAPER.measures(width, height)}`;
  // On an own design the code is as large as it was put there.
  if (piece.ground === 'artwork') return measures;
  const { widthMm, moduleMm } = codeOn(wanted, code.modules - 2 * QUIET_ZONE);
  return `${measures} · ${PAPER.codeOn(widthMm, moduleMm)}`;
}
