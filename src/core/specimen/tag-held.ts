import type { TagContent } from '@/core/code';
import { decodeMessage, messageInMemory, seenRecord, type SeenRecord } from '@/core/ndef';
import type { TagHeld } from '@/core/proof/tag';

/** The records of a tag's memory as people are told of them; none where there is no message. */
export function recordsIn(memory: Uint8Array): SeenRecord[] {
  const message = messageInMemory(memory);
  const records = message.ok ? decodeMessage(message.value) : message;
  return records.ok ? records.value.map(seenRecord) : [];
}

/** A contact from its first line to its last (RFC 2426, 2.4.2). */
const WHOLE = /^BEGIN:VCARD\r\n[^]*\r\nEND:VCARD(\r\n)?$/;
/** How addresses begin that a line of a card opens (RFC 3966, 6068, 5724). */
const BEGINS: Partial<Record<TagContent['what'], string>> = { call: 'tel:', write: 'mailto:', text: 'sms:' };

/**
 * What the bytes of a tag are held against: what it is to do with `link`, where its code leads, and what it says besides as it lies there, whole, since its card may say
 * something else by now.
 */
export function heldInTag(memory: Uint8Array, content: TagContent, link: string): TagHeld {
  const seen = recordsIn(memory);
  const contact = seen.find((each) => each.kind === 'contact')?.text ?? '';
  switch (content.what) {
    case 'card':
      return { link, contact: null };
    case 'save':
      return { link: `${link}.vcf`, contact: null };
    case 'contact':
      return { link, contact: WHOLE.test(contact) ? contact : '' };
    case 'words':
      return { link, contact: null, words: seen.find((each) => each.kind === 'text') ?? { text: '', language: '' } };
    default: {
      const [first] = seen;
      const uri = first?.kind === 'link' ? first.uri : '';
      return { link: uri.startsWith(BEGINS[content.what] ?? '') ? uri : '', contact: null };
    }
  }
}
