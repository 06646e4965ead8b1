import type { ComposedLine, Composition } from '@/core/card';
import { writtenName, type Name, type PersonRecord } from '@/core/record';
import {
  contactProperties,
  propertiesOfLines,
  recordedAlternatives,
  type ContactFileContext,
  type FallBack,
} from './from-card';
import { jcardOf, type Jcard } from './jcard';
import { writeMeCard } from './mecard';
import { type ContactCard, type Property, type VcardVersion } from './property';
import { readLine } from './read-line';
import { newerThan, writeVcard } from './serialise';
import { labelIn } from '@/core/record';

/**
 * The contact file of a card as text: every line ticked for the file, and no other, in vCard 4.0 (RFC 6350), 3.0
 * (RFC 2426) or 2.1; lines of at most 75 octets, CRLF, UTF-8.
 */
export const writeContactFile = (composition: Composition, context: ContactFileContext): string =>
  writeVcard(contactProperties(composition, context).properties, context.version);

/** The lines that stand elsewhere than in a property of their own, because the version has none for them. */
export const fallBacksOf = (composition: Composition, context: ContactFileContext): FallBack[] =>
  contactProperties(composition, context).fallBacks;

/** The card as jCard (RFC 7095). */
export const writeJcard = (composition: Composition, context: Omit<ContactFileContext, 'version'>): Jcard =>
  jcardOf({
    version: 'jCard',
    line: 0,
    properties: contactProperties(composition, { ...context, version: '4.0' }).properties,
  });

/** The card as MeCard, for codes; `cannotSay` names the properties that it has no field for. */
export const writeCardAsMeCard = (
  composition: Composition,
  context: Omit<ContactFileContext, 'version'>,
): { text: string; cannotSay: string[] } =>
  writeMeCard(contactProperties({ ...composition, further: {} }, { ...context, version: '4.0' }).properties);

/**
 * A record whole, for its owner: every detail, and what an imported file left in it that no detail stands for. It keeps the
 * UID that it came with, so that the address book it came from knows it again.
 */
export function writeRecord(record: PersonRecord, context: ContactFileContext): string {
  const lines = record.details.map((detail): ComposedLine => ({
    id: detail.id,
    label: detail.label || labelIn('en', detail),
    detail,
    on: [],
    emphasis: 'plain',
    gap: false,
  }));
  const { properties } = propertiesOfLines(
    record.name,
    lines,
    { ...context, uid: record.uid ?? context.uid },
    recordedAlternatives(record),
  );
  const kept = record.kept.map(({ property }) => readLine(property, 0, () => undefined));
  return writeVcard([...properties, ...kept.map((each) => inVersion(each, context.version))], context.version);
}

/** A contact that was read, in another version. `cannotSay`: what that version has only as an extension. */
export function writeRead(card: ContactCard, version: VcardVersion): { text: string; cannotSay: string[] } {
  const properties = card.properties.filter(({ name }) => name !== 'version').map((each) => inVersion(each, version));
  const named = properties.some(({ name }) => name === 'fn');
  const n = properties.find(({ name }) => name === 'n');
  // FN is required (RFC 6350 6.2.1), N too before 4.0 (RFC 2426 3.1.2).
  const parts =
    n && Array.isArray(n.values[0])
      ? n.values[0].map((part) => (typeof part === 'string' ? part : part.join(' ')))
      : [];
  const [family = '', given = '', additional = '', prefix = '', suffix = ''] = parts;
  const fn: Property = {
    group: '',
    name: 'fn',
    params: new Map(),
    type: 'text',
    values: [writtenName({ family, given, additional, prefix, suffix, written: '' })],
    line: 0,
  };
  const all = named ? properties : [fn, ...properties];
  const withN = n || version === '4.0' ? all : [{ ...fn, name: 'n', values: [['', '', '', '', '']] }, ...all];
  return { text: writeVcard(withN, version), cannotSay: newerThan(properties, version) };
}

/** A sort string moves between property and parameter (RFC 2426 3.6.5, RFC 6350 5.9). */
function inVersion(each: Property, version: VcardVersion): Property {
  if (version !== '4.0' || each.name !== 'label') return each;
  // 4.0 has no LABEL property; without its address it can only be kept as an extension.
  return { ...each, name: 'x-label' };
}

/** A file name that every system takes: letters of the name made plain, words joined by hyphens. */
export function contactFileName({ name }: { name: Name }): string {
  const plain = writtenName(name)
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80);
  return `${plain || 'contact'}.vcf`;
}
