import { randomUUID } from 'node:crypto';
import { pipeline } from 'node:stream';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { answerFont, answerRecipient, isPublicPath, type RecipientAnswer } from '@/recipient';
import { settings } from '@/server/env';
import { databaseAnswers } from '@/server/services/health';
import { clientAddress } from './client-address';
import { log, pathForLog, REQUEST_ID } from '@/server/log';

/** What `/readyz` tells besides the database. */
export type ListenerState = 'starting' | 'ready' | 'ending';

type Handler = (request: IncomingMessage, response: ServerResponse) => void;

/** Header by which the listener tells the studio the client's address; whatever a client sends under it is overwritten. */
const ADDRESS_HEADER = 'x-heathland-address';
/** A tap's body is the id of a line. */
const LONGEST_BODY = 200;

/**
 * The one process that listens: recipients' addresses, fonts and health are answered here without the framework, everything
 * else by the studio. `state` is asked by `/readyz`, so that a load balancer looks elsewhere until the studio
 * answers as well, and while this process ends.
 */
export function createListener(studio: Handler, state: () => ListenerState): Server {
  const { TRUSTED_PROXIES } = settings();
  return createServer((request, response) => {
    const address = clientAddress(
      request.socket.remoteAddress ?? '',
      String(request.headers['x-forwarded-for'] ?? ''),
      TRUSTED_PROXIES,
    );
    route(request, response, address, studio, state).catch((error: unknown) => {
      log.error(
        {
          id: request.headers[REQUEST_ID],
          path: pathForLog(request.url ?? '/'),
          name: error instanceof Error ? error.name : 'unknown',
          code: (error as { code?: string }).code,
        },
        'answer failed',
      );
      if (!response.headersSent) response.writeHead(500, { 'Content-Type': 'text/plain; charset=utf-8' });
      response.end('Something failed here. Try again.');
    });
  });
}

async function route(
  request: IncomingMessage,
  response: ServerResponse,
  address: string,
  studio: Handler,
  state: () => ListenerState,
): Promise<void> {
  const url = request.url ?? '/';
  if (isPublicPath(url)) return answerPublic(request, response, address);
  if (url === '/healthz') return plain(response, 200, 'ok');
  if (url === '/readyz') {
    const now = state();
    if (now !== 'ready') return plain(response, 503, now);
    const answers = await databaseAnswers();
    return plain(response, answers ? 200 : 503, answers ? 'ready' : 'the database does not answer');
  }
  if (url.startsWith('/fonts/'))
    return send(response, await answerFont(url.slice('/fonts/'.length), request.method ?? 'GET'));
  // The studio's framework falls over what cannot be decoded.
  if (!decodes(url)) return plain(response, 400, 'This address cannot be read.');
  request.headers[ADDRESS_HEADER] = address;
  request.headers[REQUEST_ID] = randomUUID();
  logWhenAnswered(request, response);
  studio(request, response);
}

/** Whether the percent-encoding of an address is that of UTF-8 (RFC 3986 2.5). */
function decodes(url: string): boolean {
  try {
    decodeURI(url);
    return true;
  } catch {
    return false;
  }
}

/** One line for each request of the studio; recipients' requests are counted, not logged. */
function logWhenAnswered(request: IncomingMessage, response: ServerResponse): void {
  const began = performance.now();
  response.once('finish', () =>
    log.info(
      {
        id: request.headers[REQUEST_ID],
        method: request.method,
        path: pathForLog(request.url ?? '/'),
        status: response.statusCode,
        ms: Math.round(performance.now() - began),
      },
      'answered',
    ),
  );
}

const NO_QUERY = new URLSearchParams();

async function answerPublic(request: IncomingMessage, response: ServerResponse, address: string): Promise<void> {
  const url = request.url ?? '/';
  const question = url.indexOf('?');
  const path = question < 0 ? url : url.slice(0, question);
  const answer = await answerRecipient({
    method: request.method ?? 'GET',
    path,
    query: question < 0 ? NO_QUERY : new URLSearchParams(url.slice(question + 1)),
    header: (name) => String(request.headers[name] ?? ''),
    address,
    body: request.method === 'POST' ? await shortBody(request) : '',
  });
  send(response, answer);
}

function send(response: ServerResponse, answer: RecipientAnswer): void {
  response.writeHead(answer.status, answer.headers);
  const { body } = answer;
  if (typeof body === 'string' || Buffer.isBuffer(body)) response.end(body);
  // A recipient who turns away ends the reading as well.
  else pipeline(body, response, () => undefined);
}

async function shortBody(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > LONGEST_BODY) return '';
  }
  return text;
}

function plain(response: ServerResponse, status: number, text: string): void {
  response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8', 'Cache-Control': 'no-store' });
  response.end(text);
}
