import { LIMITS } from '@/core/limits';
import { cleanLine, nationalForm, splitName, writtenName, type Detail, type DetailOf, type Name } from '@/core/record';
import { kindOf, textOf, type Cell } from './cells';
import { readDay, type DateOrder } from './dates';
import type { Field } from './fields';
import { SLOT_RULES, SLOTS, type Slot } from './slots';

/** The cells of one row that are of use, by what they hold. */
export type Cells = Partial<Record<Field, Cell>>;

/** What stops a row until somebody has corrected it. */
export const ERRORS = [
  'no name',
  'no key',
  'key twice',
  'unreadable',
  'scientific',
  'formula error',
  'too long',
  'leaves first',
  'no office',
] as const;
/** What somebody has to decide. */
export const DOUBTS = ['namesake', 'another person'] as const;
/** What was understood although it stood there otherwise, and what is left as it is. */
export const HINTS = ['zero added', 'day number', 'kept'] as const;
export type RemarkCode = (typeof ERRORS)[number] | (typeof DOUBTS)[number] | (typeof HINTS)[number];

/** A remark on a cell, or on the row; `with` are rows that it has to do with, counted as the sheet counts them. */
export type Remark = { field: Field | null; code: RemarkCode; with?: number[] };
export const isError = ({ code }: Remark): boolean => (ERRORS as readonly string[]).includes(code);
export const isDoubt = ({ code }: Remark): boolean => (DOUBTS as readonly string[]).includes(code);

/** A row as it was understood; what its sheet does not say is null or absent. */
export type RowRead = {
  staffNumber: string | null;
  mail: string | null;
  name: Name | null;
  details: Partial<Record<Slot, Detail>>;
  teams: string[] | null;
  office: string | null;
  picture: string | null;
  joins: string | null;
  leaves: string | null;
  remarks: Remark[];
};

/** The staff number by which two are the same, however many zeros a spreadsheet took away before it. */
export const staffKey = (written: string): string => written.toUpperCase().replace(/^0+(?=.)/, '');

/** By what a row's person is known: the staff number, else the mail address; null where it has neither. */
export const keyOf = ({ staffNumber, mail }: Pick<RowRead, 'staffNumber' | 'mail'>): string | null =>
  staffNumber !== null ? `staff ${staffKey(staffNumber)}` : mail !== null ? `mail ${mail}` : null;

/** A number that a spreadsheet has rounded, as text or as the rounded number itself. */
const isRounded = (cell: Cell): boolean =>
  /^\d+(?:[.,]\d+)?e\+?\d+$/i.test(textOf(cell).trim()) ||
  (kindOf(cell) === 'number' && /^[1-9]\d{3,}0{6}$/.test(textOf(cell)));

const LONGEST: Partial<Record<Field, number>> = {
  name: LIMITS.name,
  'staff number': 60,
  team: 200,
  office: 80,
  picture: 200,
};

/**
 * Reads the cells of a row. `country` (ISO 3166-1 alpha-2) reads national numbers, `order` dates in figures. What cannot be read is in
 * `remarks` beside its field; nothing throws. Sources: readers of the record (RFC 6350 names, E.164), ECMA-376 for day numbers.
 */
export function readRow(cells: Cells, { country, order }: { country: string; order: DateOrder }): RowRead {
  const remarks: Remark[] = [];
  const remark = (field: Field | null, code: RemarkCode) => void remarks.push({ field, code });
  const text = (field: Field): string => cleanLine(textOf(cells[field])).text;
  for (const [field, cell] of Object.entries(cells) as [Field, Cell][]) {
    if (kindOf(cell) === 'error') remark(field, 'formula error');
    else if (textOf(cell).length > (LONGEST[field] ?? LIMITS.text)) remark(field, 'too long');
  }
  const wrong = () => new Set(remarks.map(({ field }) => field));
  const day = (field: 'joins' | 'leaves'): string | null => {
    if (!text(field) || wrong().has(field)) return null;
    const read = readDay(cells[field]!, order);
    if (!read) return (remark(field, 'unreadable'), null);
    if (read.counted) remark(field, 'day number');
    return read.day;
  };
  const [joins, leaves] = [day('joins'), day('leaves')];
  if (joins && leaves && leaves < joins) remark('leaves', 'leaves first');
  const details: RowRead['details'] = {};
  for (const slot of SLOTS) {
    const { fields, read } = SLOT_RULES[slot];
    const given = fields.filter((field) => text(field) !== '');
    if (given.length === 0 || given.some((field) => wrong().has(field))) continue;
    const rounded = given.find((field) => /phone|mobile|fax/.test(field) && isRounded(cells[field]!));
    if (rounded) {
      remark(rounded, 'scientific');
      continue;
    }
    const detail = read(text, { id: idOf(slot), country });
    if (!detail.ok) remark(given[0]!, 'unreadable');
    else {
      details[slot] = detail.value;
      if (detail.value.kind === 'phone' && lostZero(text(fields[0]!), detail.value, country))
        remark(fields[0]!, 'zero added');
    }
  }
  const name = nameOf(text);
  if (!name) remark(null, 'no name');
  const staffNumber = text('staff number') || null;
  const { email } = details;
  const mail = email?.kind === 'email' ? email.address.toLowerCase() : null;
  const unread = remarks.some(({ field }) => field === 'email' || field === 'staff number');
  if (!staffNumber && !mail && !unread) remark(null, 'no key');
  const teams = text('team')
    ? [
        ...new Set(
          text('team')
            .split(/\s*[;,|]\s*/)
            .filter(Boolean),
        ),
      ]
    : null;
  const [office, picture] = [text('office') || null, text('picture') || null];
  return { staffNumber, mail, name, details, teams, office, picture, joins, leaves, remarks };
}

/** The id that a slot's detail gets where nothing else gives it one. */
export const idOf = (slot: Slot): string => `staff-${slot.replace(' ', '-')}`;

/** Whether a national number is written without the zero that it is dialled with, as spreadsheets leave it. */
const lostZero = (typed: string, phone: DetailOf<'phone'>, country: string): boolean =>
  /^[1-9][\d ]+$/.test(typed) && nationalForm({ number: phone.number }, country).startsWith('0');

/** The name: of its parts, the rest of them read out of a full name ("Varrow, Ilse" or "Ilse Varrow") where only that is given. */
function nameOf(text: (field: Field) => string): Name | null {
  const parts = {
    prefix: text('prefix'),
    given: text('given'),
    additional: text('additional'),
    family: text('family'),
  };
  const suffix = text('suffix');
  if (parts.given || parts.family) return { ...parts, suffix, written: '' };
  const whole = text('name');
  if (!whole) return null;
  const [, family, given] = /^([^,]+), *([^,]+)$/.exec(whole) ?? [];
  const split =
    family && given ? { ...splitName(`${given} ${family}`), given, family, additional: '' } : splitName(whole);
  const name = { ...split, prefix: parts.prefix || split.prefix, suffix: suffix || split.suffix, written: '' };
  return writtenName(name) ? name : null;
}
