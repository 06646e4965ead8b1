import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { confirmPassword, readFresh } from '@/server/services/accounts/fresh';

const Input = z.object({ password: z.string().max(1_000) });

/** Whether what needs a fresh password may be done now. */
export const GET = () => respond(async () => readFresh(await actorOrRefuse(), systemClock));

/** The password once more. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) =>
    confirmPassword(actor, (await inputOf(request, Input)).password, systemClock),
  );
