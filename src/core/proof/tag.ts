import { squeeze } from '@/core/card';
import { PROOF } from '@/core/words';
import { proofOf, type Proof } from './proof';

/** Records of a tag's memory, read apart from the writer: type and payload of each. Null when it is no message. */
function recordsIn(memory: Uint8Array): { type: string; payload: Uint8Array }[] | null {
  if (memory[0] !== 0x03) return null;
  const long = memory[1] === 0xff;
  const length = long ? memory[2]! * 256 + memory[3]! : memory[1]!;
  const start = long ? 4 : 2;
  if (memory[start + length] !== 0xfe) return null;
  const found: { type: string; payload: Uint8Array }[] = [];
  for (let at = start; at < start + length;) {
    const head = memory[at]!;
    const typeLength = memory[at + 1]!;
    const short = (head & 0x10) !== 0;
    const size = short
      ? memory[at + 2]!
      : ((memory[at + 2]! * 256 + memory[at + 3]!) * 256 + memory[at + 4]!) * 256 + memory[at + 5]!;
    const from = at + (short ? 3 : 6);
    const payload = memory.subarray(from + typeLength, from + typeLength + size);
    if (payload.length !== size) return null;
    found.push({ type: new TextDecoder().decode(memory.subarray(from, from + typeLength)), payload });
    at = from + typeLength + size;
    if ((head & 0x40) !== 0) return at === start + length ? found : null;
  }
  return null;
}

/** The proof of a tag's bytes: the link comes first, the contact says `contact` or nothing, nothing of `withheld` is in it. */
export function proveTag(memory: Uint8Array, contact: string | null, withheld: string[], room: number): Proof {
  const records = recordsIn(memory);
  const texts = (records ?? []).map(({ payload }) => new TextDecoder().decode(payload));
  const haystack = squeeze(texts.join('\n'));
  const leaked = withheld.filter((value) => haystack.includes(squeeze(value)));
  const whole = records?.length === (contact === null ? 1 : 2) && (contact === null || texts[1] === contact);
  return proofOf([
    { name: 'read back', passed: whole, finding: whole ? PROOF.tagRead(records.length) : PROOF.tagUnreadable },
    { name: 'link first', passed: records?.[0]?.type === 'U', finding: PROOF.linkFirst(records?.[0]?.type === 'U') },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: leaked.length === 0 ? PROOF.noneOf(withheld.length) : PROOF.stillThere(leaked.length),
    },
    { name: 'room', passed: memory.length <= room, finding: PROOF.tagRoom(memory.length, room) },
  ]);
}
