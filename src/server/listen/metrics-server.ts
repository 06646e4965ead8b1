import { createServer, type Server } from 'node:http';
import { countedHere, metricsText } from '@/server/metrics';
import type { WatchedProcess } from './watched';

/** Answers `/metrics` with what this process and its watched ones have counted. */
export function createMetricsServer(others: Pick<WatchedProcess, 'counted'>[]): Server {
  const server = createServer((request, response) => {
    if (request.method !== 'GET' || request.url !== '/metrics') {
      response.writeHead(404).end();
      return;
    }
    Promise.all([countedHere(), ...others.map((each) => each.counted())])
      .then(metricsText)
      .then(
        (text) => response.writeHead(200, { 'Content-Type': 'text/plain; version=0.0.4; charset=utf-8' }).end(text),
        () => response.writeHead(500).end(),
      );
  });
  server.requestTimeout = 5_000;
  server.maxConnections = 20;
  return server;
}
