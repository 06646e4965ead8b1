import { CARD } from '@/core/words';
import type { Composition } from '@/core/card';
import { TAG_ROOM } from '@/core/ndef';
import type { SpecimenOf } from '@/core/specimen';
import { specimenTag } from '@/core/specimen/carried';

const PER_ROW = 12;

const hexOf = (row: Uint8Array) => [...row].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
const textOf = (row: Uint8Array) =>
  [...row].map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join('');

/** The bytes as they lie in a tag, in hexadecimal and as text, and the usual tags that they fit. */
export function TagView({ composition, of }: { composition: Composition; of: SpecimenOf }) {
  const { memory } = specimenTag(composition, of);
  const fits = TAG_ROOM.filter((room) => memory.length <= room);
  const not = TAG_ROOM.filter((room) => memory.length > room);
  const rows = Array.from({ length: Math.ceil(memory.length / PER_ROW) }, (_, at) =>
    memory.slice(at * PER_ROW, (at + 1) * PER_ROW),
  );
  return (
    <div className="tag-view">
      <p>{CARD.tagFits(memory.length, fits, not)}</p>
      <pre tabIndex={0} aria-label={CARD.source}>
        {rows.map((row) => `${hexOf(row).padEnd(PER_ROW * 3)} ${textOf(row)}`).join('\n')}
      </pre>
    </div>
  );
}
