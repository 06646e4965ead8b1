import { brotliCompress, constants } from 'node:zlib';
import type { Output } from './outputs';

/** Of eleven: what comes above takes ten times as long for a hundredth less. */
const QUALITY = 9;
/** So many outputs wait at most; whoever asks beyond has gzip. */
const MOST_WAITING = 50;

const waiting = new Set<Output>();
let working = false;

/**
 * The brotli form of an output (RFC 7932), where it is there and shorter than gzip. It is made after the first answer to somebody who
 * takes it, one output at a time and on none of the threads that answer; until then there is gzip.
 */
export function brotliOf(output: Output): Buffer | null {
  if (output.brotli !== undefined) return output.brotli;
  if (output.gzip && waiting.size < MOST_WAITING) {
    waiting.add(output);
    if (!working) work();
  }
  return null;
}

function work(): void {
  const [output] = waiting;
  working = output !== undefined;
  if (!output) return;
  const { BROTLI_PARAM_QUALITY, BROTLI_PARAM_SIZE_HINT } = constants;
  const params = { [BROTLI_PARAM_QUALITY]: QUALITY, [BROTLI_PARAM_SIZE_HINT]: output.body.length };
  brotliCompress(output.body, { params }, (error, made) => {
    waiting.delete(output);
    output.brotli = error || made.length >= output.gzip!.length ? null : made;
    work();
  });
}
