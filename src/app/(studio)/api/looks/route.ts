import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { LookSchema } from '@/core/look';
import { systemClock } from '@/server/clock';
import { keepLook } from '@/server/services/house/looks';

const Input = z.object({ name: z.string().trim().min(1).max(LIMITS.label), look: LookSchema });

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => keepLook(actor, await inputOf(request, Input), systemClock));
