import { saidIn, type Composition } from '@/core/card';
import { FIRST_LOOK, type Look } from '@/core/look';
import type { Language } from '@/core/language';
import { shownValue } from '@/core/record';
import { areasOf } from './card-areas';
import { escapeHtml } from '@/core/markup';
import { labelFor } from './label';
import { hrefOf } from './links';
import { lookStyle } from './look-style';
import { page } from './page';
import { PAGE_STYLE } from './style';

export const NOTICE_STYLE = `.note-firm{background:var(--b);color:var(--ob);padding:20px 24px;font:var(--m)/1.2 var(--T);display:flex;gap:8px 16px;align-items:center;flex-wrap:wrap}.note-firm img{height:40px;width:auto;max-width:60%}`;

/** Whose notice it is: the look that it wears, the firm, and lines of the house by which somebody can still be reached. */
export type NoticeHouse = {
  look: Look;
  firm: string;
  /** Where the house's logo lies, if it has one. */
  logo: string | null;
  lines: { label: string; text: string; href: string }[];
};

/** What of a card that rests may be said: the firm, and the house's own lines that can be rung, written to or opened. */
export function noticeHouse(
  whole: Composition,
  houseLines: readonly string[],
  logo: string | null,
  language: Language,
): NoticeHouse {
  const composition = saidIn(whole, language);
  const lines = composition.lines.flatMap((line) => {
    const href = houseLines.includes(line.id) && line.on.includes('page') ? hrefOf(line.detail) : null;
    return href ? [{ label: labelFor(line, language), text: shownValue(line.detail), href }] : [];
  });
  return { look: composition.look, firm: areasOf(composition).firm.join(', '), logo, lines };
}

/** The style sheets of a notice, as {@link renderNotice} puts them in: a content security policy names each by its hash. */
export const noticeStyles = (look: Look | null, language: Language): string[] => [
  PAGE_STYLE,
  NOTICE_STYLE,
  lookStyle(look ?? FIRST_LOOK, { filled: new Set(), name: '', language, ground: null }),
];

/** A page that stands in for a card: nothing here, resting, or out of reach for the moment. */
export function renderNotice(notice: {
  title: string;
  text: string;
  instead?: { before: string; href: string; name: string } | null;
  house?: NoticeHouse | null;
  language: Language;
}): string {
  const { instead, house, language } = notice;
  const other = instead
    ? `<p>${escapeHtml(instead.before)}</p><p class="acts"><a class="save" href="${escapeHtml(instead.href)}">${escapeHtml(instead.name)}</a></p>`
    : '';
  const lines = (house?.lines ?? []).map(
    ({ label, text, href }) =>
      `<div><dt>${escapeHtml(label)}</dt><dd><a href="${escapeHtml(href)}">${escapeHtml(text)}</a></dd></div>`,
  );
  const mark = house?.logo ? `<img src="${escapeHtml(house.logo)}" alt="" height="40">` : '';
  const firm = mark || house?.firm ? `<div class="note-firm">${mark}${escapeHtml(house?.firm ?? '')}</div>` : '';
  return page({
    language,
    title: notice.title,
    meta: '<meta name="robots" content="noindex">',
    body: `<main>${firm}<div class="note"><h1>${escapeHtml(notice.title)}</h1><p>${escapeHtml(notice.text)}</p>${other}${lines.length > 0 ? `<dl>${lines.join('')}</dl>` : ''}</div></main>`,
    styles: noticeStyles(house?.look ?? null, language),
    taps: null,
    worker: null,
    script: false,
  });
}
