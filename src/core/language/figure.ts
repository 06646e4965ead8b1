/** A number as the studio writes it: groups of three. */
export const figure = (number: number): string => number.toLocaleString('en-GB');
