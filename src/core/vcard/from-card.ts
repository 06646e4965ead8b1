import { linesOn, type ComposedLine, type Composition, type Said } from '@/core/card';
import type { Language } from '@/core/language';
import {
  defaultLabel,
  saidParts,
  shownValue,
  readName,
  telUri,
  writtenName,
  type Detail,
  type DetailOf,
  type Name,
  type PersonRecord,
  type Use,
} from '@/core/record';
import { property, type Property, type VcardVersion } from './property';

/** What a contact file says besides its lines. Pictures are base64; `revised` an instant in ISO 8601. */
export type ContactFileContext = {
  version: VcardVersion;
  /** UID of the card, not of the person: two audiences must not overwrite each other in an address book. */
  uid: string;
  revised: string;
  /** Address of the published card (SOURCE, RFC 6350 6.1.3). */
  source: string | null;
  photo: EmbeddedPicture | null;
  logo?: EmbeddedPicture | null;
};
export type EmbeddedPicture = { base64: string; mediaType: 'image/jpeg' | 'image/png' };

/** A line that a version has no property for, and where it stands instead. */
export type FallBack = { line: string; property: string; stands: 'in the note' | 'as a label' | 'nowhere' };

export const PRODUCT = '-//Heathland//Contact file 1//EN';

/** Lines of a contact file as properties, with what stands elsewhere than in a property of its own. */
export type ContactProperties = { properties: Property[]; fallBacks: FallBack[] };

/**
 * The properties of a card's contact file: every line ticked for the file, and no other. What a version has no property
 * for (licence, credential, own kinds; pronouns and languages before 4.0) goes into NOTE with its label, as is common
 * practice, and is named.
 */
export function contactProperties(composition: Composition, context: ContactFileContext): ContactProperties {
  return propertiesOfLines(composition.name, linesOn(composition, 'file'), context, alternativesOf(composition));
}

/** The same value in another language, by line; the name under {@link NAME_LINE}. `first` is the language of the others, if known. */
type Alternatives = {
  first: Language | null;
  names: { language: Language; name: Name }[];
  of: (line: string) => { language: Language; detail: Detail }[];
};
const NO_ALTERNATIVES: Alternatives = { first: null, names: [], of: () => [] };

/** What a composition says otherwise in its further languages. */
function alternativesOf({ language, name, lines, further }: Composition): Alternatives {
  const said = Object.entries(further) as [Language, Said][];
  return {
    first: language,
    names: said.flatMap(([other, { name: named }]) =>
      writtenName(named) === writtenName(name) ? [] : [{ language: other, name: named }],
    ),
    of: (id) => {
      const base = lines.find((line) => line.id === id);
      return said.flatMap(([other, { lines: otherLines }]) => {
        const detail = otherLines.find((line) => line.id === id)?.detail;
        return base && detail && shownValue(detail) !== shownValue(base.detail) ? [{ language: other, detail }] : [];
      });
    },
  };
}

/** What a record has in further languages: its name and what is one text or a firm's name. */
export function recordedAlternatives({ name, details }: PersonRecord): Alternatives {
  const entries = (further: Detail['further']) => Object.entries(further ?? {}) as [Language, string][];
  const worded = (detail: Detail, text: string): Detail[] => {
    if (detail.kind === 'organisation') return [{ ...detail, name: text, units: [] }];
    return detail.kind === 'title' || detail.kind === 'role' || detail.kind === 'nickname' ? [{ ...detail, text }] : [];
  };
  return {
    first: null,
    names: entries(name.further).map(([language, written]) => ({ language, name: readName(written, name.kind) })),
    of: (id) => {
      const detail = details.find((each) => each.id === id);
      return entries(detail?.further).flatMap(([language, text]) =>
        worded(detail!, text).map((other) => ({ language, detail: other })),
      );
    },
  };
}

/** Kinds whose property has the same value in several languages under one ALTID (RFC 6350 5.4, 5.1). */
const IN_LANGUAGES = new Set<Detail['kind']>(['title', 'role', 'organisation', 'nickname', 'address']);

