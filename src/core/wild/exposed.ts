import { isWarned, privacyOf, type Privacy, type TypeOf } from '@/core/card';
import { HOUSE_ID } from '@/core/house';
import type { Detail, PersonRecord } from '@/core/record';
import type { Carried } from './carried';
import { nameValue, normalised, valueShown } from './value';

/** A value that is given out, as it stands where it is given out. */
export type GivenOut = Pick<Carried, 'line' | 'kind' | 'value' | 'source' | 'detail'>;

const isNumber = (detail: Detail, value: string): boolean =>
  detail.kind === 'phone' && detail.number === value.split(';')[0];

/** The detail of a record that a value is: by its line, or of what is recognised within other words by itself. */
function detailOf({ line, kind, value, source }: GivenOut, { details }: PersonRecord): Detail | undefined {
  if (source === 'inside')
    return details.find((each) =>
      each.kind === kind && each.kind === 'phone' ? isNumber(each, value) : isSame(each, kind, value),
    );
  return details.find((each) => each.id === line && isSame(each, kind, value));
}

const isSame = (detail: Detail, kind: string, value: string): boolean =>
  detail.kind === kind && detail.kind !== 'photo' && detail.kind !== 'logo' && normalised(detail) === value;

/**
 * Why a value that is given out is private, by what its record says of it today; null where it is not. What the record no longer says is judged as
 * it was given out, a number or address within other words as one of which nothing is marked. The house style is nobody's own.
 */
export function exposureOf(given: GivenOut, record: PersonRecord, typeOf: TypeOf): Privacy | null {
  const { line, source, detail } = given;
  if (source === 'house' || source === 'typed' || detail.kind === 'name' || line.startsWith(HOUSE_ID)) return null;
  const privacy = privacyOf(detailOf(given, record) ?? detail, record, typeOf);
  return isWarned(privacy) ? privacy : null;
}

/** What is kept of a value that went along with a contact. */
export type PassedOn = Pick<Carried, 'kind' | 'value' | 'detail'>;

/** The values, as people read them, that a contact no longer says anywhere. */
export function noLongerSaid(passed: PassedOn[], record: PersonRecord): string[] {
  const said = new Set(
    [nameValue(record), ...record.details].flatMap((each) =>
      each.kind === 'photo' || each.kind === 'logo' ? [] : [`${each.kind} ${normalised(each)}`],
    ),
  );
  return passed.filter(({ kind, value }) => !said.has(`${kind} ${value}`)).map(({ detail }) => valueShown(detail));
}
