import type { Language } from '@/core/language';
import type { Plates } from '@/core/look';
import type { LegalLinks } from './legal';
import type { FirstScreen } from './preview';

/** Where a reply form is sent, where its script lies, and how many months what is told is kept after the last contact. */
export type ReplyTarget = { action: string | null; script: string | null; months: number };

/** Where a page's links lead. `null` means that there is nothing to lead to, as in a specimen of a draft. */
export type PageContext = {
  contactFile: string | null;
  /** Where taps are counted. */
  taps: string | null;
  photo: string | null;
  /** The same photo as AVIF or WebP, for browsers that take it. */
  lightPhoto?: { src: string; type: string } | null;
  logo: string | null;
  /** Another logo for dark grounds, where the page follows the night. */
  nightLogo?: string | null;
  /** What stands behind the logo where it would vanish. */
  plates?: Plates;
  /** Absolute address for link previews elsewhere. */
  canonical: string | null;
  /** The language of our own words on the page, and of the card's where it has some in it. */
  language: Language;
  /** Where the card can be had in each of its languages; empty where there is nothing to choose. */
  languages?: { language: Language; href: string }[];
  /** Where a file of a block lies, or null where it is gone. */
  fileAt?: (hash: string, what: 'picture' | 'film') => string | null;
  lightFileAt?: (hash: string) => string | null;
  /** Where the recipient's own map is opened at the address of a line. */
  mapAt?: (line: string) => string | null;
  /** Where the code of the card's short address lies, as a picture. */
  code?: string | null;
  /** Where the card as one picture lies, drawn by its look, and the picture of its links; null where none is to be had. */
  drawn?: { picture: (format: 'jpg' | 'webp') => string; link: string } | null;
  /** Web app manifest, icon, and the worker that keeps a copy for when there is no network. */
  app?: { manifest: string; icon: string; worker: string } | null;
  /** The instant of the answer (milliseconds, UTC): whether an office is open. */
  now?: number;
  /** Where the card was handed out, as its hand-out is called. */
  placement?: string | null;
  /** What links that lead away carry for their holder's own web statistics, as it stands in a query. */
  parameters?: string;
  /** What its organisation links to at the foot of the page. */
  legal?: LegalLinks;
  /** Where replies go, as forms are sent; null where none can be, as in a draft. Absent where there is nothing of the kind. */
  reply?: ReplyTarget | null;
  /** What of the first screen comes with the page itself, so that it is there after one round trip. */
  first?: FirstScreen | null;
};