export function propertiesOfLines(
  name: Name,
  lines: ComposedLine[],
  context: ContactFileContext,
  alternatives: Alternatives = NO_ALTERNATIVES,
): ContactProperties {
  const { version } = context;
  let altids = 0;
  /** A property and the same in other languages, told to be one by their ALTID; before 4.0 the first alone. */
  const alike = (first: Property, others: { language: Language; made: Property | null }[]): Property[] => {
    const known = others.filter((each): each is { language: Language; made: Property } => each.made !== null);
    if (version !== '4.0' || known.length === 0) return [first];
    const altid = String((altids += 1));
    const told = (made: Property, language: Language | null) => ({
      ...made,
      params: new Map([
        ...made.params,
        ['altid', [altid]],
        ...(language ? [['language', [language]] as const] : []),
      ] as [string, string[]][]),
    });
    return [told(first, alternatives.first), ...known.map(({ language, made }) => told(made, language))];
  };
  const properties: Property[] = [
    property('prodid', PRODUCT),
    // Earlier versions know people alone.
    ...(version === '4.0' && name.kind ? [property('kind', name.kind)] : []),
    ...nameProperties(name, version).flatMap((made, at) =>
      alike(
        made,
        at > 1
          ? []
          : alternatives.names.map(({ language, name: other }) => ({
              language,
              made: nameProperties(other, version)[at]!,
            })),
      ),
    ),
  ];
  const fallBacks: FallBack[] = [];
  const note: string[] = [];
  const notes: string[] = [];
  let group = 0;
  const inLanguages = (line: ComposedLine, made: Property): Property[] =>
    IN_LANGUAGES.has(line.detail.kind)
      ? alike(
          made,
          alternatives.of(line.id).map(({ language, detail }) => ({ language, made: propertyOf(detail, context) })),
        )
      : [made];
  for (const line of lines) {
    const { detail } = line;
    const title = line.label || defaultLabel({ ...detail, label: '' });
    if (detail.kind === 'note') {
      notes.push(shownValue(detail));
      continue;
    }
    // A contact has one such name; what else there is says the note.
    if (detail.kind === 'said' && line === lines.find((each) => each.detail.kind === 'said')) {
      properties.push(...saidProperties(detail.text, name));
      continue;
    }
    const made = propertyOf(detail, context);
    if (!made) {
      if (detail.kind === 'photo' || detail.kind === 'logo') continue;
      note.push((line.label ? `${line.label}: ` : '') + shownValue(detail));
      fallBacks.push({ line: title, property: detail.kind, stands: 'in the note' });
      continue;
    }
    const own = line.label && LABELLED.has(detail.kind) && line.label !== labelByTypes(detail);
    if (own) {
      made.group = `item${(group += 1)}`;
      properties.push(...inLanguages(line, made), property('x-ablabel', line.label, {}, 'text', made.group));
    } else properties.push(...inLanguages(line, made));
    if (version !== '4.0' && 'uses' in detail && detail.uses.includes('text'))
      fallBacks.push({ line: title, property: 'TYPE=text', stands: 'nowhere' });
    if (version !== '4.0' && detail.kind === 'address' && detail.geo)
      fallBacks.push({ line: title, property: 'GEO', stands: 'nowhere' });
  }
  const all = [...note, ...notes].join('\n');
  if (all) properties.push(property('note', all));
  if (context.source) properties.push(property('source', context.source));
  properties.push(property('uid', context.uid), property('rev', revision(context)));
  return { properties, fallBacks };
}

/** REV in the basic form of a timestamp, which all versions take (RFC 6350 4.3.5, RFC 2426 3.6.4). */
const revision = ({ revised }: ContactFileContext): string => revised.replace(/[-:]/g, '').replace(/\.\d+/, '');

const LABELLED = new Set<Detail['kind']>(['phone', 'email', 'link', 'address']);

/** The label that an address book shows by itself for the types of a property; an emergency number has no type. */
const labelByTypes = (detail: Detail): string =>
  'uses' in detail && detail.uses.includes('emergency') ? '' : defaultLabel({ ...detail, label: '' });

