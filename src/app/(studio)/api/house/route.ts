import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { VersionSchema } from '@/app/request/well-formed';
import { HouseStyleSchema } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { readHouse, saveHouse } from '@/server/services/house/house-style';

const Input = z.object({
  baseNumber: VersionSchema,
  style: HouseStyleSchema,
  overrideContrast: z.boolean().optional(),
  note: z.string().max(LIMITS.revisionNote),
});

export const GET = () => respond(async () => readHouse(await actorOrRefuse()));

export const PUT = (request: Request) =>
  change(request, 'change', async (actor) =>
    saveHouse(actor, await inputOf(request, Input, LIMITS.jsonBytes), systemClock),
  );
