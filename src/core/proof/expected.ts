import type { ComposedLine, Composition, Said } from '@/core/card';
import { labelIn } from '@/core/record';
import { shownValue, writtenName, type Detail, type Name, type Use } from '@/core/record';
import type { ContactFileContext, VcardVersion } from '@/core/vcard';

/**
 * A property that a line must have become, as a reader finds it, worked out apart from the writer. `types` are sorted, and
 * leave out those that say nothing of a use; `label` is the text of the X-ABLabel of its group, or null for none.
 */
export type Expected = {
  /** The label of its line, or its value; null of the name. */
  title: string | null;
  name: string;
  text: string;
  types: string;
  pref: boolean;
  label: string | null;
  /** The language that it is said in, where there are several; those of one `set` share an ALTID (RFC 6350 5.4). */
  language?: string;
  set?: string;
};

/** Everything that a contact file must hold: its frame, its name, its lines. */
export function expectedOf(composition: Composition, lines: ComposedLine[], context: ContactFileContext): Expected[] {
  const { version, uid, revised, source, photo, logo } = context;
  const { sortAs, kind } = composition.name;
  const written = writtenName(composition.name);
  const plain = (name: string, text: string, title: string | null = name.toUpperCase()): Expected => ({
    title,
    name,
    text,
    types: '',
    pref: false,
    label: null,
  });
  const said = lines.find(({ detail }) => detail.kind === 'said');
  const note = lines
    .filter((line) => inNote(line.detail, version) || (line.detail.kind === 'said' && line !== said))
    .map(noteLine);
  const notes = lines.flatMap(({ detail }) => (detail.kind === 'note' ? [detail.text] : []));
  const all = [...note, ...notes].join('\n');
  const utc = new Date(revised).toISOString().replace(/\.\d+/, '');
  return [
    plain('version', version),
    plain('prodid', '-//Heathland//Contact file 1//EN'),
    ...(version === '4.0' && kind ? [plain('kind', kind, null)] : []),
    ...inLanguages(plain('n', inParts(composition.name), null), 'n', composition, version, (said) =>
      writtenName(said.name) === written ? null : plain('n', inParts(said.name), null),
    ),
    ...inLanguages(plain('fn', written, null), 'fn', composition, version, (said) =>
      writtenName(said.name) === written ? null : plain('fn', writtenName(said.name), null),
    ),
    ...(version === '3.0' && sortAs ? [plain('sort-string', sortAs, null)] : []),
    ...lines.flatMap((line) => {
      if (line.detail.kind === 'said') return line === said ? spoken(line.detail.text, composition.name, plain) : [];
      const pictures = { photo: photo?.base64 ?? null, logo: logo?.base64 ?? null };
      const [first, ...others] = propertyFor(line, version, pictures);
      if (!first || !SEVERAL.has(line.detail.kind)) return first ? [first, ...others] : [];
      return inLanguages(first, line.id, composition, version, (said) => {
        const other = said.lines.find(({ id }) => id === line.id);
        if (!other || shownValue(other.detail) === shownValue(line.detail)) return null;
        // A label of its own belongs to the first one alone.
        const [made] = propertyFor(other, version, pictures);
        return made ? { ...made, title: first.title, label: null } : null;
      });
    }),
    ...(all ? [plain('note', all)] : []),
    ...(source ? [plain('source', source)] : []),
    plain('uid', uid),
    plain('rev', utc),
  ];
}

/** The five parts of a name (RFC 6350 6.2.2); what is no person has one. */
const inParts = (name: Name): string =>
  name.kind ? `${name.written};;;;` : [name.family, name.given, name.additional, name.prefix, name.suffix].join(';');

/** Kinds of detail that may be said in several languages, each under a property of one value (RFC 6350 6.6, 6.3.1, 6.2.3). */
const SEVERAL = new Set<Detail['kind']>(['title', 'role', 'organisation', 'nickname', 'address']);

/** A property in the first language and in every further one that says it otherwise; before 4.0 the first alone. */
/** How a name is said: the words of the family name where it stands in the name, the rest for the given name. */
function spoken(said: string, name: Name, plain: (name: string, text: string, title: string) => Expected): Expected[] {
  const words = said.split(' ').filter(Boolean);
  const count = name.family ? name.family.split(' ').length : 0;
  const parted = count > 0 && name.given !== '' && words.length > count;
  const before = parted && name.written.startsWith(name.family) && name.written !== name.family;
  const family = !parted ? [] : before ? words.splice(0, count) : words.splice(-count);
  return [
    ['x-phonetic-first-name', words],
    ['x-phonetic-last-name', family],
  ].flatMap(([property, part]) =>
    part!.length > 0 ? [plain(property as string, (part as string[]).join(' '), said)] : [],
  );
}

