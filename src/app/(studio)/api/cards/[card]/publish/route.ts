import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { VersionSchema } from '@/app/request/well-formed';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { publishCard } from '@/server/services/publishing/publish-card';

const Input = z.object({
  baseVersion: VersionSchema,
  recordVersion: VersionSchema.optional(),
  address: z.string().max(200),
  overrideContrast: z.boolean().optional(),
  note: z.string().max(LIMITS.revisionNote).optional(),
  ends: z
    .object({ at: z.iso.datetime({ offset: true }), with: z.enum(['resting', 'retired']) })
    .nullable()
    .optional(),
});

export const POST = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'publish', async (actor) =>
    publishCard(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
