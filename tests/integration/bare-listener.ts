import { createListener } from '@/server/listen/listener';
import { settings } from '@/server/env';

/** The listener without the studio behind it, as a process of its own that tests may kill. It takes what is asked of its number for its host's. */
const studio = (_request: unknown, response: { statusCode: number; end: () => void }) => {
  response.statusCode = 404;
  response.end();
};

const { host } = new URL(settings().PUBLIC_URL);
createListener(studio, () => 'ready')
  .prependListener('request', (request) => void (request.headers.host = host))
  .listen(settings().PORT, '127.0.0.1', () => process.send?.('listening'));
process.once('disconnect', () => process.exit(0));
