'use client';
import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import dynamic from 'next/dynamic';
import { shownBlocks, type Block, type ComposedLine, type Edit } from '@/core/card';
import { BLOCKS_WORDS, CARD } from '@/core/words';
import { Chevron, Grip } from '@/ui/card/ledger/marks';

const BlockEditor = dynamic(() => import('./block-editor').then((made) => made.BlockEditor));

/** The blocks in their order, each moved by hand or keys, switched, and opened to its settings. */
export function BlockRows({
  blocks,
  lines,
  clashes,
  open,
  onOpen,
  onBlocks,
  onSettle,
}: {
  blocks: Block[];
  lines: ComposedLine[];
  clashes: readonly Edit[];
  open: string | null;
  onOpen: (block: string | null) => void;
  onBlocks: (blocks: Block[]) => void;
  onSettle: (clash: Edit, mine: boolean) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = blocks.map(({ id }) => id);
  const move = (id: string, to: number) => {
    const from = ids.indexOf(id);
    if (to >= 0 && to < ids.length && from !== to) onBlocks(arrayMove(blocks, from, to));
  };
  return (
    <DndContext
      id="blocks"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => over && move(String(active.id), ids.indexOf(String(over.id)))}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ul className="block-rows">
          {blocks.map((block, at) => (
            <BlockRow
              key={block.id}
              block={block}
              empty={shownBlocks([{ ...block, on: true }], lines).length === 0}
              open={open === block.id}
              clash={clashes.find((clash) => clash.edit === 'block' && clash.block === block.id) ?? null}
              lines={lines}
              blocks={blocks}
              onOpen={() => onOpen(open === block.id ? null : block.id)}
              onMove={(by) => move(block.id, at + by)}
              onChange={(next) => onBlocks(blocks.map((each) => (each.id === block.id ? next : each)))}
              onRemove={() => onBlocks(blocks.filter((each) => each.id !== block.id))}
              onSettle={onSettle}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

const countOf = (block: Block): number | null =>
  'items' in block
    ? block.items.length
    : block.kind === 'video'
      ? block.videos.length
      : block.kind === 'action bar'
        ? block.buttons.length
        : null;

function BlockRow({
  block,
  empty,
  open,
  clash,
  lines,
  blocks,
  onOpen,
  onMove,
  onChange,
  onRemove,
  onSettle,
}: {
  block: Block;
  empty: boolean;
  open: boolean;
  clash: Edit | null;
  lines: ComposedLine[];
  blocks: Block[];
  onOpen: () => void;
  onMove: (by: number) => void;
  onChange: (block: Block) => void;
  onRemove: () => void;
  onSettle: (clash: Edit, mine: boolean) => void;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: block.id,
  });
  const kind = BLOCKS_WORDS.kinds[block.kind];
  const title = block.title || kind;
  const count = countOf(block);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={block.on ? '' : 'off'}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        onMove(event.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      <div className="block-row">
        <button
          type="button"
          className="grip"
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          aria-label={BLOCKS_WORDS.move(title)}
        >
          <Grip />
        </button>
        <input
          type="checkbox"
          checked={block.on}
          aria-label={BLOCKS_WORDS.on(title)}
          onChange={({ target }) => onChange({ ...block, on: target.checked })}
        />
        <button type="button" className="block-name" aria-expanded={open} onClick={onOpen}>
          <b>{kind}</b> {block.title && <span>{block.title}</span>}
          <small>
            {!block.on
              ? BLOCKS_WORDS.off
              : empty
                ? BLOCKS_WORDS.empty[block.kind]
                : count
                  ? BLOCKS_WORDS.count(count)
                  : ''}
          </small>
          <Chevron up={open} />
        </button>
      </div>
      {clash && (
        <span className="clash" role="alert">
          {CARD.clashBlock(title)}
          <button type="button" className="plain" onClick={() => onSettle(clash, false)}>
            {CARD.keepTheirs}
          </button>
          <button type="button" className="plain" onClick={() => onSettle(clash, true)}>
            {CARD.putMine}
          </button>
        </span>
      )}
      {open && <BlockEditor block={block} lines={lines} blocks={blocks} onChange={onChange} onRemove={onRemove} />}
    </li>
  );
}
