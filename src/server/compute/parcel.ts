import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** Bytes from here on go by a file: a message between processes is copied on the thread that sends it, which others wait for. */
const BY_FILE = 256_000;

type ByFile = { byFile: string };
const isByFile = (value: unknown): value is ByFile =>
  typeof value === 'object' && value !== null && Object.keys(value).length === 1 && 'byFile' in value;

let folder: string | undefined;

/** An input whose large buffers lie in files that only this user may read; `forget` takes them away. */
export async function packed(input: object): Promise<{ input: object; forget: () => Promise<void> }> {
  const files: string[] = [];
  const entries = await Promise.all(
    Object.entries(input).map(async ([name, value]): Promise<[string, unknown]> => {
      if (!Buffer.isBuffer(value) || value.length < BY_FILE) return [name, value];
      folder ??= mkdtempSync(path.join(tmpdir(), `heathland-compute-${process.pid}-`));
      const file = path.join(/* turbopackIgnore: true */ folder, randomUUID());
      files.push(file);
      await writeFile(file, value, { mode: 0o600 });
      return [name, { byFile: file } satisfies ByFile];
    }),
  );
  return {
    input: Object.fromEntries(entries),
    forget: () => Promise.all(files.map((file) => rm(file, { force: true }))).then(() => undefined),
  };
}

/** The input as it was before it was packed. */
export const unpacked = (input: object): object =>
  Object.fromEntries(
    Object.entries(input).map(([name, value]) => [name, isByFile(value) ? readFileSync(value.byFile) : value]),
  );

/** Takes the folder of this process away. */
export function forgetParcels(): void {
  if (folder) rmSync(folder, { recursive: true, force: true });
  folder = undefined;
}
