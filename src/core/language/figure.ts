const FIGURES = new Intl.NumberFormat('en-GB');

/** A number as the studio writes it: groups of three. */
export const figure = (number: number): string => FIGURES.format(number);
