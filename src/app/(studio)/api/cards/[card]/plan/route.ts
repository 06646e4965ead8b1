import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { VersionSchema } from '@/app/request/well-formed';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { planCard } from '@/server/services/publishing/plans';

const instant = z.iso.datetime({ offset: true }).nullable();
const Input = z.object({
  seen: z.object({ version: VersionSchema, recordVersion: VersionSchema }).optional(),
  publishAt: instant,
  address: z.string().max(200),
  note: z.string().max(LIMITS.revisionNote),
  endsAt: instant,
  endsWith: z.enum(['resting', 'retired']).nullable(),
});

/** Plans when a card is published and when it ends; both null takes the plan back. */
export const PUT = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'publish', async (actor) =>
    planCard(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
