import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { ROLES } from '@/core/access';
import { systemClock } from '@/server/clock';
import { changeMember, removeMember } from '@/server/services/accounts/members';

const Input = z.object({ role: z.enum(ROLES), ownRecord: z.uuid().nullable() });
type Context = { params: Promise<{ member: string }> };

export const PUT = (request: Request, { params }: Context) =>
  change(request, 'change', async (actor) =>
    changeMember(actor, idOf((await params).member), await inputOf(request, Input), systemClock),
  );

export const DELETE = (request: Request, { params }: Context) =>
  change(request, 'change', async (actor) => removeMember(actor, idOf((await params).member), systemClock));
