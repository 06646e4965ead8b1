import { existsSync } from 'node:fs';
import path from 'node:path';

/** Where the bundled programs of this process's build lie: told by whoever started it, else those of the production build. */
const folder = (): string => process.env.HEATHLAND_PROGRAMS ?? path.join(process.cwd(), '.next');

/** Tells this process, and all that it starts, where its programs lie. */
export function usePrograms(where: string): void {
  process.env.HEATHLAND_PROGRAMS = where;
}

/** The program of a process of the compute pool, and how Node.js is to run it; without a build its source. */
export function computeProgram(): { file: string; execArgv: string[] } {
  const built = path.join(/* turbopackIgnore: true */ folder(), 'compute.mjs');
  return existsSync(built)
    ? { file: built, execArgv: ['--enable-source-maps'] }
    : { file: path.join(process.cwd(), 'src/server/compute/program.ts'), execArgv: ['--import', 'tsx'] };
}

/** What browsers get of the page that holds a card up. */
export const handOverProgram = (which: 'page' | 'worker'): string =>
  path.join(/* turbopackIgnore: true */ folder(), `hand-over-${which}.js`);

/** The script of a reply form, as browsers get it. */
export const replyProgram = (): string => path.join(/* turbopackIgnore: true */ folder(), 'reply-form.js');

/** The service worker of a card's page, as browsers get it. */
export const keptCopyProgram = (): string => path.join(/* turbopackIgnore: true */ folder(), 'kept-copy.js');
