import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { builtRelease } from '../../commands/release/make';

/**
 * The commands of a release, run as an operator runs them: without sources, and without what builds them. What is answered has the code and what was
 * said on each output.
 */
export function useCommands() {
  let release = '';
  // A minute where nobody has built it.
  beforeAll(async () => void (release = await builtRelease()), 300_000);
  return (environment: NodeJS.ProcessEnv, ...args: string[]) =>
    spawnSync(process.execPath, [path.join(release, 'commands/main.mjs'), ...args], {
      cwd: release,
      // It has programs of its own.
      env: { ...environment, HEATHLAND_PROGRAMS: undefined },
      encoding: 'utf8',
    });
}
