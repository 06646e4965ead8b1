import { directionOf, labelIn, say, type Language } from '@/core/messages';
import { linesOn, type ComposedLine, type Composition } from '@/core/card';
import { shownValue, telUri, writtenName, type Detail } from '@/core/record';
import { escapeHtml } from './escape';
import { PAGE_STYLE, TAP_SCRIPT } from './style';

/** Where a page's links lead. `null` means that there is nothing to lead to, as in a specimen of a draft. */
export type PageContext = {
  contactFile: string | null;
  /** Where taps are counted. */
  taps: string | null;
  photo: string | null;
  logo: string | null;
  /** Absolute address for link previews elsewhere. */
  canonical: string | null;
  /** The language of our own words on the page. */
  language: Language;
};

const ACTIONS = { phone: 'call', email: 'write' } as const;
const HEAD_KINDS = new Set<Detail['kind']>(['photo', 'logo', 'title', 'role', 'organisation', 'pronouns']);
const MOST_ACTIONS = 2;

/**
 * The page of a card as a recipient gets it: HTML with its CSS, complete without JavaScript, no request to another host.
 * Carries the lines ticked for the page and no other; everything that a person typed is escaped.
 */
export function renderPage(composition: Composition, context: PageContext): string {
  const lines = linesOn(composition, 'page');
  const head = lines.filter((line) => HEAD_KINDS.has(line.detail.kind));
  const body = lines.filter((line) => !HEAD_KINDS.has(line.detail.kind));
  const name = writtenName(composition.name);
  const texts = (kind: Detail['kind']) =>
    head.filter((line) => line.detail.kind === kind).map((line) => shownValue(line.detail));
  const role = [...texts('title'), ...texts('role'), ...texts('organisation')].join(', ');
  const photo = context.photo && head.some((line) => line.detail.kind === 'photo');
  const logo = context.logo && head.some((line) => line.detail.kind === 'logo');
  const pronouns = texts('pronouns').map((text) => ` <small>${escapeHtml(text)}</small>`);
  const description = [role, ...body.slice(0, 2).map((line) => shownValue(line.detail))]
    .filter(Boolean)
    .join(' · ')
    .slice(0, 200);
  return page({
    language: context.language,
    title: name,
    meta:
      `<meta name="description" content="${escapeHtml(description)}">` +
      `<meta property="og:title" content="${escapeHtml(name)}"><meta property="og:description" content="${escapeHtml(description)}"><meta property="og:type" content="profile">` +
      (context.canonical
        ? `<link rel="canonical" href="${escapeHtml(context.canonical)}"><meta property="og:url" content="${escapeHtml(context.canonical)}">`
        : '') +
      (context.canonical && photo
        ? `<meta property="og:image" content="${escapeHtml(new URL(context.photo!, context.canonical).href)}">`
        : ''),
    body:
      `<header>${photo ? `<img src="${escapeHtml(context.photo!)}" alt="" width="112" height="112">` : ''}` +
      `<div>${logo ? `<img class="logo" src="${escapeHtml(context.logo!)}" alt="" height="40">` : ''}<h1>${escapeHtml(name)}${pronouns.join('')}</h1>${role ? `<p>${escapeHtml(role)}</p>` : ''}</div></header>` +
      `<nav class="acts" aria-label="${say('actions', context.language)}">${context.contactFile ? `<a class="save" href="${escapeHtml(context.contactFile)}">${say('save', context.language)}</a>` : ''}${actions(body, context.language)}</nav>` +
      (body.length > 0 ? `<dl>${body.map((line) => row(line, context.language)).join('')}</dl>` : ''),
    taps: context.taps,
  });
}

