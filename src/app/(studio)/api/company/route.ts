import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { CompanyDefaultsSchema } from '@/core/company';
import { LIMITS } from '@/core/limits';
import { LEGAL } from '@/core/page';
import { systemClock } from '@/server/clock';
import { saveSettings } from '@/server/services/organisation/company-settings';

const Input = z.object({
  name: z.string().max(300),
  country: z.string().regex(/^[A-Z]{2}$/),
  timeZone: z.string().max(60),
  defaults: CompanyDefaultsSchema,
  links: z.partialRecord(z.enum(LEGAL), z.string().max(LIMITS.link)),
});

/** The organisation's name, country, time zone, the links below its pages and what its members begin with. */
export const PUT = (request: Request) =>
  change(request, 'house', async (actor) => saveSettings(actor, await inputOf(request, Input), systemClock));
