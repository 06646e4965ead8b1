import { budgetOf } from './budget';
import { coveredBy } from './draw';
import { symbolFor, type Symbol } from './symbol';
import type { CodeStyle } from './style';
import type { Level } from './tables';

/** What a mark may take of what the standard guarantees to be mended: half is left for dirt and wear (the project's own choice). */
export const MARK_SHARE = 0.5;

/**
 * The symbol for a text in a style: of the levels from M the lowest at which the mark spends no more than its share of any block, and H where it does at
 * none. Error: `TooLong` of {@link symbolFor}.
 */
export function symbolInStyle(text: string, style: CodeStyle): Symbol {
  let symbol = symbolFor(text);
  if (!style.mark) return symbol;
  for (const atLeast of ['M', 'Q', 'H'] as const satisfies Level[]) {
    symbol = symbolFor(text, { atLeast });
    const { tightest } = budgetOf(symbol, coveredBy(symbol, style));
    if (tightest.touched <= tightest.guaranteed * MARK_SHARE) break;
  }
  return symbol;
}
