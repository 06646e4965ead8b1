/**
 * Characters that never belong in a detail: C0 and C1 controls except tab and line feed, and the bidirectional
 * embeddings, overrides and isolates of Unicode UAX #9 (U+202A-202E, U+2066-2069), which can show a number or an
 * address in another order than it is stored. The marks U+200E and U+200F stay: right-to-left writing needs them.
 */
const UNSAFE = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff\ufffe\uffff]/g;
/** Most of what is read: printable ASCII on one or more lines. */
const PLAIN = /^[\n\x20-\x7e]*$/;
const LONE_SURROGATE = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/**
 * Text fit to be stored and shown: line ends made `\n`, unsafe characters removed, composed (NFC), trimmed.
 * `removed` says whether something other than space was taken out.
 */
export function cleanText(raw: string): { text: string; removed: boolean } {
  if (PLAIN.test(raw)) return { text: raw.trim(), removed: false };
  const lines = raw.replace(/\r\n?/g, '\n');
  const safe = lines.replace(UNSAFE, '').replace(LONE_SURROGATE, '');
  return { text: safe.normalize('NFC').trim(), removed: safe.length !== lines.length };
}

/** As {@link cleanText}, on one line: line feeds and tabs become single spaces. */
export function cleanLine(raw: string): { text: string; removed: boolean } {
  const { text, removed } = cleanText(raw);
  return { text: text.replace(/\s+/g, ' '), removed };
}
