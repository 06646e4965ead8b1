import { change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { deleteOrganisation } from '@/server/services/organisation/delete-organisation';

export const DELETE = (request: Request) =>
  change(request, 'change', (actor) => deleteOrganisation(actor, systemClock));
