import { saidIn, linesOn, type Channel, type ComposedLine, type Composition } from '@/core/card';
import { directionOf, type Language } from '@/core/language';
import { FAMILIES } from '@/core/look';
import { escapeHtml } from '@/core/markup';
import { hrefOf, labelFor } from '@/core/page';
import { shownLink, shownValue, writtenName } from '@/core/record';
import { accentOf, QUIET } from './colours';
import type { SignatureLayout, SignatureParts } from './options';

/** A picture of a signature: where a mail program finds it (an address, or `cid:`), and its size in CSS pixels. */
export type SignaturePicture = { src: string; width: number; height: number };

export type SignatureContext = {
  language: Language;
  /** Where the living card is. */
  link: string;
  photo: SignaturePicture | null;
  logo: SignaturePicture | null;
  /** What the organisation says below each signature. */
  below?: readonly string[];
  strip?: SignatureStrip | null;
};

/** A notice for a while: its words, where it leads (empty: nowhere), and its picture, where it is one, whose height is left to what it shows by then. */
export type SignatureStrip = { text: string; link: string; picture: SignaturePicture | null };

/** A signature in its forms: a fragment of HTML without head and style, the same as text, and a short one for phones. */
export type Signature = { html: string; text: string; short: string };

/** Sides of the photo and the tallest logo, in CSS pixels; twice as many are sent (common practice). */
export const PHOTO_SIDE = 72;
export const LOGO_HEIGHT = 36;
/** The broadest picture of a strip, in CSS pixels. */
export const STRIP_WIDTH = 480;

type Said = { name: string; role: string; firm: string; rows: { label: string; value: string; href: string | null }[] };

const of = (lines: ComposedLine[], ...kinds: string[]): string =>
  lines
    .filter(({ detail }) => kinds.includes(detail.kind))
    .map(({ detail }) => shownValue(detail))
    .join(', ');
/** Kinds that stand at the top, and pictures, which stand apart. */
const AT_TOP = new Set(['title', 'role', 'organisation', 'photo', 'logo']);

function saidBy(whole: Composition, language: Language, channel: Channel): Said {
  const composition = saidIn(whole, language);
  const lines = linesOn(composition, channel);
  const rows = lines
    .filter(({ detail }) => !AT_TOP.has(detail.kind))
    .map((line) => ({
      label: labelFor(line, language),
      value: line.detail.kind === 'link' ? shownLink(line.detail.url) : shownValue(line.detail),
      href: safe(hrefOf(line.detail)),
    }));
  return {
    name: writtenName(composition.name),
    role: of(lines, 'title', 'role'),
    firm: of(lines, 'organisation'),
    rows,
  };
}

/** Schemes that mail programs open; a `geo:` link is dead in most of them (common practice). */
const safe = (href: string | null): string | null => (href && /^(https?|mailto|tel):/i.test(href) ? href : null);

/**
 * The mail signature of a card: the lines ticked for it and no other, in one language; a message with the card in it carries those of another channel in the same form. The HTML is a table with its style on each element, names a font that
 * every computer has, sets no ground and no colour but two that read on light and dark; what it says stands in words, with or without its pictures. Each
 * property of CSS is one that a word processor's engine knows (caniemail's data, by property).
 */
export function writeSignature(
  composition: Composition,
  { layout, parts, channel = 'signature' }: { layout: SignatureLayout; parts: SignatureParts; channel?: Channel },
  context: SignatureContext,
): Signature {
  const said = saidBy(composition, context.language, channel);
  return {
    html: htmlOf(composition, said, layout, parts, context),
    text: [textOf(said, parts.link ? context.link : null), ...furtherOf(context)].join('\n\n'),
    short: [said.name, [said.role, said.firm].filter(Boolean).join(', '), context.link].filter(Boolean).join('\n'),
  };
}

const textOf = ({ name, role, firm, rows }: Said, link: string | null): string =>
  [
    name,
    [role, firm].filter(Boolean).join(', '),
    ...rows.map(({ label, value }) => (label ? `${label}: ${value}` : value)),
    link ?? '',
  ]
    .filter(Boolean)
    .join('\n');

