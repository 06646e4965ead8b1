import type { Role } from '@/core/access';
import type { Block, CardState, Composition, Leaving, Line, Opens, Words } from '@/core/card';
import type { Content, Near } from '@/core/code';
import type { Problem } from '@/core/errors';
import type { Finding } from '@/core/findings';
import type { Language } from '@/core/language';
import type { Look } from '@/core/look';
import type { Fault, FoundReport, Repair } from '@/core/proof/scan';
import type { CodeStyle, Level, Outlines } from '@/core/qr';
import type { PersonRecord } from '@/core/record';
import type { Figures } from '@/core/response';
import type { Change } from '@/core/revisions';

export type { ListedContact, ShownContact, ShownReferral, Way } from './contacts';
export type { MailAllowed, ShownMail } from './mail';
export type { ShownElsewhere, ShownProfile } from './profile';
export type { ShownSpares } from './spares';
export type { SharedCard } from './share';
export type { ShownBackdrop } from './backdrop';
export type { CopiesPage, CopyChannel, CopyValue, GoneContacts, OutThere, ShownCopy } from './copies';
export type { ShownInvitation } from './invitation';
export type { Mine } from './mine';
export type { Changed, ChangePlan, LeftEntry } from './change';
export type { MadeFile } from './made-file';
export {
  MENDS,
  PUBLIC_CHANNELS,
  type ExposedPerson,
  type LeftFor,
  type MendAct,
  type Mended,
  type MendEntry,
  type MendPlan,
  type PrivacyMap,
  type PublicAbout,
  type PublicChannel,
  type ShownPublic,
} from './privacy';
export type { ShownPass } from './pass';
export type { ShownArtwork, ShownDesignerLink, ShownPiece, ShownRun } from './print';
export type { ShownSignature } from './signature';
export type { ShownTag } from './tag';
export type { RowTag, TagRows } from './tag-row';

import type { ShownInvitation } from './invitation';

// What services tell and screens show: plain objects that go over the line as JSON. Instants are ISO 8601, UTC.

/** What changes on a card's table when somebody else saves: the draft, the record below it, and their versions. */
export type CardNow = {
  version: number;
  recordVersion: number;
  state: CardState;
  lines: Line[];
  audience: string;
  language: Language | null;
  blocks: Block[];
  opens: Opens;
  words: Words;
  look: Look;
  record: PersonRecord;
};

/** A published card that no longer says what its record and lines say, with what publishing it would change. */
export type CardBehind = {
  id: string;
  audience: string;
  version: number;
  revision: number;
  changes: Change[];
  /** What of it is private, first of all to be seen. */
  leaving: Leaving[];
  problem: Problem | null;
};

/** Cards that fail the same check of an output, the first of them each with what was found. */
export type FailingCards = {
  channel: 'page' | 'contact file';
  check: string;
  count: number;
  cards: { cardId: string; person: string; audience: string; finding: Finding }[];
};

/** What saving a house style would do: cards that are out, those that would show something else, and proofs that would change. */
export type HousePreview = {
  cards: number;
  changed: number;
  proved: number;
  /** Cards that would fail their proof and pass it today; and the number of those the other way round. */
  fails: FailingCards[];
  mends: number;
  /** What saving it would be refused for. */
  refused: Problem | null;
};

/** What a hand-out is. */
export type HandOutChannel =
  'code' | 'tag' | 'signature' | 'message' | 'share' | 'profile' | 'print' | 'backdrop' | 'pass';

/** A hand-out as the list of a card's has it. */
export type ShownHandOut = {
  id: string;
  code: string;
  placement: string;
  channel: HandOutChannel;
  frozen: boolean;
  /** The revision that a frozen one carries. */
  revision: number | null;
  occasion: { id: string; name: string } | null;
  /** Whether it is out by itself, and what is said while it is not. */
  state: 'out' | 'resting' | 'retired';
  notice: string;
  made: string;
  /** The cards that it opened before, the latest first, each until an instant; null where a card is erased or another’s. */
  earlier: { card: { name: string; audience: string } | null; until: string }[];
  /** What a code does, and how many of its proof’s pictures were read; null where that is not known. */
  what: Content['what'] | null;
  proof: { read: number; of: number; passed: boolean } | null;
};

/** What the quick proof found of a code, as it is kept: pictures that both main readers read, sizes in millimetres. */
export type ShownProof = {
  read: number;
  of: number;
  faults: Fault[];
  contrast: number;
  fewestPixels: number | null;
  smallestMm: number | null;
};

/** A hand-out's code with its style and what is known of it. Lengths in millimetres at its usual width; `near` tells of a link that not everybody reaches. */
export type ShownCode = {
  id: string;
  code: string;
  placement: string;
  occasion: string | null;
  cardId: string;
  text: string;
  link: string;
  live: boolean;
  near: Near | null;
  content: Content;
  style: CodeStyle;
  words: Outlines | null;
  version: number;
  level: Level;
  mask: number;
  modules: number;
  widthMm: number;
  moduleMm: number;
  proof: ShownProof | null;
  testedAt: string | null;
  /** When a file of a frozen one was first taken out, in ISO 8601: it is not drawn otherwise since. */
  takenAt: string | null;
  /** A test waits for its scan. */
  waits: boolean;
  /** Why the house style keeps its codes as they are; null where it does not. */
  locked: string | null;
  /** How the house draws its codes, and the logo in their middle by its file; null without a house style. */
  house: { style: CodeStyle; logo: { hash: string; percent: number } | null } | null;
  mayStyle: boolean;
};

/** What was found in a printed design; `ours` is the hand-out that a code is. Corners are shares of the page's sides. */
export type ShownDesign = {
  pages: number;
  looked: number;
  width: number;
  height: number;
  codes: {
    report: Omit<FoundReport, 'found' | 'modules'>;
    page: number;
    corners: [number, number][];
    widthMm: number | null;
    repair: Repair | null;
    ours: {
      id: string;
      cardId: string;
      placement: string;
      live: boolean;
      state: CardState;
      same: boolean;
      /** Since when a frozen copy is no longer what the card says. */
      changedAt: string | null;
      /** What of it that is, by its label. */
      gone: string[];
    } | null;
  }[];
};

/** What happens to a card by itself. */
export type ShownPlan = {
  publishAt: string | null;
  address: string;
  note: string;
  endsAt: string | null;
  endsWith: 'resting' | 'retired' | null;
  problem: Problem | null;
  /** What goes out at its time. */
  composition: Composition | null;
};

/** A member of an organisation, as those see who manage them. */
export type ShownMember = {
  id: string;
  name: string;
  email: string;
  role: Role;
  ownRecord: string | null;
  ownRecordName: string | null;
  mustChangePassword: boolean;
  hasLeft: boolean;
  secondFactor: boolean;
  /** An invitation that they have not taken yet. */
  invitation: ShownInvitation | null;
};

/** A card as the list of people has it. */
export type ListedCard = {
  id: string;
  audience: string;
  state: CardState;
  revision: number | null;
  changed: string;
  /** What keeps it from passing its proof under the house style that was saved since; null where nothing does. */
  failing: Finding | null;
  /** Copies of it that are out of date and not dealt with. */
  wild: number;
  /** Figures of the last seven days. */
  week: Figures;
};

export type ListedPerson = { id: string; name: string; role: string; picture: string | null; cards: ListedCard[] };

/**
 * A page of the list of people: `next` is where the following one begins, null at the end; `matching` how many are found in all; `cards` how
 * many cards there are, whatever was asked for.
 */
export type PeoplePage = { people: ListedPerson[]; next: string | null; matching: number; cards: number };
