import { err, ok, type Result } from '@/core/errors';
import { cleanLine, readDetail, type Detail, type DetailOf, type TypedKind, type Use } from '@/core/record';
import type { Field } from './fields';

/** What of a record a roster writes: one detail each, made of one field or several. */
export const SLOTS = [
  ...['pronouns', 'title', 'firm', 'phone', 'mobile', 'own mobile', 'fax', 'email', 'own email', 'link', 'profile'],
  ...['address', 'languages', 'licence', 'credential'],
] as const;
export type Slot = (typeof SLOTS)[number];

type Texts = (field: Field) => string;
type SlotRule = {
  fields: readonly Field[];
  /** Whether a detail of a record, made by whomever, is what this slot writes. */
  isOf: (detail: Detail) => boolean;
  read: (text: Texts, of: { id: string; country: string }) => Result<Detail>;
};

const ofKind = (kind: TypedKind, field: Field): SlotRule => ({
  fields: [field],
  isOf: (detail) => detail.kind === kind,
  read: (text, of) => readDetail(kind, text(field), of),
});
const ofUse = (
  kind: 'phone' | 'email' | 'link',
  field: Field,
  uses: Use[],
  isOf: (uses: readonly Use[]) => boolean,
): SlotRule => ({
  fields: [field],
  isOf: (detail) => detail.kind === kind && isOf(detail.uses),
  read: (text, of) => readDetail(kind, text(field), { ...of, uses }),
});
const has = (uses: readonly Use[], ...wanted: Use[]) => wanted.every((use) => uses.includes(use));

const ADDRESS = ['street', 'postcode', 'locality', 'region', 'country'] as const;

export const SLOT_RULES: Record<Slot, SlotRule> = {
  pronouns: ofKind('pronouns', 'pronouns'),
  title: ofKind('title', 'title'),
  firm: {
    fields: ['firm', 'department'],
    isOf: ({ kind }) => kind === 'organisation',
    read(text, { id }) {
      const [name, unit] = [cleanLine(text('firm')).text, cleanLine(text('department')).text];
      return ok({ kind: 'organisation', id, label: '', preferred: false, name, units: unit ? [unit] : [] });
    },
  },
  phone: {
    ...ofUse('phone', 'phone', ['work'], (uses) => has(uses, 'work') && !has(uses, 'mobile') && !has(uses, 'fax')),
    fields: ['phone', 'extension'],
    read(text, of) {
      const read = readDetail('phone', text('phone'), { ...of, uses: ['work'] });
      const extension = text('extension').replace(/\s/g, '');
      if (!read.ok || !extension) return read;
      if (!/^\d{1,11}$/.test(extension)) return err({ code: 'PHONE_UNREADABLE' });
      return ok({ ...(read.value as DetailOf<'phone'>), extension });
    },
  },
  mobile: ofUse('phone', 'mobile', ['work', 'mobile'], (uses) => has(uses, 'work', 'mobile')),
  'own mobile': ofUse('phone', 'own mobile', ['mobile'], (uses) => has(uses, 'mobile') && !has(uses, 'work')),
  fax: ofUse('phone', 'fax', ['work', 'fax'], (uses) => has(uses, 'fax') && !has(uses, 'home')),
  email: ofUse('email', 'email', ['work'], (uses) => has(uses, 'work')),
  'own email': ofUse('email', 'own email', ['home'], (uses) => has(uses, 'home')),
  link: {
    ...ofUse('link', 'link', ['work'], () => true),
    isOf: (detail) => detail.kind === 'link' && detail.uses.includes('work') && detail.purpose !== 'profile',
  },
  profile: {
    fields: ['profile'],
    isOf: (detail) => detail.kind === 'link' && detail.purpose === 'profile',
    read(text, of) {
      const read = readDetail('link', text('profile'), { ...of, uses: ['work'] });
      return read.ok ? ok({ ...(read.value as DetailOf<'link'>), purpose: 'profile' as const }) : read;
    },
  },
  address: {
    fields: ADDRESS,
    isOf: (detail) => detail.kind === 'address' && detail.uses.includes('work'),
    read(text, { id }) {
      const parts = Object.fromEntries(ADDRESS.map((field) => [field, cleanLine(text(field)).text]));
      const address = { ...(parts as Record<(typeof ADDRESS)[number], string>), poBox: '', extended: '' };
      return ok({ kind: 'address', id, label: '', preferred: false, uses: ['work'], ...address });
    },
  },
  languages: ofKind('language', 'languages'),
  licence: ofKind('licence', 'licence'),
  credential: ofKind('credential', 'credential'),
};

/** The slot that a detail of a record is; null where a roster has none for it. */
export const slotOf = (detail: Detail): Slot | null => SLOTS.find((slot) => SLOT_RULES[slot].isOf(detail)) ?? null;
