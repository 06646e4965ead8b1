/** Why a reply waits for its holder's nod: none of these proves anything, so that nothing is dropped. */
export const LOOKS_WRONG = ['hidden field', 'too fast', 'many from one', 'many to one', 'links'] as const;
export type LooksWrong = (typeof LOOKS_WRONG)[number];

/** What is known of how a reply was sent. */
export type ReplySigns = {
  /** What stood in the field that people do not see. */
  hidden: string;
  /** Milliseconds from the first touch to the sending, as the page's script tells; null where none ran. */
  took: number | null;
  /** Milliseconds since this visitor was given the page, where that is known. */
  sinceView: number | null;
  /** Beyond the rate of one visitor, and of one card. */
  manyFromOne: boolean;
  manyToOne: boolean;
  /** Everything that was written by hand. */
  words: string;
};

/** People take longer to type a name (common practice, no published source). */
const LEAST_MS = 3_000;
/** Who writes more links than this wants to be followed and not to be met (common practice, no published source). */
const MOST_LINKS = 2;

/** What of a reply looks wrong, in the order of {@link LOOKS_WRONG}. Pure. */
export function judgeReply({ hidden, took, sinceView, manyFromOne, manyToOne, words }: ReplySigns): LooksWrong[] {
  const time = took ?? sinceView;
  const found: Record<LooksWrong, boolean> = {
    'hidden field': hidden !== '',
    // Written so that what is no number counts as fast.
    'too fast': time !== null && !(time >= LEAST_MS),
    'many from one': manyFromOne,
    'many to one': manyToOne,
    links: (words.match(/https?:\/\/|www\./gi)?.length ?? 0) > MOST_LINKS,
  };
  return LOOKS_WRONG.filter((sign) => found[sign]);
}
