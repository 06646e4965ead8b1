/** What a contact of a file is to the people who are known; `twice`: the same stands earlier in the file. */
export const VERDICTS = ['new', 'differs', 'same', 'twice'] as const;
export type Verdict = (typeof VERDICTS)[number];
