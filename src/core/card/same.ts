/** The same text for the same thing, whatever order a store gave its keys. */
const canonical = (thing: unknown): string =>
  JSON.stringify(thing, (_key, value: unknown) =>
    value && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );

/** Whether two plain values say the same. */
export const same = (a: unknown, b: unknown): boolean =>
  a === b || (typeof a === 'object' && typeof b === 'object' && canonical(a) === canonical(b));
