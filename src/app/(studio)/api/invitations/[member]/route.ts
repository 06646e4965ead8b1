import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { inviteAgain, withdrawInvitation } from '@/server/services/accounts/invitations';

type Params = { params: Promise<{ member: string }> };

/** Sends an invitation again. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => inviteAgain(actor, idOf((await params).member), systemClock));

/** Withdraws it. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => withdrawInvitation(actor, idOf((await params).member), systemClock));
