import type { Readable } from 'node:stream';
import type { Language } from '@/core/language';
import type { Variant } from '@/core/signature';

/** A recipient's request as plain data, whoever listens. Header names are lower case; `address` is the client's. */
export type RecipientRequest = {
  method: string;
  path: string;
  query: URLSearchParams;
  header: (name: string) => string;
  address: string;
  /** The body of a POST of at most {@link longestBody} bytes; null where it was longer. */
  body: Buffer | string | null;
};

/** A body as bytes; none where it was too long. */
export const bodyOf = ({ body }: RecipientRequest): Buffer => Buffer.from(body ?? '');

export type RecipientAnswer = { status: number; headers: Record<string, string>; body: Buffer | string | Readable };

/** What a public path asks for: the card by address or code, and which of its outputs. */
export type Asked = {
  key: { address: string } | { code: string } | { preview: string };
  what:
    | { output: 'page' }
    | { output: 'file' }
    | { output: 'tap' }
    | { output: 'reply' }
    | { output: 'reply script'; language: Language }
    | { output: 'photo' | 'logo' | 'block file'; hash: string }
    | { output: 'light photo'; hash: string; broad: boolean }
    | { output: 'light file'; hash: string }
    | { output: 'signed logo'; hash: string }
    | { output: 'drawn'; face: 'link' | 'picture'; language: Language; format: 'jpeg' | 'webp'; key: string }
    | { output: 'map'; line: string }
    | { output: 'code' }
    | { output: 'signature'; variant: Variant; form: 'html' | 'txt' }
    | { output: 'strip'; id: string }
    | { output: 'icon'; key: string }
    | { output: 'manifest' | 'worker' };
  /** Where this card's other outputs are: `/c/NAME`, `/h/CODE` or `/p/PREVIEW`. */
  base: string;
};
