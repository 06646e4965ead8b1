import { endWithParent } from '@/server/compute/end-with-parent';

/** The other end of {@link keepRunning}: answers that it lives, ends when told to. Answers with what says that it works. */
export function giveSigns(stop: () => void): () => void {
  endWithParent();
  process.on('message', (message) => {
    if (message === 'alive?') process.send?.('alive');
    if (message === 'stop') stop();
  });
  return () => process.send?.('working');
}
