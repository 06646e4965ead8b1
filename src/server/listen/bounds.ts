import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { Transform } from 'node:stream';

/**
 * What unfinished requests may hold on to. Recipients have no bound by address: a hall of five hundred phones behind one is served all
 * the same. The studio has, since each of its requests holds memory and a connection of its own.
 */
const HEADERS_MS = 15_000;
/** A film of 40 MB over a poor line takes three minutes. */
const REQUEST_MS = 300_000;
const KEEP_ALIVE_MS = 10_000;
/** No byte either way for so long; streams of events send a line every twenty seconds. */
const IDLE_MS = 60_000;
/** Open connections of a process: a hall keeps one each, and the files of a process are usually limited to a few times as many. */
const CONNECTIONS = 8_000;
/** A body that sends nothing for so long is given up. */
const SLOW_BODY_MS = 15_000;
/** Requests of the studio under way at a time, from all and from one address. */
const STUDIO = 1_000;
const STUDIO_OF_ONE = 400;
/** Of these, bodies that are still coming in. */
const BODIES_OF_ONE = 40;

export function bound(server: Server): void {
  server.headersTimeout = HEADERS_MS;
  server.requestTimeout = REQUEST_MS;
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.timeout = IDLE_MS;
  server.maxConnections = CONNECTIONS;
}

export const hasBody = ({ headers }: IncomingMessage): boolean =>
  headers['transfer-encoding'] !== undefined || Number(headers['content-length']) > 0;

type Held = { requests: number; bodies: number };
const NONE: Held = { requests: 0, bodies: 0 };

/** Counts the studio's requests under way; answers whether one more may come in, and then counts it until it has ended. */
export function createGate(): (request: IncomingMessage, response: ServerResponse, address: string) => boolean {
  const byAddress = new Map<string, Held>();
  let all = 0;
  const count = (address: string, change: Held) => {
    const held = byAddress.get(address) ?? NONE;
    const next = { requests: held.requests + change.requests, bodies: held.bodies + change.bodies };
    if (next.requests <= 0) byAddress.delete(address);
    else byAddress.set(address, next);
    all += change.requests;
  };
  return (request, response, address) => {
    const held = byAddress.get(address) ?? NONE;
    const body = hasBody(request);
    if (all >= STUDIO || held.requests >= STUDIO_OF_ONE || (body && held.bodies >= BODIES_OF_ONE)) return false;
    count(address, { requests: 1, bodies: 0 });
    const release = once(() => count(address, { requests: -1, bodies: 0 }));
    response.once('close', release);
    response.once(STREAMING, () => {
      release();
      streams.add(response);
      response.once('close', () => streams.delete(response));
    });
    if (body) {
      count(address, { requests: 0, bodies: 1 });
      giveUpSlow(request, () => count(address, { requests: 0, bodies: -1 }));
    }
    return true;
  };
}

/** An answer tells so that it is a stream of events, which stays open while nothing is under way; people have few of them each. */
export const STREAMING = Symbol('streaming');

const streams = new Set<ServerResponse>();

/** Ends the streams of events that are open; those who listen ask again, elsewhere if need be. */
export const endStreams = (): void => streams.forEach((response) => response.destroy());

function once(work: () => void): () => void {
  let done = false;
  return () => {
    if (!done) work();
    done = true;
  };
}

/** Ends a request whose body stands still; `done` once the body has ended, whatever way. */
function giveUpSlow(request: IncomingMessage, done: () => void): void {
  let timer = setTimeout(() => request.destroy(), SLOW_BODY_MS);
  const wait = () => {
    clearTimeout(timer);
    timer = setTimeout(() => request.destroy(), SLOW_BODY_MS);
  };
  const end = once(() => {
    clearTimeout(timer);
    request.off('data', wait);
    done();
  });
  // It is read by being piped on; a listener of `data` alone would begin to read before.
  request.once('resume', () => request.on('data', wait));
  request.once('end', end);
  request.once('close', end);
}

/** What of a body comes at once, and so many bytes a second after that: faster than lines of phones, and others have their turn in between. */
const BURST = 2_000_000;
const BYTES_PER_S = 6_000_000;

/** A stream that lets a body through at the pace of {@link BYTES_PER_S}. */
export function paced(): Transform {
  const began = performance.now();
  let passed = -BURST;
  return new Transform({
    transform(chunk: Buffer, _encoding, next) {
      passed += chunk.length;
      const ahead = (passed / BYTES_PER_S) * 1_000 - (performance.now() - began);
      if (ahead <= 1) next(null, chunk);
      else setTimeout(() => next(null, chunk), ahead);
    },
  });
}

/** So much of a body whose answer is there already is still read: whoever sends it may hear the answer only then. */
const REST_BYTES = 50_000_000;

/** Reads on and drops what is left of a body, so that the answer is heard and the connection can go on. */
export function dropRest(request: IncomingMessage): void {
  if (request.readableEnded || request.destroyed) return;
  let left = REST_BYTES;
  request.unpipe();
  request.on('data', (chunk: Buffer) => {
    left -= chunk.length;
    if (left < 0) request.destroy();
  });
  request.resume();
}

/** Short bodies of recipients that are held at a time, in bytes: more wait in their sockets. */
const SHORT_BODIES = 64_000_000;
let held = 0;

/** A short body; null where it is longer, does not come in time, or where too many come at once. */
export async function shortBody(request: IncomingMessage, longest: number): Promise<Buffer | null> {
  const timer = setTimeout(() => request.destroy(), SLOW_BODY_MS);
  const parts: Buffer[] = [];
  let length = 0;
  try {
    for await (const chunk of request) {
      const part = Buffer.from(chunk as Buffer);
      length += part.length;
      held += part.length;
      if (length > longest || held > SHORT_BODIES) return null;
      parts.push(part);
    }
    return Buffer.concat(parts);
  } finally {
    held -= length;
    clearTimeout(timer);
  }
}
