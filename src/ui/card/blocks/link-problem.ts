import { BLOCK_FIELDS } from '@/core/words';

/** A link that was typed without its scheme gets https. */
export const withScheme = (typed: string): string => {
  const text = typed.trim();
  return text === '' || /^[a-z][a-z0-9+.-]*:/i.test(text) ? text : `https://${text}`;
};

/** What is wrong with a link that is being typed, or null. A player must be https. */
export function linkProblem(typed: string, secure: boolean): string | null {
  const url = withScheme(typed);
  if (url === '') return null;
  const fits =
    URL.canParse(url) &&
    /\./.test(new URL(url).hostname) &&
    (secure ? /^https:$/ : /^https?:$/).test(new URL(url).protocol);
  return fits ? null : secure ? BLOCK_FIELDS.playerWrong : BLOCK_FIELDS.linkWrong;
}
