import { refuseCrossSite, respond } from '@/app/request/respond';
import { dropSession, sessionToken } from '@/app/request/session';
import { endSession } from '@/server/services/accounts/sessions';

export const POST = (request: Request) =>
  respond(async () => {
    refuseCrossSite(request);
    const token = await sessionToken();
    if (token) await endSession(token);
    await dropSession();
  });
