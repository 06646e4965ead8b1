import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { DetailSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { changeContact, openContact, removeContact } from '@/server/services/contacts/contacts';

const Input = z.object({
  baseVersion: z.int().min(1),
  name: z.string().max(300),
  details: z.array(DetailSchema).max(LIMITS.details),
  ticked: z.array(z.string().max(40)).max(LIMITS.details),
});

type Params = { params: Promise<{ contact: string }> };

/** A contact with its ledger, and how it was referred so far. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => openContact(await actorOrRefuse(), idOf((await params).contact), systemClock));

/** What a contact is, and which of its lines go along. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    changeContact(actor, idOf((await params).contact), await inputOf(request, Input), systemClock),
  );

/** Removes a contact with its links. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => removeContact(actor, idOf((await params).contact), systemClock));
