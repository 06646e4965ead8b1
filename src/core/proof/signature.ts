import { Parser } from 'htmlparser2';
import { linesOn, squeeze, type Channel, type ComposedLine, type Composition } from '@/core/card';
import type { Finding } from '@/core/findings';
import { contrast, luminance, rgbOf, hexOf } from '@/core/look';
import { shownLink, shownValue, writtenName } from '@/core/record';
import { MAIL_GROUNDS, NEEDS, type Signature } from '@/core/signature';
import { proofOf, type Check, type Proof } from './proof';

/** Bytes of a signature's HTML at most, with its pictures linked and with them inside. */
export const SIGNATURE_ROOM = { linked: 30_000, inside: 90_000 } as const;

/**
 * Properties of CSS that a word processor's engine takes from the style of an element (caniemail's data of May 2026 for that engine, by property; held against
 * it in this file's test). What is not here it drops, or draws otherwise.
 */
export const ENGINE_TAKES: ReadonlySet<string> = new Set([
  'border-collapse',
  'border-left',
  'border-right',
  'color',
  'font-family',
  'font-size',
  'font-weight',
  'line-height',
  'padding',
  'padding-left',
  'padding-right',
  'padding-top',
  'text-align',
  'text-decoration',
]);

/** Elements that it draws as they are meant. */
const ELEMENTS = new Set(['table', 'tbody', 'tr', 'td', 'img', 'a', 'span', 'br', 'b', 'strong']);

type Read = {
  /** What is seen with pictures blocked: words, without the texts of pictures. */
  words: string;
  alts: string[];
  colours: string[];
  properties: string[];
  elements: string[];
  /** Pictures without a size or a text, since a program that blocks them shows a box of nothing. */
  bare: number;
  sources: string[];
  links: string[];
};

/** What is in a fragment of HTML, as a parser that did not write it finds it. */
export function readSignature(html: string): Read {
  const read: Read = {
    words: '',
    alts: [],
    colours: [],
    properties: [],
    elements: [],
    bare: 0,
    sources: [],
    links: [],
  };
  const parser = new Parser({
    onopentag(name, { style = '', src, alt, width, height, href }) {
      read.elements.push(name);
      for (const rule of style.split(';')) {
        const [property, value = ''] = rule.split(/:(.*)/s).map((each) => each.trim().toLowerCase());
        if (property) read.properties.push(property);
        const colour = /#[0-9a-f]{6}\b/.exec(value)?.[0];
        if (colour && property === 'color') read.colours.push(colour);
      }
      if (name === 'td' || name === 'br') read.words += '\n';
      if (href !== undefined) read.links.push(href);
      if (name !== 'img') return;
      read.alts.push(alt ?? '');
      read.sources.push(src ?? '');
      // The height of a strip is left to what it shows by then: nothing, after its end.
      const sized = /^\d+$/.test(width ?? '') && (/^\d+$/.test(height ?? '') || /\/strip-[^/]+$/.test(src ?? ''));
      if (!sized || alt === undefined) read.bare += 1;
    },
    ontext: (more) => (read.words += more),
  });
  parser.end(html);
  return read;
}

/** How a colour looks where a program turns a light mail dark: its lightness turned round (common practice, no published source). */
const inverted = (hex: string): string => {
  const [r, g, b] = rgbOf(hex);
  const turn = 1 - Math.max(r, g, b) - Math.min(r, g, b);
  return hexOf([r + turn, g + turn, b + turn]);
};

/** The worst pair of the colours of a signature on the grounds that programs set, turned dark ones as well. */
function colourCheck(colours: string[]): Finding & { code: 'CONTRAST' } {
  const { day, night } = MAIL_GROUNDS;
  const pairs = [...new Set(colours)].flatMap((colour) => [
    { ratio: contrast(colour, day), needs: NEEDS.day },
    { ratio: contrast(colour, night), needs: NEEDS.night },
    // Turned round it lies on a dark ground, and where the ground alone is turned, on that.
    { ratio: contrast(luminance(colour) < 0.5 ? inverted(colour) : colour, night), needs: NEEDS.night },
  ]);
  const worst = pairs.reduce((a, b) => (b.ratio / b.needs < a.ratio / a.needs ? b : a), {
    ratio: 21,
    needs: NEEDS.day,
  });
  const read = pairs.filter(({ ratio, needs }) => ratio >= needs - 0.001).length;
  return { code: 'CONTRAST', read, of: pairs.length, worst: worst.ratio, needs: worst.needs };
}

