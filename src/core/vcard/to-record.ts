import { LIMITS } from '@/core/limits';
import {
  cleanLine,
  NAME_KINDS,
  readName,
  cleanText,
  saidWhole,
  splitName,
  writtenName,
  type Detail,
  type KeptProperty,
  type Name,
  type PersonRecord,
} from '@/core/record';
import { textOf, type Component, type ContactCard, type Property, type Warning } from './property';
import { readContacts } from './reader';
import { contentLine } from './serialise';
import { detailsFrom } from './to-detail';

/**
 * One contact of a file: a record, and the photo's bytes as base64 before anybody has looked whether it is a picture.
 * `tooLarge` names the properties that no record can hold.
 */
export type ImportedContact = {
  record: PersonRecord;
  photo: { base64: string; property: string } | null;
  tooLarge: string[];
};

/** They describe the file, not the person. */
const ABOUT_THE_FILE = new Set(['version', 'prodid', 'rev', 'x-ablabel', 'source', 'class', 'mailer']);
const NAME_PROPERTIES = ['n', 'fn', 'sort-string', 'x-phonetic-first-name', 'x-phonetic-last-name', 'uid', 'kind'];

/**
 * A contact as a record. `country` (ISO 3166-1 alpha-2) reads phone numbers in national form. What no detail stands for is
 * kept as a content line of 4.0, with the reason. Null where there is neither a name nor a detail.
 */
export function recordFrom(card: ContactCard, country: string): ImportedContact | null {
  const labels = new Map<string, string>();
  for (const each of card.properties) if (each.name === 'x-ablabel') labels.set(each.group, textOf(each));
  const uid = cleanLine(textOf(find(card, 'uid') ?? NONE)).text.slice(0, LIMITS.text);
  const record: PersonRecord = { name: nameFrom(card), details: [], kept: [], ...(uid ? { uid } : {}) };
  const contact: ImportedContact = { record, photo: null, tooLarge: [] };
  const alternatives = new Set<string>();
  const saysAnAddress = addressesOf(record);
  let keptLetters = 0;
  const keep = (each: Property, why: KeptProperty['why']) => {
    const line = cleanText(contentLine(each, '4.0')).text;
    keptLetters += line.length;
    if (line.length > LIMITS.keptProperty || keptLetters > LIMITS.keptLetters || record.kept.length >= LIMITS.kept)
      contact.tooLarge.push(each.name.toUpperCase().slice(0, 100));
    else record.kept.push({ property: line, why });
  };
  const ofName = new Set(NAME_PROPERTIES.map((name) => find(card, name)));
  const best = new Map<string, number>();
  for (const each of card.properties) {
    const pref = prefOf(each);
    if (pref !== null) best.set(each.name, Math.min(pref, best.get(each.name) ?? 100));
  }
  for (const each of card.properties) {
    if (ABOUT_THE_FILE.has(each.name) || ofName.has(each)) continue;
    if (NAME_PROPERTIES.includes(each.name)) {
      if (textOf(each).replace(/[;\s]/g, '')) keep(each, 'another-language');
      continue;
    }
    // Properties with the same ALTID say the same in several languages (RFC 6350 5.4): the first one stands.
    const alternative = each.params.get('altid')?.[0];
    if (alternative !== undefined) {
      const key = `${each.name} ${alternative}`;
      if (alternatives.has(key)) {
        keep(each, 'another-language');
        continue;
      }
      alternatives.add(key);
    }
    if (each.name === 'photo') {
      const found = contact.photo ? null : embedded(each);
      if (found) contact.photo = found;
      else
        keep(
          each,
          /^https?:/i.test(textOf(each)) ? 'linked-photo' : contact.photo ? 'not-understood' : 'unreadable-photo',
        );
      continue;
    }
    if (each.name === 'label' && saysAnAddress(each)) continue;
    const read = detailsFrom(each, {
      country,
      label: each.group ? (labels.get(each.group) ?? '') : '',
      nextId: record.details.length + 1,
      preferred: prefOf(each) !== null && prefOf(each) === best.get(each.name),
    });
    if (record.details.length + read.details.length > LIMITS.details) keep(each, 'too-many');
    else record.details.push(...read.details);
    if (read.keep) keep(each, read.keep);
  }
  if (record.details.length < LIMITS.details)
    record.details.push(...saidFrom(card, record.name, `d${record.details.length + 1}`));
  if (!writtenName(record.name)) {
    // Contacts of firms have no person's name; a mail address is better than nothing.
    const firm = record.details.find((detail) => detail.kind === 'organisation');
    const mail = record.details.find((detail) => detail.kind === 'email');
    const nick = record.details.find((detail) => detail.kind === 'nickname');
    const written =
      (nick?.kind === 'nickname' && nick.text) ||
      (firm?.kind === 'organisation' && firm.name) ||
      (mail?.kind === 'email' && mail.address) ||
      '';
    record.name = { ...record.name, written };
  }
  const empty = record.details.length === 0 && record.kept.length === 0;
  return writtenName(record.name) || !empty ? contact : null;
}

