import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { listTemplates, saveTemplate } from '@/server/services/hand-outs/templates';

const Input = z.object({ name: z.string().max(300), body: z.string().max(LIMITS.text) });

/** Words that the member keeps for messages. */
export const GET = () => respond(async () => listTemplates(await actorOrRefuse()));

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => saveTemplate(actor, await inputOf(request, Input)));
