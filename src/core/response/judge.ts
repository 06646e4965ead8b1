import { isbot } from 'isbot';

/** What a request says of itself, as far as counting needs it. */
export type RequestFacts = {
  method: string;
  userAgent: string;
  purpose: string;
  range: string;
  /** What the browser fetches it for (Sec-Fetch-Dest, Fetch Metadata) and whose page asked (Sec-Fetch-Site); empty where it does not say. */
  destination?: string;
  site?: string;
};

/**
 * Whether an answer counts as a person's act. `bot`: the user agent is that of a program (isbot's list), kept out but told.
 * `none`: HEAD, a prefetch (Sec-Purpose), or a range that does not start at the first byte (RFC 9110 14.2): the rest of
 * a file whose start was counted.
 */
export function judge(facts: RequestFacts): 'person' | 'bot' | 'none' {
  if (facts.method === 'HEAD' || /\bprefetch\b|\bpreview\b/i.test(facts.purpose)) return 'none';
  if (!isOpened(facts)) return 'none';
  if (facts.range && !/^bytes=0-/.test(facts.range)) return 'none';
  return isProgram(facts.userAgent) ? 'bot' : 'person';
}

/**
 * Whether a person opens it: a navigation, as old browsers do without saying so; or what our own worker on a phone asks for in a
 * navigation's place. A page elsewhere that embeds a card or its file as a picture, a script or a frame opens nothing.
 */
const isOpened = ({ destination = '', site = '' }: RequestFacts): boolean =>
  destination === '' || destination === 'document' || (destination === 'empty' && site === 'same-origin');

/** Verdicts on user agents seen lately: the list's pattern is long, and a day's visitors share a few hundred agents. */
const verdicts = new Map<string, boolean>();
const MOST_VERDICTS = 2_000;

function isProgram(userAgent: string): boolean {
  const known = verdicts.get(userAgent);
  if (known !== undefined) return known;
  if (verdicts.size >= MOST_VERDICTS) verdicts.clear();
  const verdict = !userAgent || isbot(userAgent);
  verdicts.set(userAgent, verdict);
  return verdict;
}
