import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { FIELDS, fieldsOf, textOf, type Field } from '@/core/roster';
import { csvOf } from '@/core/sheet';
import { ROSTER } from '@/core/words';
import { reconcile } from '@/core/card';
import { card } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import { inTenant } from '@/server/db/pool';
import { rosterRows } from '@/server/db/roster/rows';
import { run } from '@/server/db/roster/runs';
import { choicesOf } from '@/server/db/roster/staff';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { compute } from '@/server/compute';

const words = ROSTER.sheet;

/** What a column is, where its heading does not say it all; examples are of nobody, with numbers and hosts reserved for fiction. */
const EXAMPLES: Record<Field, [example: string, note?: string]> = {
  'staff number': ['0041', words.one],
  name: ['Ilse Varrow', words.oneName],
  prefix: ['Dr'],
  given: ['Ilse'],
  additional: ['Marit'],
  family: ['Varrow'],
  suffix: ['MSc'],
  pronouns: ['she/her'],
  title: ['Rope inspector'],
  department: ['Ropes and towers'],
  firm: ['Tarnhope Cableways'],
  phone: ['+44 20 7946 0182', words.asText],
  extension: ['12'],
  mobile: ['+44 7700 900182', words.asText],
  'own mobile': ['+44 7700 900183', words.private],
  fax: ['+44 20 7946 0183'],
  email: ['ilse@tarnhope.example', words.one],
  'own email': ['ilse@varrow.example', words.private],
  link: ['https://tarnhope.example'],
  profile: ['https://profiles.example/ilse'],
  street: ['1 Valley Station'],
  postcode: ['SB1 4TW'],
  locality: ['Hythe'],
  region: ['Kent'],
  country: ['United Kingdom'],
  languages: ['English, German'],
  licence: ['RI-2214'],
  credential: ['Chartered engineer'],
  team: ['Ropes; Rescue', words.team],
  office: ['Hythe', words.office],
  picture: ['ilse-varrow.jpg', words.picture],
  joins: ['2026-12-01', words.dates],
  leaves: ['2027-06-30', words.dates],
};

/** Fields that our own sheet has columns for in any case: who it is, and when they join and leave. */
const ALWAYS: Field[] = ['staff number', 'given', 'family', 'email', 'joins', 'leaves'];
const NEEDED = new Set<Field>(['staff number', 'given', 'family']);
/** Fields with a list of what others have. */
const LISTED = ['title', 'department', 'firm', 'team', 'office'] as const;

/**
 * An empty sheet for cards like this one: a page with headings that say what is needed and what is optional, with lists of what colleagues
 * have, and a page that explains each column by an example. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function emptySheet(actor: Actor, cardId: string): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'roster.run');
  const { needed, picture, lists, audience } = await inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'roster.run', row.record_id);
    const shows = fieldsOf({ lines: reconcile(row.lines, person.body), record: person.body });
    return { ...shows, lists: await choicesOf(tx, LIMITS.items * 10), audience: row.audience };
  });
  const isNeeded = (field: Field) => NEEDED.has(field) || needed.includes(field) || (field === 'picture' && picture);
  const fields = FIELDS.filter(
    (field) => field !== 'name' && (ALWAYS.includes(field) || isNeeded(field) || OFFERED.has(field)),
  );
  const order = [...fields].sort((a, b) => Number(isNeeded(b)) - Number(isNeeded(a)));
  const isNeededWord = (field: Field) => (isNeeded(field) ? words.needed : words.optional);
  const staff = [order.map((field) => `${ROSTER.fields[field]} (${isNeededWord(field)})`)];
  const guide = [
    [words.column, words.needs, words.example, words.means],
    ...order.map((field) => [ROSTER.fields[field], isNeededWord(field), EXAMPLES[field][0], EXAMPLES[field][1] ?? '']),
  ];
  const choices = LISTED.flatMap((field) => {
    const column = order.indexOf(field);
    return column >= 0 && lists[field].length > 0 ? [{ column, choices: lists[field] }] : [];
  });
  // A hundred empty rows to type into; examples stand on the second page alone.
  const pages = [
    { name: words.staff, widths: order.map(() => 24), rows: staff, empty: 100 },
    { name: words.guide, widths: [20, 10, 30, 70], rows: guide },
  ];
  const bytes = await compute('workbook', { pages, lists: choices }, { of: actor.organisationId });
  return { bytes: Buffer.from(bytes), fileName: `staff-${audience.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.xlsx` };
}

/** Optional columns that most companies fill. */
const OFFERED = new Set<Field>([
  ...(['title', 'department', 'firm', 'phone', 'mobile', 'own mobile', 'team', 'office', 'picture'] as const),
]);

/** The rows of a run as they are in its review, with a column of remarks. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function rowsWithRemarks(
  actor: Actor,
  id: string,
  as: 'csv' | 'xlsx',
): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'roster.run');
  const { of, rows } = await inTenant(actor, async (tx) => {
    const row = await run(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    return {
      of: row,
      rows: await rosterRows(tx, id, { verdict: null, words: '', from: 0, most: LIMITS.rosterRows * 2 }),
    };
  });
  const columns = of.columns.flatMap(({ heading, field }) => (field ? [{ heading, field }] : []));
  const table = [
    [ROSTER.row, ...columns.map(({ heading }) => heading), words.verdict, words.remarks],
    ...rows.map((row) => [
      String(row.at),
      ...columns.map(({ field }) => textOf(row.cells[field])),
      row.verdict ? ROSTER.verdict[row.verdict] : '',
      [
        ...row.remarks.map(
          ({ field, code, with: others }) =>
            `${field ? `${ROSTER.fields[field]}: ` : ''}${ROSTER.remarks[code]}${others ? ROSTER.rowsNamed(others) : ''}`,
        ),
        ...row.changes.map(({ of: what, was, is }) => `${ROSTER.changed[what]}: ${ROSTER.changes(was, is)}`),
      ].join(' '),
    ]),
  ];
  const fileName = `rows-${of.created_at.toISOString().slice(0, 10)}.${as}`;
  // The mark tells spreadsheets that it is UTF-8.
  if (as === 'csv') return { bytes: Buffer.from(`﻿${csvOf(table)}`), fileName };
  const pages = [{ name: words.staff, widths: table[0]!.map(() => 22), rows: table }];
  const bytes = await compute('workbook', { pages, lists: [] }, { of: actor.organisationId });
  return { bytes: Buffer.from(bytes), fileName };
}
