import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';

const body = readFileSync(process.env.BENCH_BODY!);

/** The bare server that the listener is measured against: the same bytes and nothing else. */
createServer((_request, response) => {
  response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8', 'Content-Length': body.length });
  response.end(body);
}).listen(Number(process.env.PORT), '127.0.0.1', () => process.send?.('listening'));
