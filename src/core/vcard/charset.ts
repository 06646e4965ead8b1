/**
 * Bytes as text of a charset by its name of the WHATWG Encoding standard. In two steps: decoded as a whole, Node.js 20 takes Windows-1252 for
 * Latin-1, and a ’ becomes a control character. Errors of the decoder where `fatal` is asked for.
 */
export function decodedAs(charset: string, bytes: Uint8Array, options: TextDecoderOptions = {}): string {
  const decoder = new TextDecoder(charset, options);
  return decoder.decode(bytes, { stream: true }) + decoder.decode();
}
