import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { beginSecondFactor, confirmSecondFactor, dropSecondFactor } from '@/server/services/accounts/second-factor';

const Input = z.object({ code: z.string().max(40) });

/** Begins a second factor: the key for an authenticator app. */
export const POST = (request: Request) => change(request, 'change', (actor) => beginSecondFactor(actor, systemClock));

/** The app's first code; answers with recovery codes. */
export const PUT = (request: Request) =>
  change(request, 'change', async (actor) =>
    confirmSecondFactor(actor, (await inputOf(request, Input)).code, systemClock),
  );

export const DELETE = (request: Request) => change(request, 'change', (actor) => dropSecondFactor(actor, systemClock));
