import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { HouseStyleSchema } from '@/core/house';
import { systemClock } from '@/server/clock';
import { previewHouse } from '@/server/services/house/house-proofs';

const Input = z.object({ style: HouseStyleSchema });

/** What saving a house style would change. */
export const POST = (request: Request) =>
  change(request, 'house', async (actor) =>
    previewHouse(actor, (await inputOf(request, Input, LIMITS.jsonBytes)).style, systemClock),
  );
