'use client';
import type { Block, ComposedLine } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCKS_WORDS } from '@/core/messages';
import { freshId } from '@/ui/record/fresh-id';
import { BarFields } from './bar-fields';
import { BlockField } from './block-field';
import { EntryList } from './entry-list';
import { PictureInput } from './file-input';
import { linkProblem, withScheme } from './link-problem';
import { VideoFields } from './video-fields';

type Props = {
  block: Block;
  lines: ComposedLine[];
  onChange: (block: Block) => void;
  onRemove: () => void;
};

/** The settings of one block; opens below its row. */
export function BlockEditor({ block, lines, onChange, onRemove }: Props) {
  return (
    <div className="block-editor" role="group" aria-label={BLOCKS_WORDS.settings(BLOCKS_WORDS.kinds[block.kind])}>
      {block.kind !== 'action bar' && (
        <div className="block-common">
          <BlockField
            id={`${block.id}-title`}
            label={BLOCKS_WORDS.heading}
            hint={BLOCKS_WORDS.headingHint}
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
            {BLOCKS_WORDS.before}
          </label>
        </div>
      )}
      {block.kind === 'about' && (
        <BlockField
          id={`${block.id}-text`}
          label={BLOCKS_WORDS.text}
          long
          value={block.text}
          most={LIMITS.blockText}
          onKeep={(text) => onChange({ ...block, text })}
        />
      )}
      {block.kind === 'action bar' && <BarFields block={block} lines={lines} onChange={onChange} />}
      {block.kind === 'video' && <VideoFields block={block} onChange={onChange} />}
      {'items' in block && (
        <EntryList
          entries={block.items}
          most={LIMITS.items}
          addWord={BLOCKS_WORDS.addEntry}
          nameOf={BLOCKS_WORDS.entry}
          fresh={() => ({ id: freshId(), picture: null, alt: '', title: '', text: '', url: '' })}
          onEntries={(items) => onChange({ ...block, items })}
        >
          {(item, change) => (
            <>
              <PictureInput picture={item.picture} onPicture={(picture) => change({ picture })} />
              <BlockField
                id={`${item.id}-title`}
                label={BLOCKS_WORDS.entryTitle}
                value={item.title}
                most={LIMITS.label}
                onKeep={(title) => change({ title })}
              />
              <BlockField
                id={`${item.id}-url`}
                label={BLOCKS_WORDS.link}
                value={item.url}
                most={LIMITS.link}
                wrong={(url) => linkProblem(url, false)}
                onKeep={(url) => change({ url: withScheme(url) })}
              />
              {item.picture && (
                <BlockField
                  id={`${item.id}-alt`}
                  label={BLOCKS_WORDS.alt}
                  hint={BLOCKS_WORDS.altHint}
                  value={item.alt}
                  most={LIMITS.label}
                  onKeep={(alt) => change({ alt })}
                />
              )}
              <BlockField
                id={`${item.id}-text`}
                label={BLOCKS_WORDS.entryText}
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
        {BLOCKS_WORDS.remove}
      </button>
    </div>
  );
}
