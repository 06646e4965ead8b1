import { actorOrRefuse, respond } from '@/app/request/respond';
import { listPlacements } from '@/server/services/hand-outs/occasions';

/** Where hand-outs of the organisation are, those lately used first: what a field for a place suggests. */
export const GET = () => respond(async () => ({ placements: await listPlacements(await actorOrRefuse()) }));
