import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';

const { headers, body } = JSON.parse(readFileSync(process.env.BENCH_ANSWER!, 'utf8')) as {
  headers: Record<string, string>;
  body: string;
};
const bytes = Buffer.from(body, 'base64');

/** The bare server that the listener is measured against: the same bytes, headers included, and nothing else. */
createServer((_request, response) => {
  response.writeHead(200, headers);
  response.end(bytes);
}).listen(Number(process.env.PORT), '127.0.0.1', () => process.send?.('listening'));
