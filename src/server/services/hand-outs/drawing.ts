import { createHash } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { houseCodeLogo, houseCodeStyle, type HouseStyle } from '@/core/house';
import {
  DRAWING,
  liveCodeText,
  PLAIN_STYLE,
  symbolFor,
  symbolInStyle,
  type CodeStyle,
  type Outlines,
  type Symbol,
} from '@/core/qr';
import { readByBoth, type CodeReport } from '@/core/proof/scan';
import type { ShownProof } from '@/core/shown';
import { compute } from '@/server/compute';
import {
  codesOfCards,
  keepStyleProof,
  setDrawn,
  styleProof,
  type DrawnCode,
  type HandOutRow,
} from '@/server/db/hand-outs/hand-outs';
import { inTenant, type Tx } from '@/server/db/pool';
import { linkOf } from './own';

/** The text that a code holds. */
export function textOf(row: Pick<HandOutRow, 'frozen' | 'content' | 'organisation_id' | 'code'>): string {
  if (row.frozen !== null) return Buffer.from(row.frozen, 'base64').toString('utf8');
  return liveCodeText(row.content?.what === 'save' ? `${linkOf(row)}.vcf` : linkOf(row));
}

const houseStyle = (house: HouseStyle | null): CodeStyle => (house ? houseCodeStyle(house.codes) : PLAIN_STYLE);

/** How the next code of a card looks: as the newest that passes its proof does, else as the house draws its codes, with the `logo` that still has to be fetched. */
export async function firstStyle(
  tx: Tx,
  cardId: string,
  house: HouseStyle | null,
): Promise<{ style: CodeStyle; logo: ReturnType<typeof houseCodeLogo> }> {
  const codes = await codesOfCards(tx, [cardId]);
  const last = codes.find(({ drawn, proof }) => drawn !== null && proof?.faults.length === 0)?.drawn;
  if (last) return { style: { ...last.style, words: '' }, logo: null };
  return { style: houseStyle(house), logo: house && houseCodeLogo(house) };
}

/** The symbol of a drawn code, as it was. */
export const symbolOf = (text: string, { version, level, mask }: DrawnCode): Symbol =>
  symbolFor(text, { version, level, mask });

const resolved = (text: string, style: CodeStyle, words: Outlines | null): DrawnCode => {
  const { version, level, mask } = symbolInStyle(text, style);
  return { style, words, version, level, mask, drawing: DRAWING };
};

/** Words as outlines, null of none. */
export const outlinesOf = async (words: string, of: string): Promise<Outlines | null> =>
  words.trim() === '' ? null : compute('code words', { text: words.trim() }, { of, key: `code words ${words.trim()}` });

/** How a code is drawn; one that was never styled is drawn in the house's colours, and keeps that where it is frozen. */
export async function drawnOf(tx: Tx, row: HandOutRow, house: HouseStyle | null): Promise<DrawnCode> {
  if (row.drawn) return row.drawn;
  const drawn = resolved(textOf(row), houseStyle(house), null);
  if (row.frozen !== null) await setDrawn(tx, row.id, drawn, null);
  return drawn;
}

/** What of a style tells it apart: words stand outside the code, and along its edges make it smaller. */
const hashOf = ({ words, around, ...style }: CodeStyle): string =>
  createHash('sha256')
    .update(JSON.stringify(around && words.trim() ? { ...style, around } : style))
    .digest('hex');

const shownProofOf = ({ proof, faults, measures, fewestPixels, smallestMm }: CodeReport): ShownProof => ({
  ...readByBoth(proof),
  ...{ faults, contrast: measures.contrast, fewestPixels, smallestMm },
});

/**
 * Draws a code in a style and proves it. A style that passed at a version and level was tried many times there: of a further code of its kind it is enough
 * that it is read back. Errors: CONTENT_TOO_LARGE, TOO_BUSY, TOO_LABORIOUS.
 */
export async function styled(
  row: Pick<HandOutRow, 'organisation_id' | 'frozen' | 'content' | 'code'>,
  style: CodeStyle,
): Promise<{ drawn: DrawnCode; proof: ShownProof }> {
  const text = textOf(row);
  const of = row.organisation_id;
  const drawn = resolved(text, style, await outlinesOf(style.words, of));
  const { version, level, mask } = drawn;
  const kind = { hash: hashOf(style), version, level };
  const known = await inTenant(of, (tx) => styleProof(tx, kind));
  if (known && known.faults.length === 0) {
    const { read } = await compute('code read back', { text, style, version, level, mask }, { of });
    if (read) return { drawn, proof: known };
  }
  const { report } = await compute(
    'code proof',
    { text, style, remedy: false },
    { of, key: `code ${kind.hash} ${text}` },
  );
  const proof = shownProofOf(report);
  await inTenant(of, (tx) => keepStyleProof(tx, of, kind, proof));
  return { drawn, proof };
}

/** A style that a lock keeps from being changed. Error: LOCKED. */
export function refuseLocked(house: HouseStyle | null, mayOverride: boolean): void {
  const reason = house?.locks.codes;
  if (reason !== undefined && !mayOverride) throw new Refusal({ code: 'LOCKED', part: 'codes', reason });
}
