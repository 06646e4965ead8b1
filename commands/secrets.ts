import { fingerprintOf } from '../src/server/env';
import { forgetSecret, knownSecrets } from '../src/server/db/schema/migrate';
import { withInstallation } from './archive/installation';
import { say, Stop } from './stop';

/** The secrets that the installation's database knows, by their fingerprints; `forget` takes one of before away. */
export const run = ([word, fingerprint, ...rest]: string[]): Promise<number> =>
  withInstallation(async (databaseUrl, secret) => {
    if (word !== undefined && (word !== 'forget' || !fingerprint || rest.length > 0))
      throw new Stop('Say ./heathland secrets, or ./heathland secrets forget FINGERPRINT');
    if (word === 'forget') {
      if (fingerprint === fingerprintOf(secret)) throw new Stop('This is the secret in use; it was left as it is.');
      if (!(await forgetSecret(databaseUrl, fingerprint!)))
        throw new Stop('No other secret of this fingerprint is known.');
      say('Forgotten: its login is gone, and a process with it does not start any more.');
      return 0;
    }
    for (const each of await knownSecrets(databaseUrl))
      say(
        `${each.fingerprint}  since ${each.since.toISOString()}${each.fingerprint === fingerprintOf(secret) ? '  in use here' : ''}`,
      );
    return 0;
  });
