import fc from 'fast-check';
import ICAL from 'ical.js';
import { composeDraft, type Composition } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { contentText, contentValue, linesFor, type Content } from './contents';

const LINK = { link: 'https://c.heath.example/h/7K3M9QXZ' };
const EMPTY = { lines: [], further: {}, blocks: [], language: null } as unknown as Composition;
const made = (content: Content, of: Composition = EMPTY): string => {
  const text = contentText(content, of, LINK);
  return text.ok ? text.value : text.problem.code;
};
const composed = (record: PersonRecord, draft: Parameters<typeof composeDraft>[1]): Composition => {
  const read = composeDraft(record, draft, 'GB');
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
};

/** Takes a Wi-Fi code apart as readers do: fields end at a semicolon that no backslash precedes (common practice, no published source). */
function wifiFields(text: string): Record<string, string> {
  const fields: Record<string, string> = {};
  for (const [, name, value] of text.slice('WIFI:'.length).matchAll(/([A-Z]):((?:\\.|[^\\;])*);/g))
    fields[name!] = value!.replace(/\\(.)/g, '$1');
  return fields;
}

test('a network is joined by whatever name and password it has: both are read back as they were typed', () => {
  const typed = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 30 }).filter((text) => text.trim() !== '');
  fc.assert(
    fc.property(typed, typed, fc.boolean(), (name, password, hidden) => {
      const text = made({ what: 'wifi', name, password, kind: 'WPA', hidden });
      expect(wifiFields(text)).toEqual({ T: 'WPA', S: name, P: password, ...(hidden ? { H: 'true' } : {}) });
      expect(text.endsWith(';;')).toBe(true);
    }),
  );
  expect(made({ what: 'wifi', name: 'Guests', password: 'x', kind: 'none', hidden: false })).toBe(
    'WIFI:T:nopass;S:Guests;;',
  );
  expect(made({ what: 'wifi', name: ' ', password: 'x', kind: 'WPA', hidden: false })).toBe('CONTENT_EMPTY');
});

test('an appointment is read by a calendar’s parser as it was typed (RFC 5545, by ical.js), whatever stands in its words', () => {
  const words = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 40 })
    .filter((text) => /\S/.test(text) && !/[\r\\]/.test(text));
  fc.assert(
    fc.property(words, words, (title, place) => {
      const text = made({ what: 'appointment', title, place, from: '2026-05-01T09:30', until: '2026-05-01T17:00' });
      const event = new ICAL.Component(ICAL.parse(text) as never);
      expect(event.getFirstPropertyValue('summary')).toBe(title.trim());
      expect(event.getFirstPropertyValue('location')).toBe(place.trim());
      expect(String(event.getFirstPropertyValue('dtstart'))).toBe('2026-05-01T09:30:00');
      expect(String(event.getFirstPropertyValue('dtend'))).toBe('2026-05-01T17:00:00');
    }),
  );
  const none = {
    what: 'appointment',
    title: ' ',
    place: '',
    from: '2026-05-01T09:30',
    until: '2026-05-01T17:00',
  } as const;
  expect(made(none)).toBe('CONTENT_EMPTY');
});

test('a place is a geo URI (RFC 5870 3.3); its label cannot break out of it', () => {
  expect(made({ what: 'place', latitude: 54.4862, longitude: -0.6133, label: '' })).toBe('geo:54.4862,-0.6133');
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 40 }), (label) => {
      const text = made({ what: 'place', latitude: 1.5, longitude: 2, label });
      expect(text).toMatch(/^geo:1\.5,2(\?q=1\.5,2\(([A-Za-z0-9\-_.!~*'()]|%[0-9A-F]{2})+\))?$/);
    }),
  );
});

test('an address gets its scheme, keeps its blanks as %20 (RFC 3986 2.1), and a script is none', () => {
  const read = (url: string) => made({ what: 'address', url });
  expect(read('heath.example/a b')).toBe('https://heath.example/a%20b');
  expect(read('javascript:alert(1)')).toBe('LINK_SCHEME_REFUSED');
  expect(read('')).toBe('LINK_UNREADABLE');
});

test('a code holds what it has room for, and no more; half of a pair is made whole', () => {
  expect(made({ what: 'words', text: ' ' })).toBe('CONTENT_EMPTY');
  // ISO/IEC 18004, table 7: 2,331 bytes in version 40 at level M, less the three that mode and length take are 2,331; ours is one below.
  expect(made({ what: 'words', text: 'x'.repeat(2_330) })).toHaveLength(2_330);
  expect(made({ what: 'words', text: 'x'.repeat(2_331) })).toBe('CONTENT_TOO_LARGE');
  expect(made({ what: 'words', text: 'ä'.repeat(1_166) })).toBe('CONTENT_TOO_LARGE');
  expect(made({ what: 'words', text: 'a\ud800b' })).toBe('a\ufffdb');
});

test('a scan calls, writes, texts or opens what the page or the code gives out, and no other line of the card', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const composition = composed(record, draft);
      for (const what of ['call', 'write', 'text', 'link'] as const) {
        const offered = new Set(linesFor(composition, what).map(({ id }) => id));
        for (const { id, detail, on } of composition.lines) {
          const text = made({ what, line: id }, composition);
          const leaves = on.includes('page') || on.includes('code');
          if (!leaves) expect([id, text]).toEqual([id, 'NOT_FOUND']);
          expect(offered.has(id)).toBe(text !== 'NOT_FOUND');
          if (text === 'NOT_FOUND') continue;
          // RFC 3966, RFC 6068, RFC 5724.
          const scheme = { call: 'tel:', write: 'mailto:', text: 'sms:', link: 'https:' }[what];
          expect(text.startsWith(scheme)).toBe(true);
          expect(contentValue({ what, line: id }, composition)).not.toBe('');
          if (detail.kind === 'phone') expect(text).toContain(detail.number);
        }
      }
      expect(made({ what: 'call', line: 'never' }, composition)).toBe('NOT_FOUND');
    }),
    { numRuns: 60 },
  );
});
