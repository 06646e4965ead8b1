/** A member’s own card as their first screen has it; `out` where it is published, its code as SVG. */
export type Mine = {
  recordId: string;
  name: string;
  cardId: string | null;
  out: { url: string; svg: string } | null;
  missing: ('photo' | 'mobile')[];
};