/** The largest buttons after Save contact: the first number to ring and the first address to write to. */
function actions(lines: ComposedLine[], language: Language): string {
  const first = (kind: 'phone' | 'email') =>
    lines.find(
      ({ detail }) =>
        detail.kind === kind && !('uses' in detail && detail.uses.some((use) => use === 'fax' || use === 'pager')),
    );
  return [first('phone'), first('email')]
    .filter((line) => line !== undefined)
    .slice(0, MOST_ACTIONS)
    .map((line) => {
      const word = say(ACTIONS[line.detail.kind as keyof typeof ACTIONS], language);
      return `<a href="${escapeHtml(hrefOf(line.detail)!)}" data-l="${escapeHtml(line.id)}">${word}</a>`;
    })
    .join('');
}

/** A label in the page's language where it is our own; what somebody worded themselves stays. */
const labelFor = ({ label, detail }: ComposedLine, language: Language): string =>
  label !== '' && label === labelIn('en', detail) ? labelIn(language, detail) : label;

function row(line: ComposedLine, language: Language): string {
  const href = hrefOf(line.detail);
  const shown = escapeHtml(shownValue(line.detail, language));
  const label = labelFor(line, language);
  // Numbers and addresses read from left to right in every script.
  const way = directionOf(language) === 'rtl' ? ' dir="ltr"' : '';
  const value = href
    ? `<a href="${escapeHtml(href)}" data-l="${escapeHtml(line.id)}"${way}${href.startsWith('http') ? ' rel="noopener"' : ''}>${shown}</a>`
    : shown;
  const text = texted(line, language);
  const look = [line.emphasis === 'plain' ? '' : line.emphasis, line.gap ? 'gap' : ''].filter(Boolean).join(' ');
  return `<div${look ? ` class="${look}"` : ''}>${label ? `<dt>${escapeHtml(label)}</dt>` : ''}<dd>${value}${text}</dd></div>`;
}

/** Writing a text is offered only where the holder reads them: `sms:` (RFC 5724). */
function texted({ id, detail }: ComposedLine, language: Language): string {
  if (detail.kind !== 'phone' || !detail.uses.includes('text')) return '';
  return ` <a class="sms" href="sms:${escapeHtml(detail.number)}" data-l="${escapeHtml(id)}">${say('text', language)}</a>`;
}

/** What a tap on a line opens: `tel:` (RFC 3966), `mailto:` (RFC 6068), the link itself or the map of an address. */
function hrefOf(detail: Detail): string | null {
  if (detail.kind === 'phone') return telUri(detail);
  if (detail.kind === 'email') return `mailto:${encodeURIComponent(detail.address).replace(/%40/g, '@')}`;
  // A map only where its holder gave one, or the place itself (RFC 5870): a guess could lead a guest astray.
  if (detail.kind === 'address') return detail.map ?? (detail.geo ? `geo:${detail.geo}` : null);
  return detail.kind === 'link' ? detail.url : null;
}

/** A page that stands in for a card: nothing here, resting, or out of reach for the moment. */
export function renderNotice(notice: {
  title: string;
  text: string;
  instead?: { before: string; href: string; name: string } | null;
  language: Language;
}): string {
  const { instead } = notice;
  const other = instead
    ? `<p>${escapeHtml(instead.before)}</p><p class="acts"><a class="save" href="${escapeHtml(instead.href)}">${escapeHtml(instead.name)}</a></p>`
    : '';
  const body = `<div class="note"><h1>${escapeHtml(notice.title)}</h1><p>${escapeHtml(notice.text)}</p>${other}</div>`;
  return page({
    language: notice.language,
    title: notice.title,
    meta: '<meta name="robots" content="noindex">',
    body,
    taps: null,
  });
}

function page(parts: { language: Language; title: string; meta: string; body: string; taps: string | null }): string {
  return (
    `<!doctype html><html lang="${parts.language}"${directionOf(parts.language) === 'rtl' ? ' dir="rtl"' : ''}><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">` +
    `<title>${escapeHtml(parts.title)}</title>${parts.meta}<style>${PAGE_STYLE}</style></head>` +
    `<body${parts.taps ? ` data-t="${escapeHtml(parts.taps)}"` : ''}><main>${parts.body}</main>${parts.taps ? `<script>${TAP_SCRIPT}</script>` : ''}</body></html>`
  );
}
