import { z } from 'zod';
import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { readColumns } from '@/server/services/roster/begin-run';

const Asked = z.object({
  sheet: z.coerce.number().int().min(0).max(200).catch(0),
  headings: z.coerce.number().int().min(1).max(1_000).nullable().catch(null),
});

/** The columns of a sheet, given as bytes, to be looked at; `?sheet=` and `?headings=` say where they are. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) => {
    const query = new URL(request.url).searchParams;
    const asked = Asked.parse({ sheet: query.get('sheet') ?? 0, headings: query.get('headings') || null });
    return readColumns(actor, await bytesOf(request, LIMITS.sheetBytes), asked);
  });
