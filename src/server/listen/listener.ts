import { randomUUID } from 'node:crypto';
import { pipeline } from 'node:stream';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { setTimeout } from 'node:timers/promises';
import { answerFont, answerRecipient, isPublicPath, longestBody, type RecipientAnswer } from '@/recipient';
import { CHECK_HEADER, developing, isCheckToken, placeOf, securedUrl, settings, type Arrived } from '@/server/env';
import { systemClock } from '@/server/clock';
import { databaseTrouble } from '@/server/services/jobs/health';
import { bound, createGate, hasBody, shortBody } from './bounds';
import { clientAddress } from './client-address';
import { isInterface } from './interface-headers';
import { targetOf } from './target';
import { log, pathForLog, REQUEST_ID } from '@/server/log';
import { metrics } from '@/server/metrics';

/** What `/readyz` tells besides the database, which `waiting` waits for to begin with: names are those of processes that give no heartbeat. */
export type ListenerState = 'waiting' | 'starting' | 'ready' | 'ending' | string[];

/** A process that was started again knows within tenths of a second whether its database answers. Whoever asks meanwhile waits so long at most. */
const HELD_MS = 1_000;
/** So many wait at once; the others are refused. */
const HELD = 500;

type Handler = (request: IncomingMessage, response: ServerResponse) => void;

/** Header by which the listener tells the studio the client's address; whatever a client sends under it is overwritten. */
const ADDRESS_HEADER = 'x-heathland-address';

/**
 * The one process that listens: recipients' addresses, fonts and health are answered here without the framework, everything
 * else by the studio. `state` is asked by `/readyz`, so that a load balancer looks elsewhere until the studio
 * answers as well, and while this process ends; `begun` is told when it waits no more.
 */
export function createListener(
  studio: Handler,
  state: () => ListenerState,
  begun: Promise<void> = Promise.resolve(),
): Server {
  const { TRUSTED_PROXIES } = settings();
  const gate = createGate();
  const hold = createHold(begun);
  const server = createServer((request, response) => {
    const target = targetOf(request.method, request.url);
    if (!target.ok) {
      response.setHeader('Connection', 'close');
      return plain(response, target.status, REFUSED[target.status]);
    }
    request.url = target.url;
    tellOfProxy(request);
    const address = clientAddress(
      request.socket.remoteAddress ?? '',
      String(request.headers['x-forwarded-for'] ?? ''),
      TRUSTED_PROXIES,
    );
    route(request, response, address, { studio, state, gate, hold }).catch((error: unknown) => {
      log.fault(error, { id: request.headers[REQUEST_ID], path: pathForLog(request.url ?? '/') }, 'answer failed');
      if (!response.headersSent) response.writeHead(500, { 'Content-Type': 'text/plain; charset=utf-8' });
      response.end('Something failed here. Try again.');
    });
  });
  bound(server);
  return server;
}

const REFUSED = {
  400: 'This address cannot be read.',
  405: 'This method is not answered.',
  414: 'This address is too long.',
} as const;

/** Waits until a process has begun, a moment at most and not with everybody. */
function createHold(begun: Promise<void>): () => Promise<void> {
  let held = 0;
  return async () => {
    if (held >= HELD) return;
    held += 1;
    await Promise.race([begun, setTimeout(HELD_MS)]);
    held -= 1;
  };
}

type Doors = {
  studio: Handler;
  state: () => ListenerState;
  gate: ReturnType<typeof createGate>;
  hold: ReturnType<typeof createHold>;
};

async function route(
  request: IncomingMessage,
  response: ServerResponse,
  address: string,
  { studio, state, gate, hold }: Doors,
): Promise<void> {
  const url = request.url ?? '/';
  if (url === '/healthz') return plain(response, 200, arrivedAt(request) ?? 'ok');
  const now = state();
  // Whoever keeps a connection open asks the next thing elsewhere.
  if (now === 'ending') response.setHeader('Connection', 'close');
  if (url === '/readyz') return answerReady(response, now);
  if (now === 'waiting') {
    await hold();
    // Whoever turned away meanwhile has seen nothing.
    if (response.destroyed) return;
    if (state() === 'waiting') {
      response.setHeader('Retry-After', '2');
      return plain(response, 503, NO_DATABASE);
    }
  }
  const host = request.headers.host ?? '';
  const place = placeOf(host);
  if (place === 'none') {
    response.setHeader('Connection', 'close');
    return plain(response, 404, NOT_HERE);
  }
  const secured = securedUrl(host, forwardedProtocol(request), url);
  if (secured) return elsewhere(request, response, secured);
  if (isPublicPath(url))
    return place === 'studio' ? plain(response, 404, NOT_HERE) : answerPublic(request, response, address);
  if (url.startsWith('/fonts/'))
    return send(response, await answerFont(url.slice('/fonts/'.length), request.method ?? 'GET'));
  if (url === '/.well-known/security.txt' && settings().SECURITY_CONTACT) return plain(response, 200, securityText());
  if (place === 'cards') return plain(response, 404, NOT_HERE);
  // No page takes a body; the framework's own tools do while one edits.
  if (hasBody(request) && !isInterface(url) && !developing()) {
    response.setHeader('Connection', 'close');
    return plain(response, 405, REFUSED[405]);
  }
  if (!gate(request, response, address)) {
    response.setHeader('Retry-After', '5');
    response.setHeader('Connection', 'close');
    return plain(response, 503, 'Too much is being asked for from here at this moment. Wait a little, then try again.');
  }
  request.headers[ADDRESS_HEADER] = address;
  request.headers[REQUEST_ID] = randomUUID();
  logWhenAnswered(request, response);
  studio(request, response);
}

