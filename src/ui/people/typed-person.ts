import {
  readBlock,
  readDetail,
  readName,
  type Detail,
  type NameKind,
  type Pattern,
  type PersonRecord,
  type TypedKind,
} from '@/core/record';
import { freshId } from '@/ui/record/fresh-id';

/** What the short form holds; `more` came with a pasted signature. */
export type TypedPerson = {
  name: string;
  /** What it stands for where that is no person. */
  kind?: NameKind;
  title: string;
  firm: string;
  phone: string;
  email: string;
  forWork: { phone: boolean; email: boolean };
  photo: string;
  more: Detail[];
};

const FIELDS = [
  ['title', 'title'],
  ['organisation', 'firm'],
  ['phone', 'phone'],
  ['email', 'email'],
] as const satisfies readonly [TypedKind, keyof TypedPerson][];

/** The record that the form would make, as far as it can be read. */
export function recordOf(typed: TypedPerson, country: string): PersonRecord {
  const details = FIELDS.flatMap(([kind, field]): Detail[] => {
    const uses = (field === 'phone' || field === 'email') && typed.forWork[field] ? (['work'] as const) : [];
    const read = readDetail(kind, typed[field], { id: field, country, uses: [...uses] });
    return typed[field].trim() && read.ok ? [read.value] : [];
  });
  const photo: Detail[] = typed.photo
    ? [{ kind: 'photo', id: 'photo', label: '', preferred: false, picture: typed.photo }]
    : [];
  return { name: readName(typed.name || '…', typed.kind), details: [...photo, ...details, ...typed.more], kept: [] };
}

/** A pasted signature spread over the form: what it has a field for goes there while that is empty, the rest comes along. */
export function withSignature(
  typed: TypedPerson,
  text: string,
  read: { country: string; zone: string; patterns: readonly Pattern[] },
): TypedPerson {
  const { name, details } = readBlock(text, { ...read, freshId });
  const next = { ...typed, name: typed.name.trim() || (name ?? ''), more: [...typed.more] };
  for (const detail of details) {
    const uses: readonly string[] = 'uses' in detail ? detail.uses : [];
    if (detail.kind === 'title' && !next.title.trim()) next.title = detail.text;
    else if (detail.kind === 'organisation' && !next.firm.trim()) next.firm = detail.name;
    else if (detail.kind === 'email' && !next.email.trim()) next.email = detail.address;
    else if (detail.kind === 'phone' && !next.phone.trim() && uses.length === 0) next.phone = detail.number;
    else if (!next.more.some((each) => JSON.stringify({ ...each, id: '' }) === JSON.stringify({ ...detail, id: '' })))
      next.more.push(detail);
  }
  return next;
}
