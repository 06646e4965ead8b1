import { ACTS, ROLES } from '@/core/access';
import * as all from './index';

/** Every text and every sentence that is put together, by its place. */
function texts(of: unknown, at: string): [string, string | ((...of: never[]) => unknown)][] {
  if (typeof of === 'string') return [[at, of]];
  if (typeof of === 'function') return [[at, of as (...of: never[]) => unknown]];
  if (typeof of !== 'object' || of === null) return [];
  return Object.entries(of).flatMap(([key, value]) => texts(value, `${at}.${key}`));
}
const EVERY = Object.entries(all).flatMap(([name, words]) => texts(words, name));
const fixed = EVERY.filter((each): each is [string, string] => typeof each[1] === 'string');

// Common practice of good writing, no published source: curved apostrophes, one blank, an ellipsis of one letter, no shouting.
test('what the studio says is written with care: no double blanks, no typewriter’s apostrophes, nothing cried out', () => {
  expect(fixed.length).toBeGreaterThan(800);
  for (const [at, text] of fixed) {
    const wrong = /  | $|\.\.\.|[A-Za-z]'[a-z]|!(?!=)|\bplease\b|\bclick here\b|\bsuccessfully\b|\boops\b/i.exec(
      text
        .replaceAll('{', '')
        .replace(/^ /, '')
        .replace(/ {2}\/$/, ''),
    );
    expect([at, wrong?.[0] ?? null]).toEqual([at, null]);
  }
});

test('no mail program, phone, network or other program is named in any of it', () => {
  // Names of kinds of thing are written small; a name of a product would be a capital within a sentence that is no name of ours.
  const OURS =
    /^(Heathland|QR|NFC|NDEF|PDF|PNG|SVG|JPEG|HTML|CSV|XLSX|DNS|URL|URI|TLS|JSON|UID|WCAG|AVIF|WebP|HEIC|MB|KB|WPA|WEP|Wi-Fi|IT|AA|EPS|TIFF|CMYK|RGB|WebVTT|I|E\.164|Ctrl|Alt|Enter|Esc|Space|Shift|Tab)$/;
  for (const [at, text] of fixed) {
    const inside = [...text.matchAll(/(?<=[a-z,;] )([A-Z][A-Za-z-]{2,}(?:\.\d+)?)/g)].map(([, word]) => word!);
    const strange = inside.filter((word) => !OURS.test(word) && !/^[A-Z]{2,6}s?$/.test(word));
    expect([
      at,
      strange.filter((word) =>
        /^(Out|Apple|Goog|Gmail|Face|Linked|Whats|Insta|Micro|Windows|Android|Iphone|Chrome|Safari|Firefox)/i.test(
          word,
        ),
      ),
    ]).toEqual([at, []]);
  }
});

test('every act of the audit trail, and every role, is worded', () => {
  for (const act of ACTS) expect([act, all.ACT_WORDS[act].length > 3]).toEqual([act, true]);
  for (const role of ROLES) expect([role, all.ROLE_NOTES[role].length > 10]).toEqual([role, true]);
});
