import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { ROLES } from '@/core/access';
import { systemClock } from '@/server/clock';
import { addMember } from '@/server/services/accounts/members';

const typed = z.string().max(1_000);
const Input = z.object({
  name: typed,
  email: typed,
  password: typed,
  role: z.enum(ROLES),
  ownRecord: z.uuid().nullable(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => addMember(actor, await inputOf(request, Input), systemClock));
