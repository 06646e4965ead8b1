import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { AudiencePresetsSchema } from '@/core/card';
import { systemClock } from '@/server/clock';
import { readAudiences, saveAudiences } from '@/server/services/organisation/audiences';

const Input = z.object({ audiences: AudiencePresetsSchema.nullable() });

export const GET = () => respond(async () => ({ audiences: await readAudiences(await actorOrRefuse()) }));

export const PUT = (request: Request) =>
  change(request, 'change', async (actor) =>
    saveAudiences(actor, (await inputOf(request, Input)).audiences, systemClock),
  );