function nameProperties(name: Name, version: VcardVersion): Property[] {
  const { sortAs } = name;
  const params: Record<string, string[]> = version === '4.0' && sortAs ? { 'sort-as': [sortAs] } : {};
  // What is no person is found under the whole of its name (common practice, no published source).
  const parts = name.kind
    ? [writtenName(name), '', '', '', '']
    : [name.family, name.given, name.additional, name.prefix, name.suffix];
  return [
    property('n', parts, params),
    property('fn', writtenName(name)),
    ...(version === '3.0' && sortAs ? [property('sort-string', sortAs)] : []),
  ];
}

/** How the name is said, in the properties that phones read it from (common practice, no published source). */
function saidProperties(said: string, name: Name): Property[] {
  const { given, family } = saidParts(said, name);
  return [
    ...(given ? [property('x-phonetic-first-name', given)] : []),
    ...(family ? [property('x-phonetic-last-name', family)] : []),
  ];
}

const TYPE_OF_USE: Partial<Record<Use, string>> = {
  mobile: 'cell',
  work: 'work',
  home: 'home',
  fax: 'fax',
  pager: 'pager',
  video: 'video',
};

function parameters(uses: Use[], preferred: boolean, first: string[] = []): Record<string, string[]> {
  const types = [...first, ...uses.flatMap((use) => TYPE_OF_USE[use] ?? [])];
  return { ...(types.length > 0 ? { type: types } : {}), ...(preferred ? { pref: ['1'] } : {}) };
}

/** A language tag (RFC 5646 2.1, its usual forms). */
const LANGUAGE_TAG = /^[a-z]{2,3}(-[a-z]{4})?(-([a-z]{2}|\d{3}))?$/i;

/** The property of a detail, without group; null for what goes into NOTE in that version. */
function propertyOf(detail: Detail, { version, photo, logo }: ContactFileContext): Property | null {
  const newest = version === '4.0';
  switch (detail.kind) {
    case 'phone': {
      const voice = detail.uses.some((use) => use === 'fax' || use === 'pager') ? [] : ['voice'];
      const text = newest && detail.uses.includes('text') ? ['text'] : [];
      const params = parameters(detail.uses, detail.preferred, [...voice, ...text]);
      const number = `${detail.number}${detail.extension ? `;ext=${detail.extension}` : ''}`;
      return newest ? property('tel', telUri(detail), params, 'uri') : property('tel', number, params);
    }
    case 'email':
      return property('email', detail.address, parameters(detail.uses, detail.preferred, newest ? [] : ['internet']));
    case 'link':
      if (detail.url.startsWith('geo:')) return property('geo', detail.url, parameters(detail.uses, detail.preferred));
      return property('url', detail.url, parameters(detail.uses, detail.preferred));
    case 'address':
      return address(detail, newest);
    case 'organisation':
      return property('org', [detail.name, ...detail.units]);
    case 'title':
    case 'role':
      return property(detail.kind, detail.text);
    case 'nickname':
      return property('nickname', detail.text);
    case 'category':
      return { ...property('categories', ''), values: detail.text.split(/\s*,\s*/).filter(Boolean) };
    case 'language':
      return newest && LANGUAGE_TAG.test(detail.text)
        ? property('lang', detail.text, parameters([], detail.preferred))
        : null;
    case 'pronouns': // RFC 9554 3.2 has PRONOUNS for 4.0 only.
      return newest ? property('pronouns', detail.text) : null;
    case 'birthday': // Before 4.0 a date is a whole one (RFC 2426 3.1.5).
      return newest || /^\d{4}-\d\d-\d\d$/.test(detail.date) ? property('bday', detail.date) : null;
    case 'photo':
      return photo && picture('photo', photo);
    case 'logo':
      return logo ? picture('logo', logo) : null;
    default:
      return null;
  }
}

function address(detail: DetailOf<'address'>, newest: boolean): Property {
  const { poBox, extended, street, locality, region, postcode, country, geo } = detail;
  const params = parameters(detail.uses, detail.preferred);
  // What an envelope says, and where the house stands (RFC 6350 6.3.1).
  if (newest) {
    params.label = [shownValue(detail)];
    if (geo) params.geo = [`geo:${geo}`];
  }
  return property('adr', [poBox, extended, street, locality, region, postcode, country], params);
}

const picture = (name: 'photo' | 'logo', { base64, mediaType }: EmbeddedPicture): Property =>
  property(name, `data:${mediaType};base64,${base64}`);
