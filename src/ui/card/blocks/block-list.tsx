'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { BLOCKS, freshBlock, type Block, type ComposedLine, type Edit, type Opens } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { BLOCKS_WORDS } from '@/core/words';
import { freshId } from '@/ui/record/fresh-id';

// A card without blocks needs none of this.
const BlockRows = dynamic(() => import('./block-rows').then((made) => made.BlockRows));
const KindChooser = dynamic(() => import('./kind-chooser').then((made) => made.KindChooser));
const OpensChoice = dynamic(() => import('./opens-choice').then((made) => made.OpensChoice));

type Props = {
  blocks: Block[];
  opens: Opens;
  lines: ComposedLine[];
  clashes: readonly Edit[];
  onBlocks: (blocks: Block[]) => void;
  onOpens: (opens: Opens) => void;
  onSettle: (clash: Edit, mine: boolean) => void;
};

/** The blocks of a page below its lines: their order, which are shown, the settings of each, and what opens first. */
export function BlockList({ blocks, opens, lines, clashes, onBlocks, onOpens, onSettle }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const [choosing, setChoosing] = useState(false);
  const free = BLOCKS.filter((kind) => kind !== 'action bar' || !blocks.some((block) => block.kind === kind));
  return (
    <section className="blocks" aria-labelledby="blocks-title">
      <div className="blocks-title">
        <h2 id="blocks-title" className="caps">
          {BLOCKS_WORDS.title}
        </h2>
        {blocks.length < LIMITS.blocks && (
          <Button variant="quiet" size="sm" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            {BLOCKS_WORDS.add}
          </Button>
        )}
      </div>
      {choosing && (
        <KindChooser
          kinds={free}
          onClose={() => setChoosing(false)}
          onKind={(kind) => {
            const block = freshBlock(kind, freshId);
            onBlocks([...blocks, block]);
            setOpen(block.id);
            setChoosing(false);
          }}
        />
      )}
      {blocks.length === 0 ? (
        <p className="note">{BLOCKS_WORDS.none}</p>
      ) : (
        <BlockRows
          blocks={blocks}
          lines={lines}
          clashes={clashes}
          open={open}
          onOpen={setOpen}
          onBlocks={onBlocks}
          onSettle={onSettle}
        />
      )}
      {(blocks.length > 0 || opens.first !== 'page') && <OpensChoice opens={opens} blocks={blocks} onOpens={onOpens} />}
    </section>
  );
}
