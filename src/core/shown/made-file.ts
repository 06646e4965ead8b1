import type { Finding } from '@/core/findings';

/** The file that a job has made; `bytes` is null where nothing could be made. Whom it left out and why: null of somebody without a published card. */
export type MadeFile = {
  name: string;
  bytes: number | null;
  leftOut: { name: string | null; finding: Finding | null }[];
};
