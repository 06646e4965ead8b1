/** Bytes of a text at gzip's usual level (6), as a server sends it. */
export async function compressedSize(text: string): Promise<number> {
  const stream = new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'));
  return (await new Response(stream).arrayBuffer()).byteLength;
}
