import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { PieceSchema } from '@/core/print';
import { systemClock } from '@/server/clock';
import { askTogether } from '@/server/services/pieces/together';

const Input = z.object({
  records: z.array(z.uuid()).max(LIMITS.contactsAtOnce),
  piece: PieceSchema,
  placement: z.string().max(300),
  copies: z.number().int().min(0).max(1_000_000),
});

/** Asks for the cards of several people in one file for print. */
export const POST = (request: Request) =>
  change(request, 'export', async (actor) => askTogether(actor, await inputOf(request, Input), systemClock));
