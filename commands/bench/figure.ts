/** One measured figure: what was reached, against what it must be, and beside what it was measured. */
export type Figure = {
  name: string;
  value: number;
  unit: string;
  must: { atMost: number } | { atLeast: number };
  beside: string;
};

export const reached = ({ value, must }: Figure): boolean =>
  Number.isFinite(value) && ('atMost' in must ? value <= must.atMost : value >= must.atLeast);

const shown = (value: number): string =>
  Math.abs(value) >= 100 ? Math.round(value).toLocaleString('en-GB') : value.toFixed(2).replace(/\.?0+$/, '');

/** A line for a person: name, value, limit, and the denominator with its configuration. */
export function lineOf(figure: Figure): string {
  const limit =
    'atMost' in figure.must ? `at most ${shown(figure.must.atMost)}` : `at least ${shown(figure.must.atLeast)}`;
  return `${reached(figure) ? 'reached' : 'MISSED '}  ${figure.name}: ${shown(figure.value)} ${figure.unit} (${limit})\n         ${figure.beside}`;
}
