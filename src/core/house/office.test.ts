import { compose, lineOf, PAGE_AND_FILE } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import {
  addressLine,
  addressOf,
  applyHouseStyle,
  HouseStyleSchema,
  NO_HOUSE,
  OFFICE_SLOTS,
  officeLine,
  OfficeLinesSchema,
  readOfficeLine,
  withOffice,
  type HouseLine,
  type OfficeSlot,
} from './index';

const read = (slot: OfficeSlot, typed: string, before?: HouseLine) =>
  readOfficeLine(slot, typed, { country: 'GB', zone: 'Europe/London', before });
const line = (slot: OfficeSlot, typed: string): HouseLine => {
  const found = read(slot, typed);
  if (!found.ok || !found.value) throw new Error(`${slot}: ${typed}`);
  return found.value;
};
// Numbers that Ofcom reserves for drama.
const PHONE = '01632 960300';

test('an office is read as it is typed: a national number, hours of a week, nothing where nothing stands; what cannot be read is told', () => {
  expect(line('phone', PHONE)).toMatchObject({
    ...{ id: 'house-office-phone', label: 'Switchboard', page: true, file: true },
    detail: { kind: 'phone', number: '+441632960300', uses: ['work'] },
  });
  expect(line('hours', 'Mon-Fri 8-17')).toMatchObject({ page: true, file: false, detail: { zone: 'Europe/London' } });
  expect(read('legal', '   ')).toEqual({ ok: true, value: null });
  expect(read('phone', 'ask Maud')).toMatchObject({ ok: false, problem: { code: 'PHONE_UNREADABLE' } });
  expect(read('hours', 'now and then')).toMatchObject({ ok: false });
  expect(addressLine(addressOf(undefined), undefined)).toBeNull();
});

test('what was said of a line stays when its value changes: where it goes, and what it is called', () => {
  const before = { ...line('phone', PHONE), label: 'Zentrale', file: false };
  const after = read('phone', '01632 960301', before);
  expect(after).toMatchObject({ ok: true, value: { label: 'Zentrale', page: true, file: false } });
});

test('an office holds each of its lines once and of its kind, and a house style none of them', () => {
  const phone = line('phone', PHONE);
  const legal = line('legal', 'Registered in England');
  expect(OfficeLinesSchema.safeParse([phone, legal]).success).toBe(true);
  for (const wrong of [
    [phone, phone],
    [{ ...legal, id: officeLine('phone'), detail: { ...legal.detail, id: officeLine('phone') } }],
    [{ ...legal, id: 'house-other', detail: { ...legal.detail, id: 'house-other' } }],
  ])
    expect(OfficeLinesSchema.safeParse(wrong).success).toBe(false);
  expect(HouseStyleSchema.safeParse({ ...NO_HOUSE, lines: [phone] }).success).toBe(false);
});

test('without a house style an office adds its lines and changes nothing else; a card leaves out what it hides', () => {
  const name = { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' };
  const record: PersonRecord = { name, details: [], kept: [] };
  const made = compose(record, [lineOf('name', PAGE_AND_FILE)], 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  const lines = [line('phone', PHONE), line('legal', 'Registered in England')];
  const shown = applyHouseStyle(made.value, withOffice(null, lines));
  expect({ ...shown, lines: [] }).toEqual({ ...made.value, lines: [] });
  expect(shown.lines.map(({ id, on }) => [id, on.includes('page'), on.includes('file')])).toEqual([
    [officeLine('phone'), true, true],
    [officeLine('legal'), true, false],
  ]);
  const hides = { ...made.value, look: { ...made.value.look, hides: OFFICE_SLOTS.map(officeLine) } };
  expect(applyHouseStyle(hides, withOffice(null, lines)).lines).toEqual([]);
});
