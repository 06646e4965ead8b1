import { initWasm } from '@resvg/resvg-wasm';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { prepareZXingModule } from 'zxing-wasm/reader';

const fromHere = createRequire(import.meta.url);

/** Bytes of a program of a package. */
const bytesOf = (name: string): ArrayBuffer => {
  const { buffer, byteOffset, byteLength } = readFileSync(fromHere.resolve(name));
  return buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer;
};

let loaded: Promise<unknown> | null = null;

/** Loads the painter of codes and their readers from the installed packages; they would be fetched from the network otherwise. */
export function codePrograms(): Promise<unknown> {
  loaded ??= Promise.all([
    initWasm(bytesOf('@resvg/resvg-wasm/index_bg.wasm')),
    prepareZXingModule({
      overrides: { wasmBinary: bytesOf('zxing-wasm/reader/zxing_reader.wasm') },
      fireImmediately: true,
    }),
  ]);
  return loaded;
}
