import type { Channel } from '@/core/card';
import { loadWords } from '@/core/messages';
import { proveSignature } from '@/core/proof/signature';
import { writeSignature } from '@/core/signature';

type Order = {
  composition: Parameters<typeof writeSignature>[0];
  layout: Parameters<typeof writeSignature>[1]['layout'];
  parts: Parameters<typeof writeSignature>[1]['parts'];
  channel?: Channel;
  context: Parameters<typeof writeSignature>[2];
  held: Omit<Parameters<typeof proveSignature>[1], 'composition' | 'link'> & { link: string | null };
};

/** Writes a signature and reads it back. */
export async function makeSignature({ composition, layout, parts, channel, context, held }: Order) {
  await loadWords(context.language);
  const of = channel ? { channel } : {};
  const signature = writeSignature(composition, { layout, parts, ...of }, context);
  return { signature, proof: proveSignature(signature, { ...held, ...of, composition }) };
}
