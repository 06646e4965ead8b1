import type { Readable } from 'node:stream';

/** Where pictures and files lie: by the SHA-256 of their bytes (64 hexadecimal digits), never changed. */
export type FileStore = {
  /** Keeps bytes, in parts that follow on one another, and answers with their hash once they are safely written. Errors: STORE_FULL, STORE_UNAVAILABLE. */
  put: (...parts: Uint8Array[]) => Promise<string>;
  /** The bytes of a hash, or null when there are none. Error: STORE_UNAVAILABLE. */
  get: (hash: string) => Promise<Buffer | null>;
  /** How many bytes lie under a hash, or null where there are none. Error: STORE_UNAVAILABLE. */
  size: (hash: string) => Promise<number | null>;
  /** The bytes from `first` to `last`, both counted in, as they come; null when there is no such file. Error: STORE_UNAVAILABLE. */
  part: (hash: string, first: number, last: number) => Promise<Readable | null>;
  /** Hashes of all files that were put for the last time before an instant (milliseconds). Error: STORE_UNAVAILABLE. */
  olderThan: (instant: number) => AsyncIterable<string>;
  /** Forgets a file if it is still as old as that; answers whether it was. Whoever asks knows that nothing names it. Error: STORE_UNAVAILABLE. */
  forgetOlder: (hash: string, instant: number) => Promise<boolean>;
  /** Forgets a file. Whoever asks knows that nothing else names it. Error: STORE_UNAVAILABLE. */
  forget: (hash: string) => Promise<void>;
};

/** So many bytes are hashed, or written, before others have their turn. */
const AT_ONCE = 1_000_000;

/** Bytes that follow on one another, in pieces that hold nobody up. */
export function* piecesOf(parts: Uint8Array[]): Generator<Uint8Array> {
  for (const part of parts) for (let at = 0; at < part.length; at += AT_ONCE) yield part.subarray(at, at + AT_ONCE);
}

export const isHash = (hash: string): boolean => /^[0-9a-f]{64}$/.test(hash);
