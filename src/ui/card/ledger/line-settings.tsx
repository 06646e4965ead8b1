'use client';
import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import {
  editCell,
  editTicks,
  EMPHASES,
  labelOf,
  NAME_LINE,
  NOWHERE,
  PAGE_AND_FILE,
  partsOf,
  type Channel,
  type Edit,
  type Line,
  type Part,
} from '@/core/card';
import { CARD, CHANNEL_WORDS, FRAME } from '@/core/words';
import { defaultLabel, type Detail } from '@/core/record';
import { useClosed } from '@/ui/studio/owned';

type Props = {
  line: Line;
  detail: Detail | null;
  columns: readonly Channel[];
  span: number;
  onEdit: (edits: Edit[]) => void;
  onAddBelow: () => void;
  onRemove: () => void;
  onMove: (by: number) => void;
  onClose: () => void;
};

/** One choice of several, drawn as words on a rule. */
function Choice<T extends string>({
  title,
  options,
  chosen,
  onChoose,
}: {
  title: string;
  options: { value: T; word: string }[];
  chosen: T;
  onChoose: (value: T) => void;
}) {
  return (
    <div className="choice" role="group" aria-label={title}>
      <span className="of">{title}</span>
      {options.map(({ value, word }) => (
        <button key={value} type="button" aria-pressed={value === chosen} onClick={() => onChoose(value)}>
          {word}
        </button>
      ))}
    </div>
  );
}

/** What a line has besides its label, wording and ticks; on a phone its ticks too. Opens below the row. */
export function LineSettings({ line, detail, columns, span, onEdit, onAddBelow, onRemove, onMove, onClose }: Props) {
  const isName = line.detail === NAME_LINE;
  const closed = useClosed(detail ?? 'name');
  const title = detail ? labelOf(line, detail) || defaultLabel(detail) : FRAME.name;
  const parts = partsOf(detail?.kind ?? 'name');
  const labels: { value: 'shown' | 'none' | 'own'; word: string }[] = [
    { value: 'shown', word: CARD.labels.shown },
    { value: 'none', word: CARD.labels.none },
    ...(line.label ? [{ value: 'own' as const, word: CARD.labels.own }] : []),
  ];
  const acts: ReactNode = !isName && (
    <div className="line-acts">
      <Button variant="quiet" size="sm" onClick={() => onEdit(editTicks(line, PAGE_AND_FILE))}>
        {CARD.everywhere}
      </Button>
      <Button variant="quiet" size="sm" onClick={() => onEdit(editTicks(line, NOWHERE))}>
        {CARD.nowhere}
      </Button>
      <Button variant="quiet" size="sm" onClick={() => onMove(-1)} aria-label={CARD.up}>
        ↑
      </Button>
      <Button variant="quiet" size="sm" onClick={() => onMove(1)} aria-label={CARD.down}>
        ↓
      </Button>
      <Button variant="quiet" size="sm" onClick={onAddBelow}>
        {CARD.addBelow}
      </Button>
      {line.own && (
        <Button variant="quiet" size="sm" onClick={onRemove}>
          {CARD.removeLine}
        </Button>
      )}
      <button type="button" className="plain" onClick={onClose}>
        {CARD.close}
      </button>
    </div>
  );
  return (
    <tr className="line-settings">
      <td />
      <td colSpan={span - 1}>
        <div
          className="settings"
          role="group"
          aria-label={CARD.settingsOf(title)}
          onKeyDown={(event) => event.key === 'Escape' && onClose()}
        >
          <fieldset className="on-phone">
            <legend className="visually-hidden">{CARD.channelsOf(title)}</legend>
            {!isName &&
              columns.map((each) => (
                <label key={each}>
                  <input
                    type="checkbox"
                    checked={line.ticks[each]}
                    onChange={(event) => onEdit(editCell(line, each, event.target.checked))}
                  />{' '}
                  {CHANNEL_WORDS[each]}
                </label>
              ))}
          </fieldset>
          {parts.length > 0 && !closed && (
            <Choice<Part | 'whole'>
              title={CARD.part}
              options={[
                { value: 'whole', word: CARD.whole },
                ...parts.map((part) => ({ value: part, word: CARD.parts[part] })),
              ]}
              chosen={line.part ?? 'whole'}
              onChoose={(part) => onEdit(editCell(line, 'part', part === 'whole' ? null : part))}
            />
          )}
          {!isName && (
            <>
              <Choice
                title={CARD.emphasis}
                options={EMPHASES.map((value) => ({ value, word: CARD.emphases[value] }))}
                chosen={line.emphasis}
                onChoose={(emphasis) => onEdit(editCell(line, 'emphasis', emphasis))}
              />
              {!closed && (
                <Choice
                  title={CARD.label}
                  options={labels}
                  chosen={line.label === null ? 'shown' : line.label === '' ? 'none' : 'own'}
                  onChoose={(label) => label !== 'own' && onEdit(editCell(line, 'label', label === 'none' ? '' : null))}
                />
              )}
              <label className="gap-choice">
                <input
                  type="checkbox"
                  checked={line.gap}
                  onChange={(event) => onEdit(editCell(line, 'gap', event.target.checked))}
                />{' '}
                {CARD.gap}
              </label>
            </>
          )}
          {acts}
        </div>
      </td>
    </tr>
  );
}
