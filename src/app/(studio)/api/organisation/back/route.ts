import { change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { bringBackOrganisation } from '@/server/services/organisation/delete-organisation';

/** Brings a deleted organisation back. */
export const POST = (request: Request) =>
  change(request, 'change', (actor) => bringBackOrganisation(actor, systemClock));
