import { bad, good, type Problem, type Result } from '@/core/errors';

/** Asks the studio's server. No answer at all becomes OFFLINE; an answer that cannot be read UNEXPECTED. */
export async function call<T>(
  path: string,
  options: { method?: 'GET' | 'POST' | 'PUT' | 'DELETE'; json?: unknown; bytes?: Blob } = {},
): Promise<Result<T>> {
  const body = options.bytes ?? (options.json === undefined ? undefined : JSON.stringify(options.json));
  try {
    const response = await fetch(path, {
      method: options.method ?? (body === undefined ? 'GET' : 'POST'),
      headers: options.json === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body ?? null,
    });
    const answer = (await response.json().catch(() => null)) as (T & { problem?: Problem }) | null;
    if (answer?.problem) return bad(answer.problem);
    return response.ok && answer
      ? good(answer)
      : bad({ code: response.status === 503 ? 'DATABASE_AWAY' : 'UNEXPECTED' });
  } catch {
    return bad({ code: 'OFFLINE' });
  }
}
