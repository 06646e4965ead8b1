import { actorOrRefuse, respond } from '@/app/request/respond';
import { cardsBeside } from '@/server/services/house/house-cards';

/** Cards to look at while a house style is made. */
export const GET = () => respond(async () => cardsBeside(await actorOrRefuse()));