/** How much a property is preferred among those of its name: 1 the most, 100 the least (RFC 6350 5.3); null where nothing is said. */
function prefOf({ params }: Property): number | null {
  const said = params.get('pref')?.[0];
  if (said === undefined) return null;
  const pref = Number(said);
  return pref >= 1 && pref <= 100 ? pref : 1;
}

/** How the name is said, as one detail; a part of which nothing is told is said as it is written. */
function saidFrom(card: ContactCard, name: Name, id: string): Detail[] {
  const part = (property: string) => cleanLine(textOf(find(card, property) ?? NONE)).text;
  const [given, family] = [part('x-phonetic-first-name'), part('x-phonetic-last-name')];
  if (!given && !family) return [];
  const said = saidWhole({ given: given || name.given, family: family || name.family }, name);
  return said ? [{ kind: 'said', id, label: '', preferred: false, text: said.slice(0, LIMITS.text) }] : [];
}

const NONE: Property = { group: '', name: '', params: new Map(), type: 'text', values: [''], line: 0 };
const find = (card: ContactCard, name: string): Property | undefined =>
  card.properties.find((each) => each.name === name && textOf(each).replace(/[;\s]/g, ''));

function nameFrom(card: ContactCard): Name {
  const structured = find(card, 'n');
  const clean = (part: Component | undefined) =>
    cleanText(typeof part === 'string' ? part : (part ?? []).join(' '))
      .text.replace(/[\s,]+/g, ' ')
      .trim()
      .slice(0, LIMITS.text);
  const written = cleanLine(textOf(find(card, 'fn') ?? NONE)).text.slice(0, LIMITS.text);
  const sorted = {
    sortAs: cleanLine(
      structured?.params.get('sort-as')?.join(', ') ?? textOf(find(card, 'sort-string') ?? NONE),
    ).text.slice(0, LIMITS.text),
  };
  const extra = Object.fromEntries(Object.entries(sorted).filter(([, value]) => value));
  const kind = NAME_KINDS.find((each) => each === textOf(find(card, 'kind') ?? NONE).toLowerCase());
  if (kind && written) return { ...readName(written, kind), ...extra };
  if (!structured) return { ...splitName(written), ...extra };
  const parts = structured.values[0] ?? [];
  const [family, given, additional, prefix, suffix] = (typeof parts === 'string' ? [parts] : parts).map(clean);
  const name: Name = {
    prefix: prefix ?? '',
    given: given ?? '',
    additional: additional ?? '',
    family: family ?? '',
    suffix: suffix ?? '',
    written: '',
    ...extra,
  };
  return { ...name, written: written === writtenName(name) ? '' : written };
}

/** The bytes of a photo within the file, as base64. */
function embedded(each: Property): ImportedContact['photo'] {
  const uri = textOf(each);
  const comma = uri.slice(0, 200).indexOf(';base64,');
  if (!uri.startsWith('data:') || comma < 0) return null;
  return { base64: uri.slice(comma + 8), property: `PHOTO:${uri.slice(0, 150)}` };
}

const lettersOf = (text: string) => text.toLowerCase().replace(/[\s,;.]/g, '');

/**
 * Whether a delivery label says what an address of the contact says already (RFC 2426 3.2.2). What addresses say is worked out once
 * for a contact.
 */
function addressesOf({ details }: PersonRecord): (label: Property) => boolean {
  const known = new Map<string, string[]>();
  return (label) => {
    const said = lettersOf(textOf(label));
    return details.some((detail) => {
      if (detail.kind !== 'address') return false;
      const parts = known.get(detail.id) ?? [detail.street, detail.locality, detail.postcode].map(lettersOf);
      known.set(detail.id, parts);
      return parts.every((part) => said.includes(part));
    });
  };
}

/** The contacts of a short text as records, with all that could not be understood. */
export function readContactFile(text: string, country: string): { contacts: ImportedContact[]; warnings: Warning[] } {
  const read = readContacts(text);
  return {
    contacts: read.flatMap(({ card }) => (card && recordFrom(card, country)) ?? []),
    warnings: read.flatMap(({ warnings }) => warnings),
  };
}
