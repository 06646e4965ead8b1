import { actorOrRefuse, respond } from '@/app/request/respond';
import { readHouseProofs } from '@/server/services/house/house-proofs';

export const GET = () => respond(async () => readHouseProofs(await actorOrRefuse()));
