/** Codes that were made in advance and point at no card yet, the newest first; instants in ISO 8601. */
export type ShownSpares = {
  publicUrl: string;
  codes: { code: string; number: number; channel: 'code' | 'tag'; link: string; placement: string; made: string }[];
};
