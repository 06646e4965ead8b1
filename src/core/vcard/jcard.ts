import { LIMITS } from '@/core/limits';
import { extendedDate } from './read-line';
import { plainText } from './escapes';
import {
  isFrame,
  STRUCTURED,
  type Component,
  type ContactCard,
  type Property,
  type ReadContact,
  type Warning,
  type Value,
} from './property';

/** A jCard (RFC 7095 3.2): `["vcard", [[name, parameters, type, value, …], …]]`. */
export type Jcard = ['vcard', JcardProperty[]];
type JcardProperty = [name: string, params: Record<string, string | string[]>, type: string, ...values: unknown[]];

/** A structured value of one component is that text (RFC 7095 B.1, its ORG and GENDER). */
const alone = (value: Value): Value =>
  typeof value !== 'string' && value.length === 1 && typeof value[0] === 'string' ? value[0] : value;

const single = (values: string[]) => (values.length === 1 ? values[0]! : values);

/** A contact as jCard. Its version is 4.0 always (RFC 7095 3.3); groups are a parameter (7.1). */
export function jcardOf(card: ContactCard): Jcard {
  return [
    'vcard',
    [
      ['version', {}, 'text', '4.0'],
      ...card.properties.map(({ group, name, params, type, values }): JcardProperty => [
        name,
        {
          ...Object.fromEntries([...params].map(([key, value]) => [key, single(value)])),
          ...(group ? { group } : {}),
        },
        type,
        ...values.map(alone),
      ]),
    ],
  ];
}

const NAME = /^[a-z0-9-]{1,100}$/i;

/** Reads one jCard or an array of them. What has not the shape of a property is told, and the others are read. */
export function readJcard(text: string): ReadContact[] {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return [{ card: null, warnings: [{ code: 'JSON_UNREADABLE', line: 1 }] }];
  }
  const cards = Array.isArray(json) && json[0] === 'vcard' ? [json] : Array.isArray(json) ? json : [];
  return cards.length > 0
    ? // One more than may come in tells that there are too many.
      cards.slice(0, LIMITS.contactsAtOnce + 1).map(cardFrom)
    : [{ card: null, warnings: [{ code: 'CARD_EMPTY', line: 1 }] }];
}

function cardFrom(json: unknown): ReadContact {
  const list: unknown[] = Array.isArray(json) && json[0] === 'vcard' && Array.isArray(json[1]) ? json[1] : [];
  const properties = list.slice(0, LIMITS.contactProperties).map(propertyFrom);
  const card: ContactCard = {
    version: 'jCard',
    properties: properties.filter((each): each is Property => each !== null && each.name !== 'version'),
    line: 1,
  };
  const broken = properties.some((each) => each === null);
  if (card.properties.length === 0) return { card: null, warnings: [{ code: 'CARD_EMPTY', line: 1 }] };
  const warnings: Warning[] = broken ? [{ code: 'LINE_UNREADABLE', line: 1 }] : [];
  if (list.length > LIMITS.contactProperties) warnings.push({ code: 'TOO_MANY_PROPERTIES', line: 1 });
  return { card, warnings };
}

function propertyFrom(json: unknown): Property | null {
  if (!Array.isArray(json) || json.length < 4) return null;
  const [name, params, type, ...values] = json as unknown[];
  if (
    typeof name !== 'string' ||
    !NAME.test(name) ||
    isFrame(name.toLowerCase()) ||
    typeof type !== 'string' ||
    !NAME.test(type)
  )
    return null;
  if (typeof params !== 'object' || params === null || Array.isArray(params)) return null;
  const read = new Map<string, string[]>();
  let group = '';
  for (const [key, value] of Object.entries(params)) {
    const texts = (Array.isArray(value) ? value : [value])
      .filter((each) => typeof each === 'string' || typeof each === 'number')
      .map(String);
    if (key.toLowerCase() === 'group') group = NAME.test(texts[0] ?? '') ? texts[0]!.toLowerCase() : '';
    else if (NAME.test(key) && texts.length > 0) read.set(key.toLowerCase(), texts.map(plainText));
  }
  const lower = name.toLowerCase();
  return {
    group,
    name: lower,
    params: read,
    type: type.toLowerCase(),
    values: values.map((value) => valueFrom(value, lower)),
    line: 0,
  };
}

const textFrom = (json: unknown): string =>
  typeof json === 'string'
    ? plainText(json)
    : json === null || json === undefined || typeof json === 'object'
      ? ''
      : String(json);

function valueFrom(json: unknown, name: string): Value {
  if (Array.isArray(json))
    return json.map((part): Component => (Array.isArray(part) ? part.map(textFrom) : textFrom(part)));
  const text = textFrom(json);
  if (STRUCTURED.has(name)) return [text];
  return name === 'bday' || name === 'anniversary' || name === 'rev' ? extendedDate(text) : text;
}
