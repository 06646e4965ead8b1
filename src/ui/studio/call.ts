import { err, ok, type Problem, type Result } from '@/core/errors';

type Confirm = () => Promise<boolean>;
let confirm: Confirm | null = null;

/** Says how somebody is asked for their password once more; answers with what takes that back. */
export function confirmWith(ask: Confirm): () => void {
  confirm = ask;
  return () => {
    if (confirm === ask) confirm = null;
  };
}

/** Asks the studio's server, as {@link ask}; where the password must be typed once more, it is asked for, and then again. */
export async function call<T>(path: string, options: CallOptions = {}): Promise<Result<T>> {
  const first = await ask<T>(path, options);
  const stale = !first.ok && first.problem.code === 'PASSWORD_STALE';
  return stale && confirm && (await confirm()) ? ask<T>(path, options) : first;
}

type CallOptions = { method?: 'GET' | 'POST' | 'PUT' | 'DELETE'; json?: unknown; bytes?: Blob };

/** Asks the studio's server. No answer at all becomes OFFLINE; an answer that cannot be read UNEXPECTED. */
async function ask<T>(path: string, options: CallOptions): Promise<Result<T>> {
  const body = options.bytes ?? (options.json === undefined ? undefined : JSON.stringify(options.json));
  try {
    const response = await fetch(path, {
      method: options.method ?? (body === undefined ? 'GET' : 'POST'),
      headers: options.json === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body ?? null,
    });
    const answer = (await response.json().catch(() => null)) as (T & { problem?: Problem }) | null;
    if (answer?.problem) return err(answer.problem);
    return response.ok && answer
      ? ok(answer)
      : err({ code: response.status === 503 ? 'DATABASE_UNAVAILABLE' : 'UNEXPECTED' });
  } catch {
    return err({ code: 'OFFLINE' });
  }
}
