import next from 'next';
import { createServer } from 'node:http';
import { builtStatic } from './built-static';
import { interfaceHeaders, isInterface } from './interface-headers';
import { toOurLog } from './framework-log';
import { sendHeartbeats } from './heartbeat';

/** What the listener tells the studio's process. */
export type StudioData = { dev: boolean; socket: string; hostname: string; port: number };

/**
 * The studio in a process of its own. Next.js tracks every asynchronous step of the thread that it runs on; recipients,
 * answered by the listener, do not pay for that, nor do they wait while a page of the studio is made.
 */
async function main() {
  const works = sendHeartbeats('studio', () => process.exit(0));
  const { dev, socket, hostname, port } = JSON.parse(process.argv[2]!) as StudioData;
  if (!dev) toOurLog('framework');
  const server = createServer();
  // Its one client ends connections that rest; were this end to do so as well, a request might meet a closing one.
  server.keepAliveTimeout = 0;
  const app = next({ dev, dir: process.cwd(), customServer: true, hostname, port, httpServer: server });
  await app.prepare();
  const handle = app.getRequestHandler();
  const answered = dev ? () => false : builtStatic(process.cwd());
  server.on('request', (request, response) => {
    if (answered(request, response)) return;
    if (isInterface(request.url ?? '/'))
      for (const [name, value] of Object.entries(interfaceHeaders())) response.setHeader(name, value);
    void handle(request, response);
  });
  if (dev) {
    const upgrade = app.getUpgradeHandler();
    server.on('upgrade', (request, stream, head) => void upgrade(request, stream, head));
  }
  server.listen(socket, works);
}

void main();
