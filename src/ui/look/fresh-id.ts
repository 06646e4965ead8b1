/** An id of its own, under a beginning. */
export const freshId = (start: string): string => `${start}${crypto.randomUUID().slice(0, 12)}`;
