import type { ComposedLine, Composition } from '@/core/card';
import { err, ok, type Result } from '@/core/errors';
import { CODE_BYTES, liveCodeText } from '@/core/qr';
import { readLink, shownValue, telUri } from '@/core/record';
import { writeCardAsMeCard, writeFrozenContact } from '@/core/vcard';

/** How a contact inside a code is written. */
export const CONTACT_FORMS = ['vCard 3.0', 'MeCard', 'vCard 4.0'] as const;
export type ContactForm = (typeof CONTACT_FORMS)[number];

/** What a scan does with a line of the card. */
export const LINE_ACTS = ['call', 'write', 'text', 'link'] as const;
export type LineAct = (typeof LINE_ACTS)[number];

export const WIFI_KINDS = ['WPA', 'WEP', 'none'] as const;

/**
 * What a code makes a phone do. `card` and `save` are live: they hold a link and show today's card. All others are frozen: what they hold stays what it
 * is, and cannot be changed after printing. Times of an appointment are on the wall clock, `YYYY-MM-DDTHH:MM`.
 */
export type Content =
  | { what: 'card' }
  | { what: 'save' }
  | { what: 'contact'; form: ContactForm; link: boolean }
  | { what: LineAct; line: string }
  | { what: 'address'; url: string }
  | { what: 'words'; text: string }
  | { what: 'wifi'; name: string; password: string; kind: (typeof WIFI_KINDS)[number]; hidden: boolean }
  | { what: 'place'; latitude: number; longitude: number; label: string }
  | { what: 'appointment'; title: string; from: string; until: string; place: string };

export const isLive = ({ what }: Content): boolean => what === 'card' || what === 'save';

/** The lines that a content of an act may take: those that the published page or the code gives out anyway, so that no other value leaves. */
export function linesFor({ lines }: Composition, act: LineAct): ComposedLine[] {
  const fits = ({ detail }: ComposedLine) =>
    act === 'link'
      ? detail.kind === 'link'
      : act === 'write'
        ? detail.kind === 'email'
        : detail.kind === 'phone' &&
          (act === 'call'
            ? !detail.uses.includes('fax')
            : detail.uses.includes('text') || detail.uses.includes('mobile'));
  return lines.filter((line) => (line.on.includes('page') || line.on.includes('code')) && fits(line));
}