/** What follows the contact in plain text: the strip, and what the organisation says. */
const furtherOf = ({ strip, below = [] }: SignatureContext): string[] => [
  ...(strip ? [[strip.text, strip.link].filter(Boolean).join('\n')] : []),
  ...below,
];

const text = (value: string): string => escapeHtml(value).replaceAll('\n', '<br>');

function htmlOf(
  { look }: Composition,
  { name, role, firm, rows }: Said,
  layout: SignatureLayout,
  parts: SignatureParts,
  { language, link, photo, logo, strip = null, below: said = [] }: SignatureContext,
): string {
  const accent = accentOf(look.palette);
  const serif = FAMILIES[look.text].kind === 'serif';
  const font = `font-family:${serif ? "Georgia,'Times New Roman',serif" : 'Arial,Helvetica,sans-serif'}`;
  const direction = directionOf(language);
  const [start, end] = direction === 'rtl' ? ['right', 'left'] : ['left', 'right'];
  // What is written from the other side keeps its own order.
  const cell = (style: string, inner: string) =>
    `<tr><td dir="auto" align="${start}" style="${font};${style};text-align:${start}">${inner}</td></tr>`;
  const small = 'font-size:13px;line-height:19px;padding:0';
  const anchor = (href: string, inner: string) =>
    `<a href="${escapeHtml(href)}" style="color:${accent};text-decoration:none">${inner}</a>`;
  const picture = (each: SignaturePicture, alt: string) =>
    `<img src="${escapeHtml(each.src)}" alt="${escapeHtml(alt)}" width="${each.width}" height="${each.height}" border="0">`;
  const words = [
    cell(`font-size:18px;line-height:24px;padding:0;font-weight:bold;color:${accent}`, text(name)),
    ...[role, firm].filter(Boolean).map((each) => cell('font-size:14px;line-height:20px;padding:0', text(each))),
    ...rows.map(({ label, value, href }) =>
      cell(
        small,
        `${label ? `<span style="color:${QUIET}">${text(label)}</span>&nbsp; ` : ''}${href ? anchor(href, text(value)) : text(value)}`,
      ),
    ),
    ...(parts.link ? [cell(`${small};padding-top:6px`, anchor(link, text(shownLink(link))))] : []),
  ];
  const [face, sign] = [parts.picture ? photo : null, parts.picture ? logo : null];
  const table = (inner: string, more = '') =>
    `<table role="presentation" cellpadding="0" cellspacing="0" border="0"${more} style="border-collapse:collapse">${inner}</table>`;
  const mark = sign ? cell('font-size:13px;padding:8px 0 0 0', picture(sign, firm)) : '';
  const whole = ` dir="${direction}" lang="${language}"`;
  const notice = strip?.picture
    ? `<img src="${escapeHtml(strip.picture.src)}" alt="${escapeHtml(strip.text)}" width="${strip.picture.width}" border="0">`
    : text(strip?.text ?? '');
  const further = [
    ...(strip ? [cell(`${small};padding-top:10px`, strip.link ? anchor(strip.link, notice) : notice)] : []),
    ...said.map((each) =>
      cell('font-size:11px;line-height:15px;padding:10px 0 0 0', `<span style="color:${QUIET}">${text(each)}</span>`),
    ),
  ].join('');
  if (layout === 'below' || !face)
    return table((face ? cell('padding:0 0 8px 0', picture(face, name)) : '') + words.join('') + mark + further, whole);
  const beside = (style: string, inner: string, more = '') =>
    `<td valign="top" align="${start}"${more} style="${style}">${inner}</td>`;
  const contact = (more: string) =>
    table(
      `<tr>${beside(`padding:2px 0 0 0;padding-${end}:14px;${font};font-size:13px`, picture(face, name), ` width="${face.width + 14}"`)}` +
        `${beside(`border-${start}:2px solid ${accent};padding:0;padding-${start}:14px`, table(words.join('') + mark))}</tr>`,
      more,
    );
  return further ? table(`<tr>${beside('padding:0', contact(''))}</tr>${further}`, whole) : contact(whole);
}
