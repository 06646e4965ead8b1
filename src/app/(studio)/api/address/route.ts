import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askToMove } from '@/server/services/accounts/own-address';

const Input = z.object({ email: z.string().max(300) });

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => askToMove(actor, (await inputOf(request, Input)).email, systemClock));
