/**
 * Bytes that a code of 25 mm may hold with modules of 0.4 mm or more, the least that cameras read well in print (from memory):
 * 62 modules with the quiet zone, so version 9 at level M, 180 bytes (ISO/IEC 18004, table 7).
 */
export const CODE_BYTES_AT_25_MM = 180;
/** Bytes of the largest symbol at level M (version 40; ISO/IEC 18004, table 7: 2,331), less what the marker of UTF-8 takes. */
export const CODE_BYTES = 2_330;

/** What a live code holds: its link in upper case, so that the symbol takes its denser alphanumeric mode (ISO/IEC 18004, 7.4.4). */
export const liveCodeText = (link: string): string => link.toUpperCase();
