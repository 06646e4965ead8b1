'use client';
import type { BlockKind } from '@/core/card';
import { BLOCK_FIELDS, BLOCKS_WORDS } from '@/core/words';

/** The kinds of blocks that can be added, each with what it is for. */
export function KindChooser({
  kinds,
  onKind,
  onClose,
}: {
  kinds: BlockKind[];
  onKind: (kind: BlockKind) => void;
  onClose: () => void;
}) {
  return (
    <ul
      className="block-kinds"
      aria-label={BLOCKS_WORDS.add}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      {kinds.map((kind) => (
        <li key={kind}>
          <button type="button" onClick={() => onKind(kind)}>
            <b>{BLOCKS_WORDS.kinds[kind]}</b>
            <small>{BLOCK_FIELDS.says[kind]}</small>
          </button>
        </li>
      ))}
    </ul>
  );
}
