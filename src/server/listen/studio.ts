import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { log, REQUEST_ID } from '@/server/log';
import type { StudioThreadData } from './studio-thread';

/** Hands a request to the studio and its answer back. */
export type Studio = {
  handle: (request: IncomingMessage, response: ServerResponse) => void;
  /** Lets the studio take over connections that change their protocol, as its reloading does while one edits. */
  attachUpgrades: (server: Server) => void;
  /** Kept when the studio answers for the first time. */
  ready: Promise<void>;
  stop: () => Promise<void>;
};

const RESTART_MS = 1_000;

/**
 * Starts the studio's thread, on a socket in a folder that only this user may enter. Until it listens, and while one that
 * ended by itself is started again, the studio says that it is starting; recipients are answered meanwhile.
 */
export function startStudio(options: Omit<StudioThreadData, 'socket'>): Studio {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-'));
  const socket = path.join(folder, 'studio');
  const agent = new Agent({ keepAlive: true });
  const program = new URL('./studio-thread.mjs', import.meta.url);
  let ending = false;
  let worker: Worker;

  const start = () =>
    new Promise<void>((resolve, reject) => {
      rmSync(socket, { force: true });
      const data: StudioThreadData = { ...options, socket };
      worker = new Worker(program, { workerData: data });
      worker.once('message', () => resolve());
      worker.once('error', (error) => {
        log.error({ name: error.name }, 'the studio’s thread failed');
        reject(error);
      });
      worker.once('exit', () => {
        if (!ending) setTimeout(() => void start().catch(() => undefined), RESTART_MS);
      });
    });
  const ready = start();

  return {
    ready,
    handle(request, response) {
      const { method, url, headers } = request;
      const inner = ask({ socketPath: socket, agent, method, path: url, headers }, (answer) => {
        response.writeHead(answer.statusCode ?? 502, { ...answer.headers, [REQUEST_ID]: request.headers[REQUEST_ID] });
        answer.pipe(response);
        answer.once('error', () => response.destroy());
      });
      inner.once('error', () => {
        if (response.headersSent) return response.destroy();
        response.writeHead(503, { 'Content-Type': 'text/plain; charset=utf-8', 'Retry-After': '2' });
        response.end('The studio is starting. Try again in a moment.');
      });
      response.once('close', () => inner.destroy());
      request.pipe(inner);
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
    async stop() {
      ending = true;
      agent.destroy();
      await worker.terminate();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
