import { FIRST_OPTIONS } from '@/core/roster';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { beginRun, giveSheet, readColumns } from '@/server/services/roster/begin-run';
import { ROSTER_ROWS } from './people';

/** An export of a personnel system, as it is: headings in German, columns that are nobody's business, and what spreadsheets do to numbers. */
const HEADINGS = 'Personal-Nr.;Nachname;Vorname;Funktion;Abteilung;Firma;Telefon;Handy;E-Mail;Team;Eintritt;Gehalt';

/** The sheet of the winter season waits for its review: who joins, who changes, and what somebody has to look at. */
export async function bringWinterSheet(actor: Actor, cardId: string): Promise<void> {
  const bytes = Buffer.from([HEADINGS, ...ROSTER_ROWS].join('\r\n'));
  const read = await readColumns(actor, bytes, { sheet: 0, headings: null });
  const columns = read.columns.map(({ heading, field }) => ({ heading, field }));
  const place = { sheet: read.sheet, headingRow: read.headingRow };
  const asked = { name: 'Winter season', cardId, columns, place, options: FIRST_OPTIONS, keepAs: 'Personnel system' };
  const { id } = await beginRun(actor, asked, systemClock);
  await giveSheet(actor, id, bytes, systemClock);
}
