import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

/** The functions of HarfBuzz's subsetter that are needed here (hb-subset.h); addresses are numbers. */
type Subsetter = {
  memory: WebAssembly.Memory;
  _initialize?: () => void;
  malloc: (size: number) => number;
  free: (at: number) => void;
  hb_blob_create: (data: number, length: number, mode: number, user: number, destroy: number) => number;
  hb_blob_destroy: (blob: number) => void;
  hb_blob_get_data: (blob: number, length: number) => number;
  hb_blob_get_length: (blob: number) => number;
  hb_face_create: (blob: number, index: number) => number;
  hb_face_destroy: (face: number) => void;
  hb_face_reference_blob: (face: number) => number;
  hb_set_add: (set: number, value: number) => void;
  hb_set_clear: (set: number) => void;
  hb_subset_input_create_or_fail: () => number;
  hb_subset_input_destroy: (input: number) => void;
  hb_subset_input_glyph_set: (input: number) => number;
  hb_subset_input_set: (input: number, which: number) => number;
  hb_subset_input_set_flags: (input: number, flags: number) => void;
  hb_subset_or_fail: (face: number, input: number) => number;
};

const WRITABLE = 2;
const DROP_TABLES = 3;
/** No hinting; glyphs keep their numbers, which the content of a PDF names them by; nothing comes in by what shaping could make of them. */
const FLAGS = 0x1 | 0x2 | 0x200;
/** Tables that paper needs none of: shaping is done by then, and letters are told by the PDF itself. */
const NEEDLESS = ['GSUB', 'GPOS', 'GDEF', 'cmap', 'name', 'post', 'OS/2', 'kern', 'STAT', 'gasp', 'DSIG', 'meta'];

const tag = (name: string): number =>
  [...name.padEnd(4)].reduce((sum, letter) => ((sum << 8) | letter.charCodeAt(0)) >>> 0, 0);

let loaded: Promise<Subsetter> | null = null;

function subsetter(): Promise<Subsetter> {
  loaded ??= (async () => {
    const wasm = readFileSync(createRequire(import.meta.url).resolve('harfbuzzjs/dist/harfbuzz-subset.wasm'));
    const { instance } = await WebAssembly.instantiate(wasm);
    const hb = instance.exports as unknown as Subsetter;
    hb._initialize?.();
    return hb;
  })();
  return loaded;
}

/** A TrueType file with no outlines but those of these glyphs, by the same numbers. Error: one that HarfBuzz cannot take apart throws. */
export async function glyphsOf(file: Uint8Array, glyphs: Iterable<number>): Promise<Uint8Array> {
  const hb = await subsetter();
  const at = hb.malloc(file.length);
  new Uint8Array(hb.memory.buffer).set(file, at);
  const blob = hb.hb_blob_create(at, file.length, WRITABLE, 0, 0);
  const face = hb.hb_face_create(blob, 0);
  hb.hb_blob_destroy(blob);
  const input = hb.hb_subset_input_create_or_fail();
  const wanted = hb.hb_subset_input_glyph_set(input);
  for (const glyph of glyphs) hb.hb_set_add(wanted, glyph);
  const dropped = hb.hb_subset_input_set(input, DROP_TABLES);
  for (const name of NEEDLESS) hb.hb_set_add(dropped, tag(name));
  hb.hb_subset_input_set_flags(input, FLAGS);
  const made = hb.hb_subset_or_fail(face, input);
  hb.hb_subset_input_destroy(input);
  hb.hb_face_destroy(face);
  if (!made) {
    hb.free(at);
    throw new Error('a typeface could not be cut down');
  }
  const result = hb.hb_face_reference_blob(made);
  const from = hb.hb_blob_get_data(result, 0);
  const bytes = new Uint8Array(hb.memory.buffer).slice(from, from + hb.hb_blob_get_length(result));
  hb.hb_blob_destroy(result);
  hb.hb_face_destroy(made);
  hb.free(at);
  return bytes;
}
