/** The pieces of a JPEG (ITU-T T.81 B.1.1.4) or PNG (W3C PNG 11) that tell something about the picture besides its points. */
type Piece = { kind: string; from: number; to: number };

/** Application segments that hold no data about the picture: JFIF's and that of its colours. */
const HARMLESS = new Set(['JFIF', 'JFXX', 'ICC_PROFILE', 'Adobe']);
const TELLING_CHUNKS = new Set(['tEXt', 'zTXt', 'iTXt', 'eXIf', 'tIME']);

/** What a picture, given as base64, tells about itself: whether at all, and the texts in it. Unreadable base64 tells nothing. */
export function pictureTells(base64: string): { tells: boolean; texts: string } {
  if (!base64) return { tells: false, texts: '' };
  let bytes: string;
  try {
    bytes = atob(base64);
  } catch {
    return { tells: false, texts: '' };
  }
  const pieces = bytes.startsWith('\u0089PNG')
    ? pngPieces(bytes)
    : bytes.startsWith('\u00ff\u00d8')
      ? jpegPieces(bytes)
      : [];
  return { tells: pieces.length > 0, texts: pieces.map(({ from, to }) => bytes.slice(from, to)).join('\n') };
}

function jpegPieces(bytes: string): Piece[] {
  const pieces: Piece[] = [];
  for (let at = 2; at + 4 <= bytes.length && bytes.charCodeAt(at) === 0xff;) {
    const marker = bytes.charCodeAt(at + 1);
    // Start of scan: the points themselves follow.
    if (marker === 0xda || marker === 0xd9) break;
    const length = (bytes.charCodeAt(at + 2) << 8) | bytes.charCodeAt(at + 3);
    const name = bytes.slice(at + 4, at + 16).split('\u0000')[0]!;
    const application =
      marker >= 0xe0 && marker <= 0xef && !HARMLESS.has(name.slice(0, 11)) && !name.startsWith('Adobe');
    if (application || marker === 0xfe) pieces.push({ kind: name, from: at + 4, to: at + 2 + length });
    at += 2 + Math.max(2, length);
  }
  return pieces;
}

function pngPieces(bytes: string): Piece[] {
  const pieces: Piece[] = [];
  for (let at = 8; at + 8 <= bytes.length;) {
    const length = [0, 1, 2, 3].reduce((sum, step) => sum * 256 + bytes.charCodeAt(at + step), 0);
    const kind = bytes.slice(at + 4, at + 8);
    if (TELLING_CHUNKS.has(kind)) pieces.push({ kind, from: at + 8, to: Math.min(bytes.length, at + 8 + length) });
    at += 12 + length;
  }
  return pieces;
}
