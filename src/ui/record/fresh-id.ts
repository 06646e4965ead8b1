/** An id for a detail that was made in this browser. */
export const freshId = (): string => crypto.randomUUID().slice(0, 13);
