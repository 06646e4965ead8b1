'use client';
import { REPLY_EXTRAS, type Block } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS } from '@/core/words';
import { BlockField } from './block-field';

type FormBlock = Extract<Block, { kind: 'reply form' }>;

const MOST_EXTRAS = 3;

/** What a reply form asks for besides a name, a way to reach somebody and a note. */
export function ReplyFields({ block, onChange }: { block: FormBlock; onChange: (block: FormBlock) => void }) {
  const full = block.fields.length >= MOST_EXTRAS;
  return (
    <fieldset className="reply-extras">
      <legend>{BLOCK_FIELDS.replyAsks}</legend>
      {REPLY_EXTRAS.map((extra) => {
        const on = block.fields.includes(extra);
        return (
          <label key={extra} className="gap-choice">
            <input
              type="checkbox"
              checked={on}
              disabled={!on && full}
              onChange={({ target }) =>
                onChange({
                  ...block,
                  fields: REPLY_EXTRAS.filter((each) =>
                    each === extra ? target.checked : block.fields.includes(each),
                  ),
                })
              }
            />{' '}
            {BLOCK_FIELDS.replyExtra[extra]}
          </label>
        );
      })}
      {block.fields.includes('answer') && (
        <BlockField
          id={`${block.id}-question`}
          label={BLOCK_FIELDS.replyQuestion}
          hint={BLOCK_FIELDS.replyQuestionHint}
          value={block.question}
          most={LIMITS.label}
          onKeep={(question) => onChange({ ...block, question })}
        />
      )}
      <p className="note">{BLOCK_FIELDS.replyNote}</p>
    </fieldset>
  );
}
