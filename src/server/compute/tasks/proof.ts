import { gzipSync } from 'node:zlib';
import { firstFailing, type FailedCheck, type Outputs } from '@/core/proof';

/** A card with all that its outputs are made from, as plain data. */
export type ProofOrder = Omit<Outputs, 'compressed'>;

/** Makes every output of a card and reads it back; answers what keeps it from going out, or null. */
export const prove = (order: ProofOrder): FailedCheck | null =>
  firstFailing({ ...order, compressed: (html) => gzipSync(html, { level: 6 }).length });
