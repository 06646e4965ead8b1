declare module 'subset-font' {
  /** A font with the glyphs that a text needs and no other. */
  export default function subsetFont(
    font: Buffer,
    text: string,
    options?: {
      targetFormat?: 'woff2' | 'truetype';
      noLayoutClosure?: boolean;
      noHinting?: boolean;
      keepFeatures?: string[];
    },
  ): Promise<Buffer>;
}
