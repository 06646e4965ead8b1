import { answerRecipient, longestBody, type RecipientAnswer } from '@/recipient';
import { settings } from '@/server/env';
import { bytesOf } from './respond';

/** Answers a recipient where Next.js listens alone, by the same functions as the listener in front of it. */
export async function answerWeb(request: Request, path: string): Promise<Response> {
  // Behind the listener recipients are its own: whatever comes this far by another spelling is nothing.
  if (request.headers.has('x-heathland-address')) return new Response(null, { status: 404 });
  const forwarded = (request.headers.get('x-forwarded-for') ?? '').split(',').map((entry) => entry.trim());
  const answer = await answerRecipient({
    method: request.method,
    path,
    query: new URL(request.url).searchParams,
    // Next.js compresses by itself; a body that we compressed would be compressed twice.
    header: (name) => (name === 'accept-encoding' ? '' : (request.headers.get(name) ?? '')),
    // Next.js appends the socket's address; entries before the trusted proxies' may be invented.
    address: forwarded.at(-(settings().TRUSTED_PROXIES + 1)) ?? forwarded[0] ?? '',
    body: request.method === 'POST' ? await bytesOf(request, longestBody(path)).catch(() => null) : Buffer.alloc(0),
  });
  return toResponse(answer);
}

export const toResponse = ({ status, headers, body }: RecipientAnswer): Response =>
  new Response(status === 204 || status === 304 ? null : webBody(body), { status, headers });

function webBody(body: RecipientAnswer['body']): BodyInit | null {
  if (typeof body === 'string') return body || null;
  if (Buffer.isBuffer(body)) return body.length === 0 ? null : new Uint8Array(body);
  const bytes = body.iterator();
  return new ReadableStream({
    async pull(controller) {
      const { done, value } = (await bytes.next()) as { done?: boolean; value: Uint8Array };
      if (done) controller.close();
      else controller.enqueue(new Uint8Array(value));
    },
    // A recipient who turns away ends the reading as well.
    cancel: () => void body.destroy(),
  });
}
