import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { dropRest, hasBody, paced, STREAMING } from './bounds';
import { REQUEST_ID } from '@/server/log';
import type { StudioData } from './studio-process';
import { keepRunning, type WatchedProcess } from './watched';

/** Hands a request to the studio and its answer back. */
export type Studio = WatchedProcess & {
  handle: (request: IncomingMessage, response: ServerResponse) => void;
  /** Lets the studio take over connections that change their protocol, as its reloading does while one edits. */
  attachUpgrades: (server: Server) => void;
};

/**
 * Starts the studio's process, on a socket in a folder that only this user may enter. Until it listens, and while one that
 * ended by itself is started again, the studio says that it is starting; recipients are answered meanwhile.
 */
export function startStudio(options: Omit<StudioData, 'socket'>): Studio {
  const folder = mkdtempSync(path.join(tmpdir(), `heathland-studio-${process.pid}-`));
  const socket = path.join(folder, 'studio');
  const agent = new Agent({ keepAlive: true });
  const studio = keepRunning('studio', {
    data: { ...options, socket },
    dev: options.dev,
    before: () => rmSync(socket, { force: true }),
  });

  return {
    ...studio,
    handle(request, response) {
      const { method, url, headers } = request;
      const inner = ask({ socketPath: socket, agent, method, path: url, headers }, (answer) => {
        if (String(answer.headers['content-type']).startsWith('text/event-stream')) response.emit(STREAMING);
        response.writeHead(answer.statusCode ?? 502, { ...answer.headers, [REQUEST_ID]: request.headers[REQUEST_ID] });
        answer.pipe(response);
        answer.once('error', () => response.destroy());
      });
      inner.once('error', () => {
        if (response.headersSent) return response.destroy();
        response.writeHead(503, { 'Content-Type': 'text/plain; charset=utf-8', 'Retry-After': '2' });
        response.end('The studio is starting. Try again in a moment.');
      });
      response.once('close', () => {
        inner.destroy();
        dropRest(request);
      });
      if (hasBody(request)) request.pipe(paced()).pipe(inner);
      else request.pipe(inner);
    },
    attachUpgrades(server) {
      server.on('upgrade', (request, stream, head) => {
        const inner = connect(socket, () => {
          const lines = request.rawHeaders.map((text, at) => (at % 2 === 0 ? `${text}: ` : `${text}\r\n`)).join('');
          inner.write(`${request.method} ${request.url} HTTP/1.1\r\n${lines}\r\n`);
          inner.write(head);
          stream.pipe(inner).pipe(stream);
        });
        for (const end of [inner, stream]) end.on('error', () => [inner, stream].forEach((each) => each.destroy()));
      });
    },
    async stop(ms) {
      agent.destroy();
      await studio.stop(ms);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
