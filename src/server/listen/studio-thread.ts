import next from 'next';
import { createServer } from 'node:http';
import { parentPort, workerData } from 'node:worker_threads';

/** What the listener tells its studio thread. */
export type StudioThreadData = { dev: boolean; socket: string; hostname: string; port: number };

/**
 * The studio on a thread of its own. Next.js tracks every asynchronous step of the thread that it runs on; recipients,
 * answered on the main thread, do not pay for that, nor do they wait while a page of the studio is made.
 */
async function main() {
  const { dev, socket, hostname, port } = workerData as StudioThreadData;
  const server = createServer();
  const app = next({ dev, dir: process.cwd(), customServer: true, hostname, port, httpServer: server });
  await app.prepare();
  const handle = app.getRequestHandler();
  server.on('request', (request, response) => void handle(request, response));
  if (dev) {
    const upgrade = app.getUpgradeHandler();
    server.on('upgrade', (request, stream, head) => void upgrade(request, stream, head));
  }
  server.listen(socket, () => parentPort?.postMessage('listening'));
}

void main();
