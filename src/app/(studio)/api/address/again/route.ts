import { change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askAgain } from '@/server/services/accounts/own-address';

export const POST = (request: Request) => change(request, 'change', (actor) => askAgain(actor, systemClock));
