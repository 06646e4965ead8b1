/** Codes that were made in advance and point at no card yet, the newest first; instants in ISO 8601. */
export type ShownSpares = {
  publicUrl: string;
  codes: { code: string; link: string; placement: string; made: string }[];
};