/** How a request came to the outermost trusted proxy, where it says so: each adds what it knows to the right. */
function forwardedProtocol(request: IncomingMessage): string {
  const { TRUSTED_PROXIES } = settings();
  if (TRUSTED_PROXIES === 0) return '';
  const told = String(request.headers['x-forwarded-proto'] ?? '').split(',');
  return (told.at(-TRUSTED_PROXIES) ?? told[0] ?? '').trim().toLowerCase();
}

/** For `./heathland check` alone: what of a request arrives here. */
function arrivedAt(request: IncomingMessage): string | null {
  const token = request.headers[CHECK_HEADER];
  if (typeof token !== 'string' || !isCheckToken(token, systemClock.now())) return null;
  const forwarded = String(request.headers['x-forwarded-for'] ?? '');
  const arrived: Arrived = {
    forwarded: forwarded ? forwarded.split(',').length : 0,
    protocol: String(request.headers['x-forwarded-proto'] ?? ''),
    host: request.headers.host ?? '',
  };
  return JSON.stringify(arrived);
}

/** What was sent without TLS is not taken; what was only asked for lies under the same address with it. */
function elsewhere(request: IncomingMessage, response: ServerResponse, url: string): void {
  if (request.method !== 'GET' && request.method !== 'HEAD') {
    response.setHeader('Connection', 'close');
    return plain(response, 403, 'This address is asked by https alone.');
  }
  response.writeHead(308, { Location: url, 'Cache-Control': 'no-store' });
  response.end();
}

/** Where a proxy stands in front that nobody trusts, everybody behind it is counted as one. */
const untold = { proxy: true };

function tellOfProxy(request: IncomingMessage): void {
  if (!untold.proxy || settings().TRUSTED_PROXIES > 0 || request.headers['x-forwarded-for'] === undefined) return;
  untold.proxy = false;
  log.warn({}, 'X-Forwarded-For comes while TRUSTED_PROXIES is 0: with a proxy in front, say how many there are');
}

const NOT_HERE = 'There is nothing here.';
const NO_DATABASE = 'The database does not answer yet. Try again in a moment.';

async function answerReady(response: ServerResponse, now: ListenerState): Promise<void> {
  if (typeof now !== 'string') return plain(response, 503, `no heartbeat: ${now.join(', ')}`);
  if (now !== 'ready') return plain(response, 503, now === 'waiting' ? NO_DATABASE : now);
  const trouble = await databaseTrouble();
  plain(response, trouble ? 503 : 200, trouble ?? 'ready');
}

/** Where researchers tell of a hole (RFC 9116); good for as long as the process could run. */
const securityText = (): string =>
  `Contact: ${settings().SECURITY_CONTACT}\nExpires: ${new Date(Date.now() + 180 * 86_400_000).toISOString()}\n`;

/** A status by its class, as metrics tell it: `2xx`. */
const hundreds = (status: number): string => `${Math.floor(status / 100)}xx`;

/** One line for each request of the studio; recipients' requests are counted, not logged. */
function logWhenAnswered(request: IncomingMessage, response: ServerResponse): void {
  const began = performance.now();
  response.once('finish', () => {
    const ms = performance.now() - began;
    const { answers, seconds } = metrics();
    answers.inc({ door: 'studio', status: hundreds(response.statusCode) });
    seconds.observe(ms / 1_000);
    log.info(
      {
        id: request.headers[REQUEST_ID],
        method: request.method,
        path: pathForLog(request.url ?? '/'),
        status: response.statusCode,
        ms: Math.round(ms),
      },
      'answered',
    );
  });
}

const NO_QUERY = new URLSearchParams();
const NO_BODY = Buffer.alloc(0);

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
    body: request.method === 'POST' ? await shortBody(request, longestBody(path)) : NO_BODY,
  });
  send(response, answer);
}

function send(response: ServerResponse, answer: RecipientAnswer): void {
  metrics().answers.inc({ door: 'recipient', status: hundreds(answer.status) });
  response.writeHead(answer.status, answer.headers);
  const { body } = answer;
  if (typeof body === 'string' || Buffer.isBuffer(body)) response.end(body);
  // A recipient who turns away ends the reading as well.
  else pipeline(body, response, () => undefined);
}

function plain(response: ServerResponse, status: number, text: string): void {
  response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8', 'Cache-Control': 'no-store' });
  response.end(text);
}
