import { change, idOf, inputOf } from '@/app/request/respond';
import { OfficeSchema } from '@/core/house';
import { systemClock } from '@/server/clock';
import { removeOffice, saveOffice } from '@/server/services/house/offices';

type Params = { params: Promise<{ office: string }> };

/** Saves a further version of an office, in force on every card of its people. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveOffice(actor, idOf((await params).office), await inputOf(request, OfficeSchema), systemClock),
  );

/** Removes an office; its people stay. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => removeOffice(actor, idOf((await params).office), systemClock));
