import { loadWords } from '@/core/messages';
import { proveSignature } from '@/core/proof/signature';
import { writeSignature } from '@/core/signature';

type Order = {
  composition: Parameters<typeof writeSignature>[0];
  layout: Parameters<typeof writeSignature>[1]['layout'];
  parts: Parameters<typeof writeSignature>[1]['parts'];
  context: Parameters<typeof writeSignature>[2];
  held: Omit<Parameters<typeof proveSignature>[1], 'composition' | 'link'> & { link: string };
};

/** Writes a signature and reads it back. */
export async function makeSignature({ composition, layout, parts, context, held }: Order) {
  await loadWords(context.language);
  const signature = writeSignature(composition, { layout, parts }, context);
  return { signature, proof: proveSignature(signature, { ...held, composition }) };
}