function inLanguages(
  first: Expected,
  set: string,
  { language, further }: Composition,
  version: VcardVersion,
  other: (said: Said) => Expected | null,
): Expected[] {
  const others = Object.entries(further).flatMap(([tag, said]) => {
    const made = version === '4.0' ? other(said) : null;
    return made ? [{ ...made, language: tag, set }] : [];
  });
  return others.length > 0 ? [{ ...first, language: language ?? '', set }, ...others] : [first];
}

/** Whether a version has no property for a detail, so that it stands in the note (RFC 2426, RFC 6350 6, RFC 9554 3.2). */
function inNote(detail: Detail, version: VcardVersion): boolean {
  switch (detail.kind) {
    case 'licence':
    case 'credential':
    case 'own':
    case 'hours':
      return true;
    case 'pronouns':
      return version !== '4.0';
    case 'language':
      return version !== '4.0' || !/^[a-z]{2,3}(-[a-z]{4})?(-([a-z]{2}|\d{3}))?$/i.test(detail.text);
    case 'birthday':
      return version !== '4.0' && !/^\d{4}-\d\d-\d\d$/.test(detail.date);
    default:
      return false;
  }
}

const noteLine = ({ label, detail }: ComposedLine): string => (label ? `${label}: ` : '') + shownValue(detail);

const USE_TYPES: Partial<Record<Use, string>> = {
  mobile: 'cell',
  work: 'work',
  home: 'home',
  fax: 'fax',
  pager: 'pager',
  video: 'video',
};

function propertyFor(
  line: ComposedLine,
  version: VcardVersion,
  { photo, logo }: { photo: string | null; logo: string | null },
): Expected[] {
  const { detail } = line;
  if (detail.kind === 'note' || inNote(detail, version)) return [];
  const uses = 'uses' in detail ? detail.uses : [];
  const types = uses.flatMap((use) =>
    use === 'text' && version === '4.0' && detail.kind === 'phone' ? 'text' : (USE_TYPES[use] ?? []),
  );
  const title = line.label || shownValue(detail);
  const labelled =
    detail.kind === 'phone' || detail.kind === 'email' || detail.kind === 'link' || detail.kind === 'address';
  const usual = uses.includes('emergency') ? '' : labelIn('en', detail);
  const made = (name: string, text: string): Expected[] => [
    {
      title,
      name,
      text,
      types: labelled ? types.sort().join() : '',
      pref: (labelled || detail.kind === 'language') && detail.preferred,
      label: labelled && line.label && line.label !== usual ? line.label : null,
    },
  ];
  switch (detail.kind) {
    case 'phone': {
      const number = detail.number + (detail.extension ? `;ext=${detail.extension}` : '');
      return made('tel', version === '4.0' ? `tel:${number}` : number);
    }
    case 'email':
      return made('email', detail.address);
    case 'link': {
      const place = /^geo:([^,]*),(.*)$/.exec(detail.url);
      if (!place) return made('url', detail.url);
      return made('geo', version === '3.0' ? `${place[1]};${place[2]}` : detail.url);
    }
    case 'address': {
      const { poBox, extended, street, locality, region, postcode, country } = detail;
      return made('adr', [poBox, extended, street, locality, region, postcode, country].join(';'));
    }
    case 'organisation':
      return made('org', [detail.name, ...detail.units].join(';'));
    case 'title':
    case 'role':
      return made(detail.kind, detail.text);
    case 'nickname':
      return made('nickname', detail.text);
    case 'category':
      return made(
        'categories',
        detail.text
          .split(/\s*,\s*/)
          .filter(Boolean)
          .join(','),
      );
    case 'language':
      return made('lang', detail.text);
    case 'pronouns':
      return made('pronouns', detail.text);
    case 'birthday':
      return made('bday', detail.date);
    case 'photo':
      return photo ? made('photo', photo) : [];
    case 'logo':
      return logo ? made('logo', logo) : [];
    default:
      return [];
  }
}
