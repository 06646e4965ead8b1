import { LIMITS } from '@/core/limits';
import { plainText, splitEscaped } from './escapes';
import { property, textOf, type Property, type ReadContact, type Warning } from './property';

/**
 * MeCard, the short form of a contact for codes: `MECARD:N:family,given;TEL:…;;`. Fields as its publisher lists them (from
 * memory: N, SOUND, TEL, TEL-AV, EMAIL, NOTE, BDAY, ADR, URL, NICKNAME; ORG and TITLE are common practice, no published
 * source). A backslash goes before `\`, `;`, `:` and `,`.
 */
const FIELDS: Record<string, (value: string) => Property | Property[]> = {
  N: (value) => property('n', [...texts(value, ','), '', '', '', '', ''].slice(0, 5)),
  // How the name is said: the family name before the comma, the given name after it.
  SOUND: (value) => {
    const [family = '', given = ''] = texts(value, ',');
    return given
      ? [property('x-phonetic-last-name', family), property('x-phonetic-first-name', given)]
      : property('x-phonetic-first-name', family);
  },
  TEL: (value) => property('tel', plain(value)),
  'TEL-AV': (value) => property('tel', plain(value), { type: ['video'] }),
  EMAIL: (value) => property('email', plain(value)),
  NOTE: (value) => property('note', plain(value)),
  BDAY: (value) => property('bday', plain(value).replace(/^(\d{4})(\d\d)(\d\d)$/, '$1-$2-$3')),
  ADR: (value) => property('adr', [...texts(value, ','), '', '', '', '', '', '', ''].slice(0, 7)),
  URL: (value) => property('url', plain(value)),
  NICKNAME: (value) => property('nickname', plain(value)),
  ORG: (value) => property('org', [plain(value)]),
  TITLE: (value) => property('title', plain(value)),
};

const plain = (value: string): string => plainText(value.replace(/\\([\\;:,"])/g, '$1'));
const texts = (value: string, separator: ','): string[] => splitEscaped(value, separator).map(plain);

/** What stands after each `MECARD:` at the beginning of a line; before the first one, what stands there. Each letter is looked at once. */
function bodiesOf(text: string): string[] {
  const bodies: string[] = [];
  let from = 0;
  for (const { 0: head, index } of text.matchAll(/^[^\S\r\n]*MECARD:/gim)) {
    bodies.push(text.slice(from, index));
    from = index + head.length;
  }
  return [...bodies, text.slice(from)];
}

/** Every MeCard of a text. A field that is not known is kept as it was written. */
export function readMeCards(text: string): ReadContact[] {
  return bodiesOf(text).flatMap((body, at): ReadContact[] => {
    if (!body.trim()) return [];
    const fields = splitEscaped(body, ';');
    const properties = fields.slice(0, LIMITS.contactProperties).flatMap((field): Property[] => {
      const colon = field.indexOf(':');
      const name = field.slice(0, Math.max(0, colon)).trim().toUpperCase();
      if (!field.trim()) return [];
      const read = FIELDS[name]?.(field.slice(colon + 1).trim());
      return [read ?? property('x-unreadable', plainText(field.trim()))].flat();
    });
    const unknown = properties.some(({ name }) => name === 'x-unreadable');
    const line = Math.max(1, at);
    const tooMany: Warning[] = fields.length > LIMITS.contactProperties ? [{ code: 'TOO_MANY_PROPERTIES', line }] : [];
    if (properties.length === 0) return [{ card: null, warnings: [{ code: 'CARD_EMPTY', line }] }];
    return [
      {
        card: { version: 'MeCard', properties, line },
        warnings: [...(unknown ? [{ code: 'LINE_UNREADABLE' as const, line }] : []), ...tooMany],
      },
    ];
  });
}

const escape = (text: string): string => text.replace(/[\\;:,"]/g, '\\$&').replace(/\n/g, ' ');

/** A contact as MeCard. `cannotSay` names the properties that have no field in it. */
export function writeMeCard(properties: Property[]): { text: string; cannotSay: string[] } {
  const out: string[] = [];
  const cannotSay: string[] = [];
  const named = properties.some(({ name }) => name === 'n');
  const spoken = (part: string) => escape(textOf(properties.find(({ name }) => name === part) ?? property(part, '')));
  for (const each of properties) {
    const text = textOf(each);
    const parts = each.values[0];
    const list = (most: number) =>
      Array.isArray(parts)
        ? parts
            .slice(0, most)
            .map((part) => escape(typeof part === 'string' ? part : part.join(' ')))
            .join(',')
        : escape(text);
    // A part that is empty at the end leaves no comma; one that somebody's name ends with is theirs.
    if (each.name === 'n') out.push(`N:${list(2).replace(/(?<!\\),+$/, '')}`);
    else if (each.name === 'x-phonetic-first-name')
      out.push(`SOUND:${[spoken('x-phonetic-last-name'), escape(text)].filter(Boolean).join(',')}`);
    else if (each.name === 'fn') out.push(...(named ? [] : [`N:${escape(text)}`]));
    else if (each.name === 'adr') out.push(`ADR:${list(7)}`);
    else if (each.name === 'tel')
      out.push(
        `${each.params.get('type')?.includes('video') ? 'TEL-AV' : 'TEL'}:${escape(text.replace(/^tel:/, '').replace(/;ext=.*/, ''))}`,
      );
    else if (each.name === 'bday' && /^\d{4}-\d\d-\d\d$/.test(text)) out.push(`BDAY:${text.replace(/-/g, '')}`);
    else if (each.name === 'org') out.push(`ORG:${list(1)}`);
    else if (['email', 'note', 'url', 'nickname', 'title'].includes(each.name))
      out.push(`${each.name.toUpperCase()}:${escape(text)}`);
    else if (!['version', 'prodid', 'rev', 'uid', 'source', 'x-phonetic-last-name'].includes(each.name))
      cannotSay.push(each.name);
  }
  return { text: `MECARD:${out.join(';')};;`, cannotSay };
}
