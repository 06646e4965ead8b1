import { headers } from 'next/headers';
import type { z } from 'zod';
import { isSameOrigin, networkOf } from '@/core/access';
import { Refusal, statusOf, type Problem } from '@/core/errors';
import { LIMITS, RATES, type RateKind } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { studioOrigin } from '@/server/env';
import { log, REQUEST_ID } from '@/server/log';
import type { Actor } from '@/server/services/accounts/actor';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { currentActor } from './session';
import { isModest, wellFormed } from './well-formed';

const problemResponse = (problem: Problem) => {
  const answered = new Headers({ 'Cache-Control': 'no-store' });
  if (problem.code === 'TOO_MANY_REQUESTS' || problem.code === 'TOO_BUSY')
    answered.set('Retry-After', String(problem.seconds));
  return Response.json({ problem }, { status: statusOf(problem), headers: answered });
};

/** Runs a handler and turns what it throws into a problem with its status. What is unexpected is not told to the client. */
export async function respond(work: () => Promise<unknown>): Promise<Response> {
  try {
    const made = await work();
    return made instanceof Response ? made : Response.json(made ?? {}, { headers: { 'Cache-Control': 'no-store' } });
  } catch (error) {
    if (error instanceof Refusal) return problemResponse(error.problem);
    log.fault(error, { id: (await headers()).get(REQUEST_ID) }, 'the studio failed to answer');
    return problemResponse({ code: 'UNEXPECTED' });
  }
}

/** Refuses requests that another site sent in a visitor's name (cross-site request forgery). */
export function refuseCrossSite(request: Request): void {
  const [origin, fetchSite] = [request.headers.get('origin'), request.headers.get('sec-fetch-site')];
  const ours = studioOrigin(request.headers.get('host') ?? '');
  if (!isSameOrigin({ origin, fetchSite, ours })) throw new Refusal({ code: 'CROSS_SITE' });
}

/** A change asked for by a signed-in member, from our own pages, at the rate of its kind. */
export const change = (request: Request, kind: RateKind, work: (actor: Actor) => Promise<unknown>): Promise<Response> =>
  respond(async () => {
    refuseCrossSite(request);
    const actor = await actorOrRefuse();
    await limitRate(kind, RATES[kind].by === 'organisation' ? actor.organisationId : actor.userId, systemClock);
    return work(actor);
  });

/** The client's network, of its address as the listener tells it: what attempts are counted by. */
export const networkOfClient = (request: Request): string =>
  networkOf(request.headers.get('x-heathland-address') ?? 'unknown');

export async function actorOrRefuse(): Promise<Actor> {
  const actor = await currentActor();
  if (!actor) throw new Refusal({ code: 'SIGNED_OUT' });
  return actor;
}

/** The body as bytes. What is beyond the limit is read and dropped, so that the browser hears the answer. Error: FILE_TOO_LARGE. */
export async function bytesOf(request: Request, limitBytes: number): Promise<Buffer> {
  // Each part goes to its place as it comes: put together at the end, a large body would hold the thread for as long.
  const told = Number(request.headers.get('content-length') ?? 0);
  let bytes = Buffer.allocUnsafe(Math.max(0, Math.min(told, limitBytes)) || 0);
  let length = 0;
  const reader = request.body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    const { value } = part;
    const end = length + value.length;
    if (end <= limitBytes) {
      if (end > bytes.length) bytes = Buffer.concat([bytes, Buffer.allocUnsafe(Math.max(end, bytes.length))]);
      bytes.set(value, length);
    } else bytes = Buffer.alloc(0);
    length = end;
    if (length > 10 * limitBytes) break;
  }
  if (length > limitBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes });
  return bytes.subarray(0, length);
}

/** The JSON body, as its schema wants it, of at most so many bytes. Errors: INPUT with the field at fault, FILE_TOO_LARGE. */
export async function inputOf<T>(request: Request, schema: z.ZodType<T>, most: number = LIMITS.formBytes): Promise<T> {
  const text = (await bytesOf(request, most)).toString('utf8');
  let json: unknown;
  if (!isModest(text)) throw new Refusal({ code: 'INPUT', field: 'body' });
  try {
    json = wellFormed(JSON.parse(text));
  } catch {
    throw new Refusal({ code: 'INPUT', field: 'body' });
  }
  const parsed = schema.safeParse(json);
  if (!parsed.success)
    throw new Refusal({ code: 'INPUT', field: String(parsed.error.issues[0]?.path.at(-1) ?? 'body') });
  return parsed.data;
}

/** An id from the address; anything else is nothing that could be found. */
export function idOf(raw: string): string {
  if (!/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i.test(raw))
    throw new Refusal({ code: 'NOT_FOUND' });
  return raw.toLowerCase();
}

/** A hash from the address: 64 hexadecimal digits; anything else is nothing that could be found. */
export function hashOf(raw: string): string {
  if (!/^[0-9a-f]{64}$/.test(raw)) throw new Refusal({ code: 'NOT_FOUND' });
  return raw;
}
