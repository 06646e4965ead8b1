import { linesOn, type ComposedLine, type Composition } from '@/core/card';
import { defaultLabel, shownValue, telUri, writtenName, type Detail, type Name, type Use } from '@/core/record';

export type VcardVersion = '3.0' | '4.0';

/** What a contact file says besides its lines. `photo` is the picture's base64; `revised` an instant in ISO 8601. */
export type ContactFileContext = {
  version: VcardVersion;
  /** UID of the card, not of the person: two audiences must not overwrite each other in an address book. */
  uid: string;
  revised: string;
  /** Address of the published card (SOURCE, RFC 6350 6.1.3). */
  source: string | null;
  photo: { base64: string; mediaType: 'image/jpeg' | 'image/png' } | null;
};

const PRODUCT = '-//Heathland//Contact file 1//EN';

/**
 * The contact file of a card: every line ticked for the file, and no other. RFC 2426 (3.0) or RFC 6350 (4.0), lines
 * folded at 75 octets, CRLF. What vCard has no property for (licence, credential, own kinds) goes into NOTE with its label,
 * as is common practice.
 */
export function writeContactFile(composition: Composition, context: ContactFileContext): string {
  const { version } = context;
  const lines = linesOn(composition, 'file');
  const out: string[] = ['BEGIN:VCARD', `VERSION:${version}`, `PRODID:${PRODUCT}`, ...nameLines(composition.name)];
  let group = 0;
  for (const line of lines) {
    const property = propertyOf(line.detail, context);
    if (!property) continue;
    const own =
      line.label && line.label !== defaultLabel({ ...line.detail, label: '' }) && LABELLED.has(line.detail.kind);
    if (!own) out.push(property);
    else out.push(`item${(group += 1)}.${property}`, `item${group}.X-ABLabel:${escape(line.label)}`);
  }
  const note = noteOf(lines, version);
  if (note) out.push(`NOTE:${escape(note)}`);
  if (context.source) out.push(`SOURCE:${context.source}`);
  out.push(`UID:${context.uid}`, `REV:${context.revised.replace(/[-:]/g, '').replace(/\.\d+/, '')}`, 'END:VCARD');
  return out.map(fold).join('');
}

const LABELLED = new Set<Detail['kind']>(['phone', 'email', 'link', 'address']);

function nameLines(name: Name): string[] {
  const parts = [name.family, name.given, name.additional, name.prefix, name.suffix].map(escape).join(';');
  return [`N:${parts}`, `FN:${escape(writtenName(name))}`];
}

const TYPE_OF_USE: Partial<Record<Use, string>> = {
  mobile: 'CELL',
  work: 'WORK',
  home: 'HOME',
  fax: 'FAX',
  pager: 'PAGER',
  video: 'VIDEO',
};

function typeParameter(uses: Use[], preferred: boolean, version: VcardVersion, first: string[] = []): string {
  const types = [...first, ...uses.flatMap((use) => TYPE_OF_USE[use] ?? [])];
  if (version === '4.0') {
    const text = uses.includes('text') ? [...types, 'TEXT'] : types;
    const list = text.map((type) => type.toLowerCase()).join(',');
    return (list ? `;TYPE=${text.length > 1 ? `"${list}"` : list}` : '') + (preferred ? ';PREF=1' : '');
  }
  const list = [...types, ...(preferred ? ['PREF'] : [])].join(',');
  return list ? `;TYPE=${list}` : '';
}

/** The property of a detail, without group; null for what goes into NOTE. */
function propertyOf(detail: Detail, { version, photo }: ContactFileContext): string | null {
  const types = (uses: Use[], first?: string[]) => typeParameter(uses, detail.preferred, version, first);
  switch (detail.kind) {
    case 'phone': {
      const voice = detail.uses.some((use) => use === 'fax' || use === 'pager') ? [] : ['VOICE'];
      if (version === '4.0') return `TEL;VALUE=uri${types(detail.uses, voice)}:${telUri(detail)}`;
      return `TEL${types(detail.uses, voice)}:${detail.number}${detail.extension ? `;ext=${detail.extension}` : ''}`;
    }
    case 'email':
      return `EMAIL${types(detail.uses, version === '3.0' ? ['INTERNET'] : [])}:${escape(detail.address)}`;
    case 'link':
      return `URL${types(detail.uses)}:${detail.url}`;
    case 'address': {
      const parts = [
        detail.poBox,
        detail.extended,
        detail.street,
        detail.locality,
        detail.region,
        detail.postcode,
        detail.country,
      ];
      return `ADR${types(detail.uses)}:${parts.map(escape).join(';')}`;
    }
    case 'organisation':
      return `ORG:${[detail.name, ...detail.units].map(escape).join(';')}`;
    case 'title':
      return `TITLE:${escape(detail.text)}`;
    case 'role':
      return `ROLE:${escape(detail.text)}`;
    case 'nickname':
      return `NICKNAME:${escape(detail.text)}`;
    case 'pronouns': // RFC 9554 3.2 has PRONOUNS for 4.0 only.
      return version === '4.0' ? `PRONOUNS:${escape(detail.text)}` : null;
    case 'birthday':
      if (version === '4.0')
        return `BDAY:${detail.date.startsWith('--') ? `--${detail.date.slice(2).replace('-', '')}` : detail.date.replace(/-/g, '')}`;
      return detail.date.startsWith('--') ? null : `BDAY:${detail.date}`;
    case 'photo':
      if (!photo) return null;
      if (version === '4.0') return `PHOTO:data:${photo.mediaType};base64,${photo.base64}`;
      return `PHOTO;ENCODING=b;TYPE=${photo.mediaType === 'image/png' ? 'PNG' : 'JPEG'}:${photo.base64}`;
    case 'licence':
    case 'credential':
    case 'note':
    case 'own':
      return null;
  }
}

/** NOTE carries what the version has no property for, a labelled line each, and the note itself last. */
function noteOf(lines: ComposedLine[], version: VcardVersion): string {
  const toNote = (detail: Detail) =>
    detail.kind === 'licence' ||
    detail.kind === 'credential' ||
    detail.kind === 'own' ||
    (version === '3.0' && (detail.kind === 'pronouns' || (detail.kind === 'birthday' && detail.date.startsWith('--'))));
  const labelled = lines
    .filter(({ detail }) => toNote(detail))
    .map(({ label, detail }) => (label ? `${label}: ` : '') + shownValue(detail));
  const notes = lines.filter(({ detail }) => detail.kind === 'note').map(({ detail }) => shownValue(detail));
  return [...labelled, ...notes].join('\n');
}

/** Escapes a text value: backslash, comma, semicolon and line feed (RFC 6350 3.4, RFC 2426 5). */
const escape = (text: string): string => text.replace(/[\\,;]/g, '\\$&').replace(/\n/g, '\\n');

const LINE_OCTETS = 75;

/** A content line folded so that no physical line exceeds 75 octets and no character is cut (RFC 6350 3.2). */
function fold(line: string): string {
  let out = '';
  let octets = 0;
  for (const letter of line) {
    const point = letter.codePointAt(0)!;
    const size = point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4;
    if (octets + size > LINE_OCTETS) {
      out += '\r\n ';
      octets = 1;
    }
    out += letter;
    octets += size;
  }
  return `${out}\r\n`;
}

/** A file name that every system takes: letters of the name made plain, words joined by hyphens. */
export function contactFileName(composition: Composition): string {
  const plain = writtenName(composition.name)
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return `${plain || 'contact'}.vcf`;
}
