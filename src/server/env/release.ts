import { readFileSync } from 'node:fs';
import path from 'node:path';

/** The release that runs, as its package names it (Semantic Versioning 2.0.0). */
export const release = (): string =>
  (JSON.parse(readFileSync(path.join(process.cwd(), 'package.json'), 'utf8')) as { version: string }).version;