const titleOf = ({ label, detail }: ComposedLine): string => label || shownValue(detail);
const valueOf = ({ detail }: ComposedLine): string =>
  detail.kind === 'link' ? shownLink(detail.url) : shownValue(detail);

type Held = {
  composition: Composition;
  withheld: string[];
  /** Where the living card is, if the signature says so. */
  link: string | null;
  pictures: 'linked' | 'inside';
  /** What was attached of it, where its pictures are inside, in bytes. */
  pictureBytes: number;
  /** What the organisation has stand below it, in words. */
  below?: readonly string[];
  /** The channel whose ticks it carries. */
  channel?: Channel;
};

/**
 * The proof of a signature as it is copied, sent and given to scripts. Names and numbers must stand in words with pictures blocked, in what a word processor's
 * engine draws, on a dark ground and in the plain text; nothing that is not ticked for it stands anywhere, alternative texts and addresses included.
 * `composition` in the language that the signature is in.
 */
export function proveSignature({ html, text, short }: Signature, held: Held): Proof {
  const { composition, withheld, link, pictures, pictureBytes, below = [], channel = 'signature' } = held;
  const read = readSignature(html);
  const lines = linesOn(composition, channel).filter(({ detail }) => detail.kind !== 'photo' && detail.kind !== 'logo');
  const wanted: [title: string | null, value: string][] = [
    [null, writtenName(composition.name)],
    ...lines.map((line): [string, string] => [titleOf(line), valueOf(line)]),
    ...below.map((each): [string, string] => [each.slice(0, 40), each]),
  ];
  const missingIn = (said: string) => {
    const squeezed = squeeze(said);
    return wanted.filter(([, value]) => !squeezed.includes(squeeze(value))).map(([title]) => title);
  };
  const seen = (code: 'WITHOUT_PICTURES' | 'AS_TEXT', said: string): Check => {
    const missing = missingIn(said);
    return {
      name: code === 'AS_TEXT' ? 'as text' : 'pictures blocked',
      passed: missing.length === 0,
      finding: { code, read: wanted.length - missing.length, of: wanted.length, missing },
    };
  };
  const everything = squeeze([read.words, ...read.alts, ...read.links.map(decoded), text, short].join('\n'));
  const leaked = withheld.filter((value) => everything.includes(squeeze(value)));
  const strange = [
    ...new Set([
      ...read.properties.filter((each) => !ENGINE_TAKES.has(each)),
      ...read.elements.filter((each) => !ELEMENTS.has(each)),
    ]),
  ];
  const bytes = new TextEncoder().encode(html).length + pictureBytes;
  const room = SIGNATURE_ROOM[pictures];
  const own = link ? new URL(link).origin : null;
  const outside = read.sources.filter(
    (src) => !/^(cid|data):/.test(src) && (own === null || !src.startsWith(`${own}/`)),
  );
  const colours = colourCheck(read.colours);
  return proofOf([
    seen('WITHOUT_PICTURES', read.words),
    seen('AS_TEXT', text),
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: { code: 'UNTICKED', still: leaked.length, of: withheld.length },
    },
    {
      name: 'word processor',
      passed: strange.length === 0 && read.bare === 0,
      finding: { code: 'ENGINE', strange, bare: read.bare },
    },
    { name: 'dark', passed: colours.read === colours.of, finding: colours },
    { name: 'size', passed: bytes <= room, finding: { code: 'FITS', bytes, room } },
    { name: 'other sites', passed: outside.length === 0, finding: { code: 'OTHER_HOSTS', times: outside.length } },
  ]);
}

function decoded(href: string): string {
  try {
    return decodeURIComponent(href);
  } catch {
    return href;
  }
}
