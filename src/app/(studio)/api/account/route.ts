import { change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { deleteOwnAccount } from '@/server/services/organisation/delete-organisation';

/** Ends the member's own account. */
export const DELETE = (request: Request) => change(request, 'change', (actor) => deleteOwnAccount(actor, systemClock));
