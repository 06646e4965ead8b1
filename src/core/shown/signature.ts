import type { Leaving } from '@/core/card';
import type { Proof } from '@/core/proof';
import type { Signature, SignatureOptions, Variant } from '@/core/signature';

/** A signature as its screen shows it. */
export type ShownSignature = {
  id: string;
  cardId: string;
  /** Where the living card is. */
  link: string;
  options: SignatureOptions;
  /** Which pictures are ticked for it. */
  has: { photo: boolean; logo: boolean };
  /** Why its layout is the organisation's; null where its holder chooses. */
  locked: string | null;
  variants: Record<Variant, { signature: Signature; proof: Proof }>;
  /** Addresses of its pictures, and where the studio has the same. */
  preview: [address: string, own: string][];
  /** What is private and in it: it goes to everybody. */
  leaving: Leaving[];
  /** Whether the member's own address is confirmed, and whether mail leaves at all. */
  confirmed: boolean;
  mail: boolean;
};
