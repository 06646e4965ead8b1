import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { fetchOccasion } from '@/server/services/hand-outs/hand-over';

const Input = z.object({ occasionId: z.uuid() });

/** Codes of the member's own cards at an occasion, made before a phone is there without a network. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) =>
    fetchOccasion(actor, (await inputOf(request, Input)).occasionId, systemClock),
  );
