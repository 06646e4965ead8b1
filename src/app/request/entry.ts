import type { z } from 'zod';
import { PASSWORD_LENGTH } from '@/core/access';
import { Refusal, type Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { bytesOf, inputOf, refuseCrossSite, respond } from './respond';

const isForm = (request: Request): boolean =>
  (request.headers.get('content-type') ?? '').startsWith('application/x-www-form-urlencoded');

/**
 * An entry that works without script as well: what a form of a page sends is taken like JSON, and answered with the way to go, which
 * is `onto`, or back to `from` with the problem's code.
 */
export async function entered<T>(
  request: Request,
  schema: z.ZodType<T>,
  { onto, from }: { onto: string; from: string },
  work: (input: T) => Promise<unknown>,
): Promise<Response> {
  if (!isForm(request))
    return respond(async () => {
      refuseCrossSite(request);
      return work(await inputOf(request, schema));
    });
  const to = (place: string) => new Response(null, { status: 303, headers: { Location: place } });
  const answered = await respond(async () => {
    refuseCrossSite(request);
    const text = (await bytesOf(request, LIMITS.formBytes)).toString('utf8');
    const parsed = schema.safeParse(Object.fromEntries(new URLSearchParams(text.replaceAll('%00', ''))));
    if (!parsed.success) throw new Refusal({ code: 'INPUT', field: 'body' });
    await work(parsed.data);
  });
  if (answered.ok) return to(onto);
  const { problem } = (await answered.json()) as { problem: { code: string } };
  return to(`${from}?problem=${problem.code}`);
}

/** Problems of an entry that need nothing but their code to be said, with what their wording wants. */
const TOLD: Partial<Record<Problem['code'], Problem>> = {
  INPUT: { code: 'INPUT', field: 'body' },
  NAME_MISSING: { code: 'NAME_MISSING' },
  EMAIL_UNREADABLE: { code: 'EMAIL_UNREADABLE' },
  SIGN_UP_CLOSED: { code: 'SIGN_UP_CLOSED' },
  EMAIL_IN_USE: { code: 'EMAIL_IN_USE' },
  PASSWORD_SHORT: { code: 'PASSWORD_SHORT', shortest: PASSWORD_LENGTH.shortest },
  SECOND_FACTOR_NEEDED: { code: 'SECOND_FACTOR_NEEDED' },
  SECOND_FACTOR_WRONG: { code: 'SECOND_FACTOR_WRONG' },
  PASSWORD_WEAK: { code: 'PASSWORD_WEAK', why: 'short' },
  SIGN_IN_FAILED: { code: 'SIGN_IN_FAILED' },
  MAIL_CLOSED: { code: 'MAIL_CLOSED' },
  TIME_ZONE_UNKNOWN: { code: 'TIME_ZONE_UNKNOWN' },
  TOO_MANY_REQUESTS: { code: 'TOO_MANY_REQUESTS', seconds: 60 },
  DATABASE_UNAVAILABLE: { code: 'DATABASE_UNAVAILABLE' },
};

/** The problem that an address tells after a form was sent without script. */
export function toldProblem(code: string | undefined): Problem | null {
  if (!code) return null;
  return Object.entries(TOLD).find(([each]) => each === code)?.[1] ?? { code: 'UNEXPECTED' };
}
