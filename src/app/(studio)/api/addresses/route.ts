import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askPrefix } from '@/server/services/publishing/address-prefix';

const Input = z.object({ prefix: z.string().max(60) });

export const PUT = (request: Request) =>
  change(request, 'change', async (actor) => askPrefix(actor, (await inputOf(request, Input)).prefix, systemClock));
