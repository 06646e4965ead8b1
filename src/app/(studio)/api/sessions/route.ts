import { change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { endOtherSessions } from '@/server/services/accounts/sessions';

/** Ends all sessions of the member but this one. */
export const DELETE = (request: Request) => change(request, 'change', (actor) => endOtherSessions(actor, systemClock));
