'use client';
import type { Block, ComposedLine } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS, BLOCKS_WORDS } from '@/core/words';
import { freshId } from '@/ui/record/fresh-id';
import { BarFields } from './bar-fields';
import { BlockField } from './block-field';
import { EntryList } from './entry-list';
import { PictureInput } from './file-input';
import { ReplyFields } from './reply-fields';
import { linkProblem, withScheme } from './link-problem';
import { VideoFields } from './video-fields';

type Props = {
  block: Block;
  lines: ComposedLine[];
  /** All of the card, for buttons that go to one. */
  blocks: Block[];
  onChange: (block: Block) => void;
  onRemove: () => void;
};

/** The settings of one block; opens below its row. */
export function BlockEditor({ block, lines, blocks, onChange, onRemove }: Props) {
  return (
    <div className="block-editor" role="group" aria-label={BLOCKS_WORDS.settings(BLOCKS_WORDS.kinds[block.kind])}>
      {block.kind !== 'action bar' && (
        <div className="block-common">
          <BlockField
            id={`${block.id}-title`}
            label={BLOCK_FIELDS.heading}
            hint={BLOCK_FIELDS.headingHint}
            value={block.title}
            most={LIMITS.label}
            onKeep={(title) => onChange({ ...block, title })}
          />
          <label className="gap-choice">
            <input
              type="checkbox"
              checked={block.before}
              onChange={({ target }) => onChange({ ...block, before: target.checked })}
            />{' '}
            {BLOCK_FIELDS.before}
          </label>
        </div>
      )}
      {block.kind === 'about' && (
        <BlockField
          id={`${block.id}-text`}
          label={BLOCK_FIELDS.text}
          long
          value={block.text}
          most={LIMITS.blockText}
          onKeep={(text) => onChange({ ...block, text })}
        />
      )}
      {block.kind === 'action bar' && <BarFields block={block} lines={lines} blocks={blocks} onChange={onChange} />}
      {block.kind === 'reply form' && <ReplyFields block={block} onChange={onChange} />}
      {block.kind === 'video' && <VideoFields block={block} onChange={onChange} />}
      {'items' in block && (
        <EntryList
          entries={block.items}
          most={LIMITS.items}
          addWord={BLOCK_FIELDS.addEntry}
          nameOf={BLOCK_FIELDS.entry}
          fresh={() => ({ id: freshId(), picture: null, alt: '', title: '', text: '', url: '' })}
          onEntries={(items) => onChange({ ...block, items })}
        >
          {(item, change) => (
            <>
              <PictureInput picture={item.picture} onPicture={(picture) => change({ picture })} />
              <BlockField
                id={`${item.id}-title`}
                label={BLOCK_FIELDS.entryTitle}
                value={item.title}
                most={LIMITS.label}
                onKeep={(title) => change({ title })}
              />
              <BlockField
                id={`${item.id}-url`}
                label={BLOCK_FIELDS.link}
                value={item.url}
                most={LIMITS.link}
                wrong={(url) => linkProblem(url, false)}
                onKeep={(url) => change({ url: withScheme(url) })}
              />
              {item.picture && (
                <BlockField
                  id={`${item.id}-alt`}
                  label={BLOCK_FIELDS.alt}
                  hint={BLOCK_FIELDS.altHint}
                  value={item.alt}
                  most={LIMITS.label}
                  onKeep={(alt) => change({ alt })}
                />
              )}
              <BlockField
                id={`${item.id}-text`}
                label={BLOCK_FIELDS.entryText}
                long
                value={item.text}
                most={LIMITS.blockText}
                onKeep={(text) => change({ text })}
              />
            </>
          )}
        </EntryList>
      )}
      <button type="button" className="plain" onClick={onRemove}>
        {BLOCK_FIELDS.remove}
      </button>
    </div>
  );
}
