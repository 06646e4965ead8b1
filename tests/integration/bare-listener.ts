import { createListener } from '@/server/listen/listener';
import { settings } from '@/server/env';

/** The listener without the studio behind it, as a process of its own that tests may kill. */
const studio = (_request: unknown, response: { statusCode: number; end: () => void }) => {
  response.statusCode = 404;
  response.end();
};

createListener(studio, () => 'ready').listen(settings().PORT, '127.0.0.1', () => process.send?.('listening'));
process.once('disconnect', () => process.exit(0));
