import { ok, type Result } from '@/core/errors';
import { defaultLabel, readDetail, type Detail, type DetailOf, type TypedKind } from '@/core/record';
import { HOUSE_ID, NO_HOUSE, type HouseLine, type HouseStyle } from './style';

/** What an office says of itself, in the order in which cards show it; an address has its map with it. */
export const OFFICE_SLOTS = ['address', 'phone', 'hours', 'legal'] as const;
export type OfficeSlot = (typeof OFFICE_SLOTS)[number];

/** The kind of detail that each is. */
export const OFFICE_KINDS = {
  address: 'address',
  phone: 'phone',
  hours: 'hours',
  legal: 'note',
} as const satisfies Record<OfficeSlot, TypedKind>;

/** The id of an office's line, the same in every office: whoever moves has the new one in the place of the old one. It begins as those of a house style. */
export const officeLine = (slot: OfficeSlot): string => `${HOUSE_ID}office-${slot}`;
export const isOfficeLine = (id: string): boolean => OFFICE_SLOTS.some((slot) => id === officeLine(slot));

/** An office, to which people belong by reference, so that a move is one edit. `number` counts its versions from 1. */
export type Office = { id: string; name: string; number: number; lines: HouseLine[] };

/** What a line is called that nobody has called anything: as cards call it in each language, the switchboard apart from people's own numbers. */
const calledFirst = (slot: OfficeSlot, detail: Detail): string =>
  slot === 'phone' ? 'Switchboard' : slot === 'legal' ? '' : defaultLabel({ ...detail, label: '' });

/** A line with what was said of it before; a contact file has no room for hours and words of the law. */
const placed = (slot: OfficeSlot, detail: Detail, before: HouseLine | undefined): HouseLine => ({
  id: officeLine(slot),
  label: before?.label ?? calledFirst(slot, detail),
  detail,
  page: before?.page ?? true,
  file: before?.file ?? (slot === 'address' || slot === 'phone'),
});

/**
 * A line of an office from what was typed; null where nothing was. `country` (ISO 3166-1 alpha-2) reads a national number, `zone` (IANA)
 * is that of the hours. Errors: those of {@link readDetail}.
 */
export function readOfficeLine(
  slot: OfficeSlot,
  typed: string,
  { country, zone, before }: { country: string; zone: string; before: HouseLine | undefined },
): Result<HouseLine | null> {
  if (typed.trim() === '') return ok(null);
  const read = readDetail(OFFICE_KINDS[slot], typed, { id: officeLine(slot), country, zone, uses: ['work'] });
  return read.ok ? ok(placed(slot, read.value, before)) : read;
}

type Address = DetailOf<'address'>;
const PARTS = ['poBox', 'extended', 'street', 'locality', 'region', 'postcode', 'country'] as const;

/** The address of an office whose parts are typed one by one. */
export const addressOf = (before: HouseLine | undefined): Address =>
  before?.detail.kind === 'address'
    ? before.detail
    : {
        ...{ kind: 'address', id: officeLine('address'), label: '', preferred: false, uses: ['work'], poBox: '' },
        ...{ extended: '', street: '', locality: '', region: '', postcode: '', country: '' },
      };

/** The line of such an address; null where no part is said. */
export const addressLine = (address: Address, before: HouseLine | undefined): HouseLine | null =>
  PARTS.some((part) => address[part] !== '') ? placed('address', address, before) : null;

/** A house style with the lines of somebody's office below its own; where there is no house style, these alone. */
export const withOffice = (style: HouseStyle | null, lines: HouseLine[]): HouseStyle => ({
  ...(style ?? NO_HOUSE),
  lines: [...(style?.lines ?? []), ...lines],
});
