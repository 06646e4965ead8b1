import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { showOnCards } from '@/server/services/records/show-added';

const Input = z.object({
  details: z.array(z.string().max(40)).min(1).max(LIMITS.details),
  onCards: z.array(z.uuid()).min(1).max(LIMITS.cards),
});

/** Shows details of a record on some of its cards, as somebody asked for. */
export const POST = (request: Request, { params }: { params: Promise<{ record: string }> }) =>
  change(request, 'change', async (actor) =>
    showOnCards(actor, idOf((await params).record), await inputOf(request, Input), systemClock),
  );
