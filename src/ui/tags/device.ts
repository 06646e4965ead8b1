import { seenByWeb, type ReadByWeb, type SeenRecord, type WebRecord } from '@/core/ndef';

/** The bytes of a tag from base64. */
export const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));

/** Why a tag was not written or read. */
export type TagFault = 'off' | 'refused' | 'none' | 'io' | 'unreadable' | 'stopped' | 'unknown';

/** A phone that writes tags: each act waits until a tag is held to it, or until it is stopped. */
export type TagDevice = {
  write: (records: WebRecord[], signal: AbortSignal) => Promise<void>;
  read: (signal: AbortSignal) => Promise<SeenRecord[]>;
  lock: (signal: AbortSignal) => Promise<void>;
};

/** What of W3C Web NFC we use (https://w3c.github.io/web-nfc/, NDEFReader). */
export type WebReader = EventTarget & {
  write: (message: { records: WebRecord[] }, options: { overwrite: boolean; signal: AbortSignal }) => Promise<void>;
  scan: (options: { signal: AbortSignal }) => Promise<void>;
  makeReadOnly?: (options: { signal: AbortSignal }) => Promise<void>;
};
type ReadingEvent = Event & { message: { records: readonly ReadByWeb[] } };

/** The browser's own reader; null where it has none. */
export function webReader(): (() => WebReader) | null {
  const made = (globalThis as { NDEFReader?: new () => WebReader }).NDEFReader;
  return made ? () => new made() : null;
}

/** What an error of Web NFC means for whoever holds the tag (W3C Web NFC, 9.5, 10.3; from memory). */
export function faultOf(error: unknown): TagFault {
  switch ((error as { name?: string } | null)?.name) {
    case 'AbortError':
      return 'stopped';
    case 'NotAllowedError':
    case 'SecurityError':
      return 'refused';
    case 'NotReadableError':
      return 'off';
    case 'NotSupportedError':
      return 'none';
    case 'NetworkError':
    case 'InvalidStateError':
      return 'io';
    case 'DataError':
      return 'unreadable';
    default:
      return 'unknown';
  }
}

/** A device over the browser's reader, or one that stands in for it. */
export const deviceOver = (make: () => WebReader): TagDevice => ({
  write: (records, signal) => make().write({ records }, { overwrite: true, signal }),
  read: (signal) =>
    new Promise((resolve, reject) => {
      const reader = make();
      // Once it was read nobody listens any more.
      const over = new AbortController();
      const stop = () => over.abort();
      signal.addEventListener('abort', stop);
      const settle = (act: () => void) => {
        signal.removeEventListener('abort', stop);
        over.abort();
        act();
      };
      reader.addEventListener('reading', (event) =>
        settle(() => resolve([...(event as ReadingEvent).message.records].map(seenByWeb))),
      );
      reader.addEventListener('readingerror', () => settle(() => reject(new DOMException('not read', 'DataError'))));
      signal.addEventListener('abort', () => reject(new DOMException('stopped', 'AbortError')), { once: true });
      reader.scan({ signal: over.signal }).catch((error: unknown) => settle(() => reject(error as Error)));
    }),
  lock: async (signal) => {
    const reader = make();
    if (!reader.makeReadOnly) throw new DOMException('cannot lock', 'NotSupportedError');
    await reader.makeReadOnly({ signal });
  },
});
