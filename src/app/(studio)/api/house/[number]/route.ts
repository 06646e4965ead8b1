import { actorOrRefuse, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { readHouseVersion } from '@/server/services/house/house-style';

/** An earlier version of the house style. */
export const GET = (_request: Request, { params }: { params: Promise<{ number: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const { number } = await params;
    if (!/^[1-9]\d{0,6}$/.test(number)) throw new Refusal({ code: 'NOT_FOUND' });
    return readHouseVersion(actor, Number(number));
  });
