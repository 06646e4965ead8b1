'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import {
  costsOf,
  COSTS,
  FINDER_SHAPES,
  GRADIENT_WAYS,
  MODULE_SHAPES,
  PLAIN_STYLE,
  STYLE_BOUNDS,
  type CodeStyle,
  type Cost,
  type Mark,
} from '@/core/qr';
import type { ShownCode } from '@/core/shown';
import { CODES } from '@/core/words';
import { ColourField } from '@/ui/look/colour-field';
import { call } from '@/ui/studio/call';
import { Choice, Slider } from './style-inputs';

type Props = {
  style: CodeStyle;
  onStyle: (style: CodeStyle) => void;
  marks: { hash: string; word: string }[];
  house: ShownCode['house'];
  disabled: boolean;
};

/** Which part of a style stands under which cost, as long as it costs no more than that. */
const PLACES: Record<Cost, readonly (keyof CodeStyle)[]> = {
  nothing: ['ink', 'words'],
  harder: ['modules', 'finderShape', 'mark', 'gradient'],
  risky: ['finders', 'ground'],
};

/** The style of a code, its parts by what they cost those who scan; a part that costs more as it is set says so. */
export function StyleFields({ style, onStyle, marks, house, disabled }: Props) {
  const costs = costsOf(style);
  const set = (change: Partial<CodeStyle>) => onStyle({ ...style, ...change });
  async function asHouse({ style: theirs, logo }: NonNullable<Props['house']>) {
    const { words, around } = style;
    const mark = logo && (await markOf(logo.hash, logo.percent));
    onStyle({ ...theirs, words, ...(around ? { around } : {}), mark });
  }
  return (
    <fieldset className="style-fields" disabled={disabled}>
      {COSTS.map((cost) => (
        <div key={cost} className={`cost-${cost}`}>
          <p className="caps">{CODES.costs[cost]}</p>
          {PLACES[cost].map((part) => (
            <div key={part} className="style-part">
              <Part part={part} style={style} set={set} marks={marks} />
              {costs[part] === 'risky' && cost !== 'risky' && <p className="attention">{CODES.costs.risky}</p>}
            </div>
          ))}
        </div>
      ))}
      <div className="pair">
        {house && (
          <button type="button" className="btn btn-quiet btn-sm" onClick={() => void asHouse(house)}>
            {CODES.asHouse}
          </button>
        )}
        <button
          type="button"
          className="btn btn-quiet btn-sm"
          onClick={() => onStyle({ ...PLAIN_STYLE, words: style.words })}
        >
          {CODES.plainAgain}
        </button>
      </div>
    </fieldset>
  );
}

type PartProps = {
  part: keyof CodeStyle;
  style: CodeStyle;
  set: (change: Partial<CodeStyle>) => void;
  marks: Props['marks'];
};

