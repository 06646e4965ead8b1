'use client';
import { Form } from 'react-bootstrap';
import { ACTS_OF_BAR, fits, lineOfButton, type BarAct, type Block, type ComposedLine } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS, BLOCKS_WORDS } from '@/core/words';
import { shownValue } from '@/core/record';
import { freshId } from '@/ui/record/fresh-id';
import { BlockField } from './block-field';
import { EntryList } from './entry-list';

type Bar = Extract<Block, { kind: 'action bar' }>;

/** The buttons of the action bar: what each does, for which line, with which text filled in. */
export function BarFields({
  block,
  lines,
  blocks,
  onChange,
}: {
  block: Bar;
  lines: ComposedLine[];
  /** All of the card, to jump to. */
  blocks: Block[];
  onChange: (block: Bar) => void;
}) {
  const fitting = (act: BarAct) => lines.filter((line) => line.on.includes('page') && fits(act, line.detail));
  return (
    <>
      <EntryList
        entries={block.buttons}
        most={LIMITS.buttons}
        addWord={BLOCK_FIELDS.addButton}
        nameOf={BLOCK_FIELDS.button}
        mayRemove={({ act }) => act !== 'save'}
        fresh={() => ({ id: freshId(), act: 'call' as const, line: null, subject: '', text: '' })}
        onEntries={(buttons) => onChange({ ...block, buttons })}
      >
        {(button, change) =>
          button.act === 'save' ? (
            <strong className="save-button">{BLOCK_FIELDS.acts.save}</strong>
          ) : (
            <>
              <Form.Group controlId={`${button.id}-act`} className="block-field">
                <Form.Label>{BLOCK_FIELDS.act}</Form.Label>
                <Form.Select
                  size="sm"
                  value={button.act}
                  onChange={({ target }) => change({ act: target.value as BarAct, line: null })}
                >
                  {ACTS_OF_BAR.filter((act) => act !== 'save').map((act) => (
                    <option key={act} value={act}>
                      {BLOCK_FIELDS.acts[act]}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
              {button.act === 'jump' && (
                <Form.Group controlId={`${button.id}-block`} className="block-field">
                  <Form.Label>{BLOCK_FIELDS.block}</Form.Label>
                  <Form.Select
                    size="sm"
                    value={button.block ?? ''}
                    onChange={({ target }) => change({ block: target.value || undefined })}
                  >
                    <option value="">{BLOCK_FIELDS.chooseBlock}</option>
                    {blocks
                      .filter(({ kind, on }) => on && kind !== 'action bar')
                      .map(({ id, kind, title }) => (
                        <option key={id} value={id}>
                          {title || BLOCKS_WORDS.kinds[kind]}
                        </option>
                      ))}
                  </Form.Select>
                  {!blocks.some(({ id, on }) => on && id === button.block) && (
                    <Form.Text>{BLOCK_FIELDS.noBlock}</Form.Text>
                  )}
                </Form.Group>
              )}
              {button.act !== 'jump' && (
                <Form.Group controlId={`${button.id}-line`} className="block-field">
                  <Form.Label>{BLOCK_FIELDS.line}</Form.Label>
                  <Form.Select
                    size="sm"
                    value={button.line ?? ''}
                    onChange={({ target }) => change({ line: target.value || null })}
                  >
                    <option value="">{BLOCK_FIELDS.firstLine}</option>
                    {fitting(button.act).map(({ id, label, detail }) => (
                      <option key={id} value={id}>
                        {label ? `${label}: ` : ''}
                        {shownValue(detail)}
                      </option>
                    ))}
                  </Form.Select>
                </Form.Group>
              )}
              {button.act === 'mail' && (
                <BlockField
                  id={`${button.id}-subject`}
                  label={BLOCK_FIELDS.subject}
                  value={button.subject}
                  most={LIMITS.label}
                  onKeep={(subject) => change({ subject })}
                />
              )}
              {(button.act === 'mail' || button.act === 'text' || button.act === 'chat') && (
                <BlockField
                  id={`${button.id}-text`}
                  label={BLOCK_FIELDS.body}
                  long
                  value={button.text}
                  most={LIMITS.blockText}
                  onKeep={(text) => change({ text })}
                />
              )}
              {button.act !== 'jump' && !lineOfButton(button, lines) && <p className="note">{BLOCK_FIELDS.noLine}</p>}
            </>
          )
        }
      </EntryList>
      <p className="note">{BLOCK_FIELDS.placementNote}</p>
    </>
  );
}
