import { describeSettings, settingsProblems } from '../src/server/env';
import { IS_RELEASE, ROOT } from './place';
import { listenerOf } from './release/listener';
import { say, Stop } from './stop';

/** Production: settings come from the environment alone; refuses to start without what is needed and says which. */
export async function run(): Promise<number> {
  const problems = settingsProblems(process.env);
  if (problems.length > 0) {
    const table = describeSettings().map(
      ({ name, purpose, default: fallback }) => `  ${name.padEnd(16)} ${purpose}${fallback ? ` (${fallback})` : ''}`,
    );
    throw new Stop(
      `Not started.\n${problems.map((problem) => `  ${problem}`).join('\n')}\n\nSettings:\n${table.join('\n')}`,
    );
  }
  Object.assign(process.env, { NODE_ENV: 'production' });
  // A release is what it runs; a checkout makes one, beside whatever runs from it.
  const release = IS_RELEASE ? ROOT : await (await import('./release/make')).builtRelease();
  process.chdir(release);
  // Of a release every line is one of the log.
  if (!IS_RELEASE) say('Starting the application …');
  await import(listenerOf(release));
  return new Promise<number>(() => undefined);
}
