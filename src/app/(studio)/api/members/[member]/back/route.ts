import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { bringBackMember } from '@/server/services/accounts/members';

const Input = z.object({ password: z.string().max(1_000) });

/** Takes a removed member back. */
export const POST = (request: Request, { params }: { params: Promise<{ member: string }> }) =>
  change(request, 'change', async (actor) =>
    bringBackMember(actor, idOf((await params).member), (await inputOf(request, Input)).password, systemClock),
  );
