'use client';
import { Button } from 'react-bootstrap';
import { freshBlock, type Block } from '@/core/card';
import { HOUSE_BLOCKS, HOUSE_ID } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { BLOCKS_WORDS, HOUSE } from '@/core/words';
import { BlockEditor } from '@/ui/card/blocks/block-editor';
import { freshId } from '@/ui/record/fresh-id';

/** The blocks that stand on every page after its own. */
export function HouseBlocks({ blocks, onBlocks }: { blocks: Block[]; onBlocks: (blocks: Block[]) => void }) {
  return (
    <>
      <p className="note">{HOUSE.blocksText}</p>
      {blocks.map((block) => (
        <div key={block.id} className="house-block">
          <b>{BLOCKS_WORDS.kinds[block.kind]}</b>
          <BlockEditor
            block={block}
            lines={[]}
            blocks={blocks}
            onChange={(next) => onBlocks(blocks.map((each) => (each === block ? next : each)))}
            onRemove={() => onBlocks(blocks.filter((each) => each !== block))}
          />
        </div>
      ))}
      {blocks.length < LIMITS.houseBlocks && (
        <div className="house-acts">
          {HOUSE_BLOCKS.map((kind) => (
            <Button
              key={kind}
              size="sm"
              variant="quiet"
              onClick={() => onBlocks([...blocks, freshBlock(kind, () => `${HOUSE_ID}${freshId()}`)])}
            >
              {HOUSE.addBlock(BLOCKS_WORDS.kinds[kind])}
            </Button>
          ))}
        </div>
      )}
    </>
  );
}
