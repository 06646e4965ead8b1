import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { AudienceSchema, LinesSchema } from '@/core/card';
import { LANGUAGES } from '@/core/messages';
import { systemClock } from '@/server/clock';
import { saveCard } from '@/server/services/edit-card';

const Input = z.object({
  baseVersion: z.number().int(),
  lines: LinesSchema,
  audience: AudienceSchema,
  language: z.enum(LANGUAGES).nullable().optional(),
});

export const PUT = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'change', async (actor) =>
    saveCard(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
