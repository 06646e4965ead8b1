import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { csvOf } from '@/core/sheet';
import { internationalForm, type Detail, type PersonRecord } from '@/core/record';
import { LEADS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { exportedLeads, findLeads, type ExportedLead } from '@/server/db/contacts/leads';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { wholeContactFile } from '@/server/services/contacts/contact-file';
import { wantedOf, type LeadsAsked } from './list-leads';

/** So many leads are read at a time. */
const AT_ONCE = 200;

/** A choice among what a list is narrowed to, or all of it. */
export type ExportAsked = { ids: string[] | 'all'; asked: LeadsAsked };

/** The leads that somebody takes along, in the order that they are listed. Error: NOT_ALLOWED. */
async function* taken(actor: Actor, { ids, asked }: ExportAsked, clock: Clock): AsyncGenerator<ExportedLead[], void> {
  let after: { at: string; id: string } | null = null;
  const wanted = ids === 'all' ? null : new Set(ids);
  for (;;) {
    const stretch: ExportedLead[] = await inTenant(actor, async (tx) => {
      return exportedLeads(tx, await findLeads(tx, await wantedOf(tx, actor, { ...asked, after }, AT_ONCE, clock)));
    });
    const last = stretch.at(-1);
    const some = wanted ? stretch.filter(({ id }) => wanted.has(id)) : stretch;
    if (some.length > 0) yield some;
    if (!last || stretch.length < AT_ONCE) return;
    after = { at: last.last_at.toISOString(), id: last.id };
  }
}

const all = <K extends Detail['kind']>(body: PersonRecord, kind: K) =>
  body.details.filter((detail): detail is Extract<Detail, { kind: K }> => detail.kind === kind);

const titleOf = ({ details }: PersonRecord): string =>
  details.flatMap((detail) => (detail.kind === 'title' ? detail.text : []))[0] ?? '';

/** A row of the table by its columns, which {@link LEADS} names and docs/leads.md describes. */
export const rowOfLead = (lead: ExportedLead): string[] => [
  lead.written_name,
  titleOf(lead.body),
  all(lead.body, 'organisation')[0]?.name ?? '',
  all(lead.body, 'email')
    .map(({ address }) => address)
    .join(', '),
  all(lead.body, 'phone')
    .map((phone) => internationalForm(phone))
    .join(', '),
  lead.state,
  lead.private ? LEADS.columns.yes : LEADS.columns.no,
  lead.owner,
  lead.came_at.toISOString(),
  lead.last_at.toISOString(),
  lead.where,
  lead.due_on ?? '',
  lead.topics.join(', '),
  lead.said,
];

const noted = (actor: Actor, asked: ExportAsked, count: number, clock: Clock) =>
  inTenant(actor, (tx) =>
    recordAudit(tx, actor, 'lead.exported', { kind: 'organisation', id: actor.organisationId }, clock, { count }),
  );

/** Leads as a table of comma-separated values (RFC 4180, UTF-8 with a byte order mark), formula-safe, piece by piece. Error: NOT_ALLOWED. */
export async function* leadsAsCsv(actor: Actor, asked: ExportAsked, clock: Clock): AsyncGenerator<Buffer, void> {
  authorise(actor, 'lead.keep');
  let count = 0;
  yield Buffer.from(`\ufeff${csvOf([LEADS.columns.heads])}`);
  for await (const some of taken(actor, asked, clock)) {
    count += some.length;
    yield Buffer.from(csvOf(some.map(rowOfLead)));
  }
  await noted(actor, asked, count, clock);
}

/** The same as a workbook, whose cells are texts: nothing in them is a formula. Errors: NOT_ALLOWED, TOO_MANY_CHOSEN, TOO_BUSY. */
export async function leadsAsWorkbook(actor: Actor, asked: ExportAsked, clock: Clock): Promise<Buffer> {
  authorise(actor, 'lead.keep');
  const rows: string[][] = [LEADS.columns.heads];
  for await (const some of taken(actor, asked, clock)) {
    rows.push(...some.map(rowOfLead));
    // Programs that open workbooks open no more at ease; a table goes on without an end.
    if (rows.length > LIMITS.rosterRows) throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.rosterRows });
  }
  await noted(actor, asked, rows.length - 1, clock);
  const widths = LEADS.columns.heads.map(() => 22);
  const pages = [{ name: LEADS.title, widths, rows }];
  return compute('workbook', { pages, lists: [] }, { of: actor.organisationId });
}

/** Leads as one contact file, each as it is known, piece by piece. Error: NOT_ALLOWED. */
export async function* leadsAsContacts(actor: Actor, asked: ExportAsked, clock: Clock): AsyncGenerator<Buffer, void> {
  authorise(actor, 'lead.keep');
  let count = 0;
  for await (const some of taken(actor, asked, clock)) {
    count += some.length;
    yield Buffer.from(some.map((lead) => wholeContactFile(lead, actor.organisation.country).text).join(''));
  }
  await noted(actor, asked, count, clock);
}
