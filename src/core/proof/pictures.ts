import { linesOn, pictureOn, type Composition } from '@/core/card';
import { proofOf, type Proof } from './proof';

/**
 * The proof of pictures on a channel: what is ticked for it left, and no other picture of the card's lines did. `output` is the page's
 * HTML, which names pictures by hash, or the contact file unfolded, which holds them in base64.
 */
export function provePictures(
  { shown, pictures }: { shown: Composition; pictures: Record<string, { page: string; file: string }> },
  channel: 'page' | 'file',
  output: string,
): Proof {
  const wanted = (['photo', 'logo'] as const).flatMap((kind) => pictureOn(shown, kind, channel) ?? []);
  const ticked = new Set(
    linesOn(shown, channel).flatMap(({ detail }) => ('picture' in detail ? [pictures[detail.picture]?.[channel]] : [])),
  );
  const missing = wanted.filter((hash) => pictures[hash] && !output.includes(pictures[hash][channel]));
  const others = Object.values(pictures).filter((each) => !ticked.has(each[channel]) && output.includes(each[channel]));
  const passed = missing.length === 0 && others.length === 0;
  return proofOf([
    {
      name: 'pictures',
      passed,
      finding: { code: 'PICTURES', ticked: wanted.length, unticked: others.length, missing: missing.length },
    },
  ]);
}
