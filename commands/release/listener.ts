import path from 'node:path';

/** What Node.js is to run for a release to listen. */
export const listenerOf = (release: string): string => path.join(release, '.next', 'listener.cjs');