/** `\ ; , : "` stand for themselves after a backslash (the form of Wi-Fi codes: common practice, no published source). */
const wifiEscaped = (text: string): string => text.replace(/[\\;,:"]/g, '\\$&');
/** RFC 5545, 3.3.11. */
const icalEscaped = (text: string): string => text.replace(/[\\;,]/g, '\\$&').replace(/\r?\n/g, '\\n');
const icalTime = (time: string): string => `${time.replace(/[-:]/g, '')}00`;

/** What a hand-out's own link is made of: where its code leads. */
export type CodeLink = { link: string };

function lineText(line: ComposedLine, act: LineAct): string | null {
  const { detail } = line;
  if (act === 'link') return detail.kind === 'link' ? detail.url : null;
  // RFC 6068; RFC 3966; RFC 5724.
  if (act === 'write') return detail.kind === 'email' ? `mailto:${detail.address}` : null;
  if (detail.kind !== 'phone') return null;
  return act === 'call' ? telUri(detail) : `sms:${detail.number}`;
}

/** The contact in a code: its text, and the properties that its form cannot say. */
export function contactText(
  composition: Composition,
  form: ContactForm,
  link: string | null,
): { text: string; lost: string[] } {
  const inCode = {
    ...composition,
    lines: composition.lines.map((line) => ({
      ...line,
      on: line.on.includes('code') ? (['file'] as const).slice() : [],
    })),
  };
  if (form !== 'MeCard')
    return {
      text: writeFrozenContact(composition, 'code', { link, version: form === 'vCard 4.0' ? '4.0' : '3.0' }),
      lost: [],
    };
  const { text, cannotSay } = writeCardAsMeCard(inCode, { uid: '', revised: '', source: null, photo: null });
  const withLink = link ? text.replace(/;;$/, `;URL:${link.replace(/[\\;:,]/g, '\\$&')};;`) : text;
  return { text: withLink, lost: cannotSay.filter((name) => !MACHINERY.has(name)) };
}
/** Properties that no reader of a code misses. */
const MACHINERY = new Set(['uid', 'rev', 'prodid', 'kind', 'source', 'fn', 'version']);

/**
 * The text that a code holds. `link` is where the hand-out's code leads. Errors: NOT_FOUND of a line that the card does not give out, LINK_UNREADABLE,
 * LINK_SCHEME_REFUSED, CONTENT_EMPTY, CONTENT_TOO_LARGE.
 */
export function contentText(content: Content, composition: Composition, { link }: CodeLink): Result<string> {
  const made = rawText(content, composition, link);
  if (!made.ok) return made;
  // Half of a pair is made whole, as UTF-8 does everywhere.
  const text = made.value.replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, '\ufffd');
  const bytes = new TextEncoder().encode(text).length;
  if (bytes === 0) return err({ code: 'CONTENT_EMPTY' });
  return bytes > CODE_BYTES ? err({ code: 'CONTENT_TOO_LARGE', bytes, room: CODE_BYTES }) : ok(text);
}

function rawText(content: Content, composition: Composition, link: string): Result<string> {
  switch (content.what) {
    case 'card':
      return ok(liveCodeText(link));
    case 'save':
      return ok(liveCodeText(`${link}.vcf`));
    case 'contact':
      return ok(contactText(composition, content.form, content.link ? link : null).text);
    case 'address': {
      // A blank within a link is one that a browser writes as %20 (RFC 3986, 2.1).
      const read = readLink(content.url.trim().replace(/\s+/g, '%20'));
      return read.ok ? ok(read.value.url) : read;
    }
    case 'words':
      return ok(content.text.trim());
    case 'wifi': {
      if (!content.name.trim()) return err({ code: 'CONTENT_EMPTY' });
      const secret = content.kind === 'none' ? '' : `P:${wifiEscaped(content.password)};`;
      return ok(
        `WIFI:T:${content.kind === 'none' ? 'nopass' : content.kind};S:${wifiEscaped(content.name)};${secret}${content.hidden ? 'H:true;' : ''};`,
      );
    }
    case 'place':
      // RFC 5870; the label as readers of codes take it (common practice, no published source).
      return ok(
        `geo:${content.latitude},${content.longitude}${content.label.trim() ? `?q=${content.latitude},${content.longitude}(${encodeURIComponent(content.label.trim())})` : ''}`,
      );
    case 'appointment':
      if (!content.title.trim()) return err({ code: 'CONTENT_EMPTY' });
      return ok(
        [
          'BEGIN:VEVENT',
          `SUMMARY:${icalEscaped(content.title.trim())}`,
          `DTSTART:${icalTime(content.from)}`,
          `DTEND:${icalTime(content.until)}`,
          ...(content.place.trim() ? [`LOCATION:${icalEscaped(content.place.trim())}`] : []),
          'END:VEVENT',
        ].join('\r\n'),
      );
    default: {
      const line = linesFor(composition, content.what).find(({ id }) => id === content.line);
      const text = line && lineText(line, content.what);
      return text ? ok(text) : err({ code: 'NOT_FOUND' });
    }
  }
}

/** A content in a few words of the card's own: the value of its line, or what was typed; empty where its kind says all. */
export function contentValue(content: Content, composition: Composition): string {
  if ('line' in content) {
    const line = composition.lines.find(({ id }) => id === content.line);
    return line ? shownValue(line.detail) : '';
  }
  if (content.what === 'address') return content.url;
  if (content.what === 'words') return content.text;
  if (content.what === 'wifi') return content.name;
  if (content.what === 'place') return content.label || `${content.latitude}, ${content.longitude}`;
  return content.what === 'appointment' ? content.title : '';
}
