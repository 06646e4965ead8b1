import { isbot } from 'isbot';

/** What a request says of itself, as far as counting needs it. */
export type RequestFacts = { method: string; userAgent: string; purpose: string; range: string };

/**
 * Whether an answer counts as a person's act. `bot`: the user agent is that of a program (isbot's list), kept out but told.
 * `none`: HEAD, a prefetch (Sec-Purpose), or a range that does not start at the first byte (RFC 9110 14.2): the rest of
 * a file whose start was counted.
 */
export function judge(facts: RequestFacts): 'person' | 'bot' | 'none' {
  if (facts.method === 'HEAD' || /\bprefetch\b|\bpreview\b/i.test(facts.purpose)) return 'none';
  if (facts.range && !/^bytes=0-/.test(facts.range)) return 'none';
  return isProgram(facts.userAgent) ? 'bot' : 'person';
}

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
