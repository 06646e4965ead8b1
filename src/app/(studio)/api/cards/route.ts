import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { AudienceSchema } from '@/core/card';
import { systemClock } from '@/server/clock';
import { createCard } from '@/server/services/edit-card';

const Input = z.object({ recordId: z.uuid(), audience: AudienceSchema, isPrivate: z.boolean() });

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => createCard(actor, await inputOf(request, Input), systemClock));
