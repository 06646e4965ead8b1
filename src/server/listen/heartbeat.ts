import { endWithParent } from '@/server/compute/end-with-parent';
import { settings } from '@/server/env';
import { countedHere, countProcess, type ProcessName } from '@/server/metrics';

/** Whoever is not there any more hears nothing; this process ends with it. */
const tell = (message: string | object) => process.connected && process.send?.(message, () => undefined);

/** The other end of {@link keepRunning}: answers that it lives and what it has counted, ends when told to. Answers with what says that it works. */
export function sendHeartbeats(name: ProcessName, stop: () => void): () => void {
  endWithParent();
  if (settings().METRICS_PORT !== undefined) countProcess(name);
  process.on('message', (message) => {
    if (message === 'alive?') tell('alive');
    if (message === 'counted?') void countedHere().then((counted) => tell({ counted }));
    if (message === 'stop') stop();
  });
  return () => tell('working');
}
