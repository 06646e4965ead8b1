import type { Result } from '@/core/errors';
import { readHours } from './hours';
import { readEmail, readLink } from './link';
import { readPattern, type Pattern } from './patterns';
import { readPhone } from './phone';
import { readDetail, type TypedKind } from './read-detail';
import type { Use } from './kinds';
import type { Detail } from './record';
import { cleanText } from './text';

/** A pasted block taken apart: what could be the name, details, and what nothing was made of, each for review. */
export type Block = { name: string | null; details: Detail[]; left: string[] };

type Context = { country: string; zone: string; freshId: () => string; patterns?: readonly Pattern[] };

/** Words before a value in mail signatures and on paper cards, in English and German (from memory). */
const LABELS: [RegExp, TypedKind, Use[]][] = [
  [/^(?:mobile|mob|cell|handy|mobil|m)\b[.:\s]*/i, 'phone', ['mobile']],
  [/^(?:fax|telefax|f)\b[.:\s]+/i, 'phone', ['fax']],
  [/^(?:emergency|duty|notfall|notdienst)(?:\s+(?:line|phone|number))?\b[.:\s]*/i, 'phone', ['emergency']],
  [/^(?:direct|office|work|büro|durchwahl|d|o)\b[.:\s]+/i, 'phone', ['work']],
  [/^(?:home|private|privat)\b[.:\s]+/i, 'phone', ['home']],
  [/^(?:telephone|telefon|phone|tel|ph|t|p)\b[.:\s]*/i, 'phone', []],
  [/^(?:e-?mail|mail|e)\b[.:\s]+/i, 'email', []],
  [/^(?:web|website|site|internet|url|w)\b[.:\s]+/i, 'link', []],
  [/^(?:address|adresse|office address)\b[.:\s]+/i, 'address', []],
  [/^(?:hours|open|opening hours|öffnungszeiten)\b[.:\s]+/i, 'hours', []],
  [/^(?:licen[cs]e|registration|reg|zulassung)(?:\s*(?:no|nr|number))?\b[.:\s]+/i, 'licence', []],
  [/^(?:pronouns)\b[.:\s]+/i, 'pronouns', []],
  [/^(?:said as|pronounced(?: as)?|aussprache)\b[.:\s]+/i, 'said', []],
];
/** The word before a link to an appointment. */
const BOOK = /^(?:book(?: a \w+)?|booking|appointments?|meet(?:ing)?|termin|termine)\b\s*[.:]\s*/i;
/** Where a further labelled value begins on one line: "T: 020 7946 0182  M: 07700 900182". */
const NEXT_LABEL =
  /\s+(?=(?:telephone|telefon|phone|tel|ph|mobile|mobil|mob|cell|fax|direct|office|e-?mail|mail|web|website|url|book|[tpmfedow])\s*[.:]\s*[^\s.:])/i;

/** Postcodes and the words of streets; enough to tell an address from a job title (from memory). */
const ADDRESS =
  /\b([A-Z]{1,2}\d[A-Z\d]?\s*\d[A-Z]{2}|\d{5}(-\d{4})?|[A-Z]-?\d{4})\b|\b(street|st\.|road|rd\.?|lane|row|avenue|ave\.?|square|drive|way|court|straße|strasse|str\.|platz|weg|gasse|allee)\b/i;
/** A house number before the name of a street, or after it: "2 Lower Station Yard", "Seilergasse 4a". */
const HOUSE = /^(\d{1,4}[a-z]?,?\s+\p{L}[\p{L} .'-]{2,40}|\p{L}[\p{L} .'-]{4,40}\s\d{1,4}[a-z]?)(,.*)?$/iu;
const FIRM =
  /\b(ltd|limited|gmbh|ag|inc|llc|llp|plc|s\.?a\.?|co\.|company|e\.?k\.?|kg|university|school|council|partners|group)\b\.?/i;
const PRONOUNS = /^\(?((?:she|he|they|er|sie|ze)\s*\/\s*\w+(?:\s*\/\s*\w+)?)\)?$/i;
/** What stands between the letter and its signature, and means nothing. */
const CHATTER =
  /^(--\s*|_{3,}|-{3,}|(?:kind|best|warm)?\s*regards,?|yours (?:sincerely|faithfully),?|cheers,?|thanks,?|mit freundlichen grüßen,?|viele grüße,?|sent from .*)$/i;
