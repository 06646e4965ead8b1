import { respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { answerPhone } from '@/server/services/pieces/answer-phone';

type Params = { params: Promise<{ path: string[] }> };

/** Phones that keep a pass ask here, with a token and without a session. */
const answer =
  (method: 'GET' | 'POST' | 'DELETE') =>
  (request: Request, { params }: Params): Promise<Response> =>
    respond(async () => {
      const { path } = await params;
      const header = (name: string) => request.headers.get(name) ?? '';
      const { status, headers, body } = await answerPhone({ method, path, header }, systemClock);
      return new Response(body && new Uint8Array(body), { status, headers });
    });

export const GET = answer('GET');
export const POST = answer('POST');
export const DELETE = answer('DELETE');
