import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { networkOfClient } from '@/app/request/respond';
import { deviceToken, keepDevice, keepSession, sessionToken } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { signIn } from '@/server/services/accounts/sign-in';

const Input = z.object({
  email: z.string().max(300),
  password: z.string().max(1_000),
  mailed: z.string().max(10).optional(),
  code: z.string().max(40).optional(),
});

export const POST = (request: Request) =>
  entered(request, Input, { onto: '/', from: '/sign-in' }, async (input) => {
    const { token, device } = await signIn(
      {
        ...input,
        from: networkOfClient(request),
        userAgent: request.headers.get('user-agent') ?? '',
        device: await deviceToken(),
        session: await sessionToken(),
      },
      systemClock,
    );
    await keepDevice(device);
    await keepSession(token);
  });
