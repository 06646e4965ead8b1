import { describeSettings, settingsProblems } from '../src/server/env';
import { BUILT_LISTENER, buildIfChanged } from './build';
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
  await buildIfChanged();
  say('Starting the application …');
  await import(BUILT_LISTENER);
  return new Promise<number>(() => undefined);
}
