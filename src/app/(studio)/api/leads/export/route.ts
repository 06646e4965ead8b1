import { z } from 'zod';
import { actorOrRefuse, respond } from '@/app/request/respond';
import { leadsAsked } from '@/app/request/leads';
import { inParts, tableFile, tableForm } from '@/app/request/table-file';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { leadsAsContacts, leadsAsCsv, leadsAsWorkbook } from '@/server/services/replies/export-leads';

const Ids = z.array(z.uuid()).max(500);

/** Leads as a download: `?as=` `csv`, `xlsx` or `vcf`, `?ids=` a choice, and what the list is narrowed to. A GET, so that the browser saves it as it comes. */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    const { searchParams } = new URL(request.url);
    const ids = Ids.safeParse((searchParams.get('ids') ?? '').split(',').filter(Boolean));
    const asked = {
      ids: ids.success && ids.data.length > 0 ? ids.data : ('all' as const),
      asked: leadsAsked((name) => searchParams.get(name)),
    };
    switch (searchParams.get('as')) {
      case 'vcf':
        return inParts(leadsAsContacts(actor, asked, systemClock), 'leads.vcf', 'text/vcard; charset=utf-8');
      case 'csv':
        return inParts(leadsAsCsv(actor, asked, systemClock), 'leads.csv', 'text/csv; charset=utf-8');
      default:
        return tableFile(
          { bytes: await leadsAsWorkbook(actor, asked, systemClock), fileName: 'leads.xlsx' },
          tableForm(searchParams.get('as') ?? ''),
        );
    }
  });
