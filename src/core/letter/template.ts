/** What words for a message may name: whom it goes to, who sends it, the occasion with where it is, and the placement. */
export const PLACES = ['name', 'me', 'occasion', 'place', 'placement'] as const;
export type Place = (typeof PLACES)[number];

const PLACE = new RegExp(`\\{(${PLACES.join('|')})\\}`, 'g');
const PIECE = new RegExp(`\\[([^[\\]]*)\\]|( ?)\\{(${PLACES.join('|')})\\}`, 'g');

/**
 * Fills words with what is known: `{name}` stands for a value, `[at {occasion}]` goes as a whole where a value in it is empty, and with an empty value its
 * blank. Brackets that name nothing, and braces that name something else, stay as they were typed; values are taken as they are.
 */
export function fillTemplate(template: string, values: Record<Place, string>): string {
  const value = (place: string) => values[place as Place].trim();
  const fill = (text: string) => text.replace(PLACE, (_, place: string) => value(place));
  return template.replace(PIECE, (whole, group: string | undefined, blank: string, place: string) => {
    if (group === undefined) return value(place) ? `${blank}${value(place)}` : '';
    const named = [...group.matchAll(PLACE)].map(([, each]) => each!);
    if (named.length === 0) return whole;
    return named.every(value) ? fill(group) : '';
  });
}