function Part({ part, style, set, marks }: PartProps) {
  switch (part) {
    case 'ink':
      return <ColourField label={CODES.parts.ink} value={style.ink} onColour={(ink) => set({ ink })} />;
    case 'words':
      return (
        <>
          <Form.Control
            size="sm"
            aria-label={CODES.parts.words}
            placeholder={CODES.parts.words}
            value={style.words}
            maxLength={STYLE_BOUNDS.words}
            onChange={({ target }) => set({ words: target.value })}
          />
          {style.words.trim() !== '' && (
            <Form.Check
              type="switch"
              id="code-around"
              label={CODES.parts.around}
              checked={style.around === true}
              onChange={({ target }) => set({ around: target.checked })}
            />
          )}
        </>
      );
    case 'modules':
      return (
        <>
          <Choice
            word={CODES.parts.modules}
            of={MODULE_SHAPES}
            words={CODES.modules}
            value={style.modules}
            onValue={(modules) => set({ modules })}
          />
          {(style.modules === 'dots' || style.modules === 'tiles') && (
            <Slider
              word={CODES.parts.fill}
              value={style.fill}
              {...STYLE_BOUNDS.fill}
              unit="%"
              onValue={(fill) => set({ fill })}
            />
          )}
        </>
      );
    case 'finderShape':
      return (
        <Choice
          word={CODES.parts.finderShape}
          of={FINDER_SHAPES}
          words={CODES.finderShapes}
          value={style.finderShape}
          onValue={(finderShape) => set({ finderShape })}
        />
      );
    case 'mark':
      return <MarkFields style={style} set={set} marks={marks} />;
    case 'gradient':
      return (
        <>
          <Form.Check
            type="switch"
            id="code-gradient"
            label={CODES.parts.gradient}
            checked={style.gradient !== null}
            onChange={({ target }) => set({ gradient: target.checked ? { to: '#3B2A55', way: 'down' } : null })}
          />
          {style.gradient && (
            <>
              <ColourField
                label={CODES.gradientTo}
                value={style.gradient.to}
                onColour={(to) => set({ gradient: { ...style.gradient!, to } })}
              />
              <Choice
                word={CODES.parts.gradient}
                hidden
                of={GRADIENT_WAYS}
                words={CODES.ways}
                value={style.gradient.way}
                onValue={(way) => set({ gradient: { ...style.gradient!, way } })}
              />
            </>
          )}
        </>
      );
    case 'finders':
      return (
        <>
          <Form.Check
            type="switch"
            id="code-finders"
            label={CODES.parts.finders}
            checked={style.finders !== null}
            onChange={({ target }) => set({ finders: target.checked ? style.ink : null })}
          />
          {style.finders && (
            <ColourField
              label={CODES.parts.finderShape}
              value={style.finders}
              onColour={(finders) => set({ finders })}
            />
          )}
        </>
      );
    default:
      return (
        <>
          <Form.Check
            type="switch"
            id="code-ground"
            label={CODES.onWhite}
            checked={style.ground !== null}
            onChange={({ target }) => set({ ground: target.checked ? '#FFFFFF' : null })}
          />
          {style.ground === null ? (
            <p className="note">{CODES.paper}</p>
          ) : (
            <ColourField label={CODES.parts.ground} value={style.ground} onColour={(ground) => set({ ground })} />
          )}
        </>
      );
  }
}

/** Share of the area that a logo takes until somebody says otherwise, in per cent. */
const USUAL_MARK = 8;

/** A picture as the mark of a code; null where it cannot be had. */
export async function markOf(hash: string, percent: number): Promise<Mark | null> {
  const answer = await call<{ href: string; ratio: number }>(`/api/pictures/${hash}/mark`);
  return answer.ok ? { ...answer.value, percent } : null;
}

function MarkFields({ style, set, marks }: Omit<PartProps, 'part'>) {
  const [chosen, setChosen] = useState('');
  async function choose(hash: string) {
    setChosen(hash);
    if (hash === '') return set({ mark: null });
    const mark = await markOf(hash, style.mark?.percent ?? USUAL_MARK);
    if (mark) set({ mark });
  }
  return (
    <>
      <Form.Select
        size="sm"
        aria-label={CODES.parts.mark}
        value={style.mark ? chosen || 'kept' : ''}
        onChange={({ target }) => void choose(target.value === 'kept' ? chosen : target.value)}
      >
        <option value="">{CODES.markPlain}</option>
        {style.mark && !chosen && <option value="kept">{CODES.parts.mark}</option>}
        {marks.map(({ hash, word }) => (
          <option key={hash} value={hash}>
            {word}
          </option>
        ))}
      </Form.Select>
      {style.mark && (
        <Slider
          word={CODES.parts.mark}
          value={style.mark.percent}
          least={STYLE_BOUNDS.mark.least}
          most={STYLE_BOUNDS.mark.most}
          unit="%"
          onValue={(percent) => set({ mark: { ...style.mark!, percent } })}
        />
      )}
    </>
  );
}
