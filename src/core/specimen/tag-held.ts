import { decodeMessage, messageInMemory, seenRecord, type SeenRecord } from '@/core/ndef';
import type { TagHeld } from '@/core/proof/tag';

/** The records of a tag's memory as people are told of them; none where there is no message. */
export function recordsIn(memory: Uint8Array): SeenRecord[] {
  const message = messageInMemory(memory);
  const records = message.ok ? decodeMessage(message.value) : message;
  return records.ok ? records.value.map(seenRecord) : [];
}

/**
 * What the bytes of a tag are held against: the address that it should open, or with null the one that it has of its own, and what it says besides, since its card may
 * say something else by now.
 */
export function heldInTag(memory: Uint8Array, link: string | null): TagHeld {
  const seen = recordsIn(memory);
  const [first] = seen;
  return {
    link: link ?? (first?.kind === 'link' ? first.uri : ''),
    contact: seen.find((each) => each.kind === 'contact')?.text ?? null,
    words: seen.find((each) => each.kind === 'text') ?? null,
  };
}
