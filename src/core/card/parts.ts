import type { Detail, Name } from '@/core/record';
import type { Part } from './channels';

const BY_KIND: Partial<Record<Detail['kind'] | 'name', readonly Part[]>> = {
  name: ['initial-and-family', 'initials', 'given'],
  address: ['town', 'town-and-region', 'town-and-country'],
  birthday: ['day-and-month'],
  organisation: ['firm'],
};

/** The parts that a line of this kind can be cut to. */
export const partsOf = (kind: Detail['kind'] | 'name'): readonly Part[] => BY_KIND[kind] ?? [];

const EMPTY_ADDRESS = { poBox: '', extended: '', street: '', region: '', postcode: '', country: '' };

/** A detail cut to a part. A part that its kind does not have leaves it whole. */
export function cutDetail(detail: Detail, part: Part | null): Detail {
  if (part === null || !partsOf(detail.kind).includes(part)) return detail;
  if (detail.kind === 'address') {
    const { geo: _, map: __, ...rest } = detail;
    return {
      ...rest,
      ...EMPTY_ADDRESS,
      region: part === 'town-and-region' ? detail.region : '',
      country: part === 'town-and-country' ? detail.country : '',
    };
  }
  // A date without its year (ISO 8601:2000 as RFC 6350 4.3.1 takes it).
  if (detail.kind === 'birthday') return { ...detail, date: detail.date.replace(/^\d{4}-(\d\d(-\d\d)?)$/, '--$1') };
  if (detail.kind === 'organisation') return { ...detail, units: [] };
  return detail;
}

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });
const initial = (text: string): string => {
  const [first] = graphemes.segment(text);
  return first ? `${first.segment}.` : '';
};

/** A name cut to a part, in all of its forms, so that N and FN of the contact file say the same as the page. */
export function cutName(name: Name, part: Part | null): Name {
  const empty = { prefix: '', additional: '', suffix: '', written: '' };
  const { given, family } = name;
  // Without both parts there is nothing to leave out but the whole.
  if (part === 'given' && given) return { ...empty, given, family: '' };
  if (part === 'initials' && (given || family)) return { ...empty, given: initial(given), family: initial(family) };
  if (part === 'initial-and-family' && given && family) return { ...empty, given: initial(given), family };
  return name;
}
