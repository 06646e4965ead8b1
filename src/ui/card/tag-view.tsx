import { CARD } from '@/core/messages';
import { TAG_ROOM } from '@/core/ndef';

const PER_ROW = 12;

/** The bytes as they lie in a tag, in hexadecimal and as text, and the usual tags that they fit. */
export function TagView({ memory }: { memory: Uint8Array }) {
  const rows = Array.from({ length: Math.ceil(memory.length / PER_ROW) }, (_, at) =>
    memory.slice(at * PER_ROW, (at + 1) * PER_ROW),
  );
  const hex = (row: Uint8Array) => [...row].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
  const text = (row: Uint8Array) =>
    [...row].map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join('');
  return (
    <div className="tag-view">
      <p>{CARD.tagFits(memory.length, TAG_ROOM.map((room) => CARD.tagRoom(room, memory.length <= room)).join(', '))}</p>
      <pre tabIndex={0} aria-label={CARD.source}>
        {rows.map((row) => `${hex(row).padEnd(PER_ROW * 3)} ${text(row)}`).join('\n')}
      </pre>
    </div>
  );
}
