import type { Leaving } from '@/core/card';
import type { PassFields } from '@/core/pass';
import type { Proof } from '@/core/proof';
import type { MailAllowed } from './mail';

/** A pass as its screen shows it; the proof is that of its file. */
export type ShownPass = {
  id: string;
  cardId: string;
  placement: string;
  /** Where its code leads. */
  link: string;
  /** Where a phone fetches it: whoever has this can. */
  address: string;
  /** That address as a code, SVG. */
  code: string;
  fields: PassFields;
  colours: { band: string; onBand: string };
  /** Whether the draft says something else on it by now. */
  unpublished: boolean;
  leaving: Leaving[];
  /** Signed by the stand-in authority, which no phone trusts. */
  standIn: boolean;
  bytes: number;
  mail: MailAllowed;
  proof: Proof;
};