const MOST_PIECES = 500;

/** Recognises what was typed or pasted as one value; null where it could be anything. */
export function recognise(raw: string, country: string): Exclude<TypedKind, 'own'> | null {
  const text = raw.trim();
  if (!text) return null;
  if (readEmail(text).ok) return 'email';
  if (/^[a-z][a-z0-9+.-]*:\/\//i.test(text) && readLink(text).ok) return 'link';
  if (
    /^[+(\d]/.test(text) &&
    /\d{3}/.test(text) &&
    /^[^\p{L}]*(ext\.?\s*\d+)?$/iu.test(text) &&
    readPhone(text, country).ok
  )
    return 'phone';
  if (/^[\w-]+(\.[\w-]+)+(\/\S*)?$/.test(text) && /[a-z]/i.test(text) && !/\.$/.test(text) && readLink(text).ok)
    return 'link';
  if (readHours(text, 'UTC').ok) return 'hours';
  if (PRONOUNS.test(text)) return 'pronouns';
  if ((ADDRESS.test(text) && /\d/.test(text)) || HOUSE.test(text)) return 'address';
  return null;
}

/** Words that name a post, in English and German (from memory). */
const POST =
  /\b(director|manager|engineer|officer|head of|lead|leader|consultant|adviser|advisor|inspector|founder|co-founder|partner|assistant|secretary|architect|lawyer|solicitor|attorney|accountant|nurse|doctor|teacher|lecturer|professor|designer|developer|analyst|technician|electrician|photographer|recordist|editor|journalist|translator|agent|broker|representative|specialist|coordinator|supervisor|president|chair(?:man|woman|person)?|treasurer|trainee|apprentice|owner|c[etfio]o)\b|(?:leiter|ingenieur|berater|direktor|referent|techniker|meister|vorstand|inhaber|sachbearbeiter|assistent|entwickler|redakteur)(?:in)?\b|geschäftsführ/i;

/** As {@link recognise}, and words alone: a firm by its legal form, a job title by its post. */
export const recogniseLine = (raw: string, country: string): Exclude<TypedKind, 'own'> | null => {
  const text = raw.trim();
  const known = recognise(text, country);
  // A sentence is no title.
  if (known || text.length > 80 || text.split(/\s+/).length > 8 || /[.!?]$/.test(text.replace(FIRM, ''))) return known;
  return FIRM.test(text) ? 'organisation' : POST.test(text) ? 'title' : null;
};

/** The label before a value, and the value. */
function labelled(piece: string): { kind: TypedKind | null; uses: Use[]; text: string } {
  for (const [pattern, kind, uses] of LABELS) {
    const found = pattern.exec(piece);
    if (!found) continue;
    const text = piece.slice(found[0].length).trim();
    // "Mobile applications lead" is a title: what follows the word must be what the word says.
    if (text && (kind !== 'phone' || /^[+(\d]/.test(text))) return { kind, uses, text };
  }
  return { kind: null, uses: [], text: piece };
}

/** Kinds of which a value shows by itself whether it is one; before any other a label ends with a colon. */
const SHOWS_ITSELF = new Set<TypedKind>(['phone', 'email', 'link', 'hours']);

/** What is typed as one line with its label before it: "Mobile: 07700 900182", "Said as: OH-deel"; null where there is none, or it is not so. */
export function readLabelled(raw: string, country: string): { kind: TypedKind; uses: Use[]; text: string } | null {
  const piece = raw.trim();
  const { kind, uses, text } = labelled(piece);
  if (!kind || piece.includes('\n')) return null;
  if (!SHOWS_ITSELF.has(kind) && !piece.slice(0, piece.length - text.length).includes(':')) return null;
  return readDetail(kind, text, { id: '', country, uses, zone: 'UTC' }).ok ? { kind, uses, text } : null;
}

/**
 * Takes apart a pasted mail signature or contact block, for review: e-mails, links, phones with their uses, hours, an address over
 * several lines, pronouns; of what is left the first line is the name, the next the job title, then the firm. Nothing is dropped:
 * what nothing was made of is in `left`.
 */
export function readBlock(raw: string, context: Context): Block {
  const pieces = cleanText(raw)
    .text.split('\n')
    .flatMap((line) => line.split(/\s+[|•·]\s+|\t+|\s{3,}/))
    .flatMap((piece) => (/^\s*\S+\s*[.:]/.test(piece) ? piece.split(NEXT_LABEL) : [piece]))
    .map((piece) => piece.trim().replace(/^[*>|•·]\s*/, ''))
    .filter((piece) => piece && !CHATTER.test(piece))
    .slice(0, MOST_PIECES);
  const details: Detail[] = [];
  const words: string[] = [];
  let address: string[] = [];
  const add = (kind: TypedKind, text: string, uses: Use[]): boolean => {
    const { country, zone } = context;
    const read: Result<Detail> = readDetail(kind, text, { id: context.freshId(), country, uses, zone });
    if (read.ok) details.push(read.value);
    return read.ok;
  };
  const endAddress = () => {
    if (address.length > 0 && !add('address', address.join('\n'), [])) words.push(...address);
    address = [];
  };
  for (const piece of pieces) {
    const booked = BOOK.exec(piece);
    const booking = booked && readLink(piece.slice(booked[0].length).trim());
    if (booking?.ok) {
      add('link', booking.value.url, []);
      details[details.length - 1] = { ...details.at(-1)!, purpose: 'booking' } as Detail;
      continue;
    }
    const made = readPattern(piece, context.patterns ?? [], context.country);
    if (made && add('link', made.url, [])) {
      details[details.length - 1] = { ...details.at(-1)!, label: made.label };
      continue;
    }
    const { kind: said, uses, text } = labelled(piece);
    const kind = said ?? recognise(text, context.country);
    if (kind === 'address') {
      address.push(text);
      continue;
    }
    // The town, the country: lines after the street with nothing else about them.
    if (!kind && address.length > 0 && address.length < 5 && /^[\p{L}\p{N} .,'-]+$/u.test(text) && !FIRM.test(text)) {
      address.push(text);
      continue;
    }
    endAddress();
    if (kind && add(kind, text, uses)) continue;
    // Two values on one line: "020 7946 0182, ilse@tarnhope.example".
    const parts = piece.split(/\s*[,;]\s+/);
    const read = parts.length > 1 ? parts.map((part) => ({ part, ...labelled(part) })) : [];
    if (read.length > 0 && read.every(({ kind: known, text: value }) => known ?? recognise(value, context.country))) {
      for (const each of read) add((each.kind ?? recognise(each.text, context.country))!, each.text, each.uses);
    } else words.push(piece);
  }
  endAddress();
  const { name, title, firm, left } = rolesOf(words);
  const said = details.splice(0);
  if (title) add('title', title, []);
  if (firm) add('organisation', firm, []);
  return { name, details: [...details, ...said], left };
}

/** Of words alone, in their order: the name, the job title, the firm; the rest is left. */
function rolesOf(words: string[]): { name: string | null; title: string | null; firm: string | null; left: string[] } {
  const rest = [...words];
  const take = (test: (text: string) => boolean): string | null => {
    const at = rest.findIndex(test);
    return at < 0 ? null : rest.splice(at, 1)[0]!;
  };
  const isName = (text: string) =>
    text.length <= 80 && !/\d/.test(text) && !FIRM.test(text) && text.split(/\s+/).length <= 7 && /^\p{L}/u.test(text);
  const name = rest[0] && isName(rest[0]) ? rest.shift()! : null;
  const firm = take((text) => FIRM.test(text) && text.length <= 120);
  const title = rest[0] && rest[0].length <= 120 && /\p{L}/u.test(rest[0]) ? rest.shift()! : null;
  if (firm || !title) return { name, title, firm, left: rest };
  // "Lead rope inspector, Tarnhope Cableways": one comma divides them; else the next line is the firm.
  const [post, ...house] = title.split(/\s*,\s+|\s+(?:at|bei)\s+/);
  if (house.length === 1) return { name, title: post!, firm: house[0]!, left: rest };
  const next = rest[0] && rest[0].length <= 80 && !/[.!?]$/.test(rest[0]) ? rest.shift()! : null;
  return { name, title, firm: next, left: rest };
}

/** Whether a pasted text is more than one value: several lines, or several things on one. */
export const isBlock = (raw: string): boolean => raw.split('\n').filter((line) => line.trim()).length > 1;
