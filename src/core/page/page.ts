import { directionOf, LANGUAGE_NAMES, say, type Language } from '@/core/messages';
import { linesOn, saidIn, type Block, type ComposedLine, type Composition } from '@/core/card';
import { shownValue, writtenName, type Detail } from '@/core/record';
import { barButtons, inBlocks, renderBlock, type BlockContext } from './blocks';
import { escapeHtml } from './escape';
import { labelFor } from './label';
import { hrefOf } from './links';
import { BLOCK_STYLE, PAGE_STYLE, TAP_SCRIPT } from './style';

/** Where a page's links lead. `null` means that there is nothing to lead to, as in a specimen of a draft. */
export type PageContext = {
  contactFile: string | null;
  /** Where taps are counted. */
  taps: string | null;
  photo: string | null;
  logo: string | null;
  /** Absolute address for link previews elsewhere. */
  canonical: string | null;
  /** The language of our own words on the page, and of the card's where it has some in it. */
  language: Language;
  /** Where the card can be had in each of its languages; empty where there is nothing to choose. */
  languages?: { language: Language; href: string }[];
  /** Where a file of a block lies, or null where it is gone. */
  fileAt?: (hash: string, what: 'picture' | 'film') => string | null;
  /** The instant of the answer (milliseconds, UTC): whether an office is open. */
  now?: number;
  /** Where the card was handed out, as its hand-out is called. */
  placement?: string | null;
};

const ACTIONS = { phone: 'call', email: 'write' } as const;
const HEAD_KINDS = new Set<Detail['kind']>(['photo', 'logo', 'title', 'role', 'organisation', 'pronouns']);
const MOST_ACTIONS = 2;

/**
 * The page of a card as a recipient gets it: HTML with its CSS, complete without JavaScript, no request to another host.
 * Carries the lines ticked for the page and no other; everything that a person typed is escaped.
 */
export function renderPage(whole: Composition, context: PageContext): string {
  const { language } = context;
  const composition = saidIn(whole, language);
  const { blocks, opens } = composition;
  const lines = linesOn(composition, 'page');
  const drawn: BlockContext = {
    language,
    fileAt: context.fileAt ?? (() => null),
    now: context.now ?? 0,
    placement: context.placement ?? null,
  };
  const leading = opens.first === 'block' ? blocks.find(({ id }) => id === opens.block) : undefined;
  const block = (each: Block) => renderBlock(each, lines, drawn, each === leading);
  const others = blocks.filter((each) => each !== leading);
  const taken = inBlocks(blocks, lines);
  const head = lines.filter((line) => HEAD_KINDS.has(line.detail.kind));
  const body = lines.filter((line) => !HEAD_KINDS.has(line.detail.kind));
  const listed = body.filter(({ id }) => !taken.has(id));
  const name = writtenName(composition.name);
  const texts = (kind: Detail['kind']) =>
    head.filter((line) => line.detail.kind === kind).map((line) => shownValue(line.detail));
  const role = [...texts('title'), ...texts('role'), ...texts('organisation')].join(', ');
  const photo = context.photo && head.some((line) => line.detail.kind === 'photo');
  const logo = context.logo && head.some((line) => line.detail.kind === 'logo');
  const pronouns = texts('pronouns').map((each) => ` <small>${escapeHtml(each)}</small>`);
  const description = [role, ...body.slice(0, 2).map((line) => shownValue(line.detail))]
    .filter(Boolean)
    .join(' · ')
    .slice(0, 200);
  const bar = blocks.find((each) => each.kind === 'action bar');
  const buttons = bar
    ? barButtons(bar, lines, context.contactFile, drawn)
    : `${context.contactFile ? `<a class="save" href="${escapeHtml(context.contactFile)}">${say('save', language)}</a>` : ''}${actions(body, language)}`;
  const header =
    `<header>${photo ? `<img src="${escapeHtml(context.photo!)}" alt="" width="112" height="112">` : ''}` +
    `<div>${logo ? `<img class="logo" src="${escapeHtml(context.logo!)}" alt="" height="40">` : ''}<h1>${escapeHtml(name)}${pronouns.join('')}</h1>${role ? `<p>${escapeHtml(role)}</p>` : ''}</div></header>`;
  const acts = `<nav class="acts" aria-label="${say('actions', language)}">${buttons}</nav>`;
  return page({
    language,
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
    more: needsMore(whole, context) ? BLOCK_STYLE : '',
    body:
      languageSwitch(context) +
      (leading ? block(leading) : '') +
      opening(opens, drawn, header, acts) +
      others
        .filter(({ before }) => before)
        .map(block)
        .join('') +
      (listed.length > 0 ? `<dl>${listed.map((line) => row(line, language)).join('')}</dl>` : '') +
      others
        .filter(({ before }) => !before)
        .map(block)
        .join(''),
    taps: context.taps,
    script:
      context.taps !== null || blocks.some((each) => each.kind === 'video' && each.videos.some(({ player }) => player)),
  });
}

/** Whether a page needs the blocks' style sheet. */
const needsMore = ({ blocks, opens }: Composition, { languages = [] }: PageContext): boolean =>
  blocks.length > 0 || opens.first === 'picture' || languages.length > 1;

/** Head and buttons; where a picture of the card opens first, it stands before them with its text, the buttons below it. */
function opening(opens: Composition['opens'], context: BlockContext, header: string, acts: string): string {
  const art = opens.first === 'picture' ? context.fileAt(opens.picture.hash, 'picture') : null;
  if (opens.first !== 'picture' || !art) return header + acts;
  const { width, height } = opens.picture;
  return `<img class="art" src="${escapeHtml(art)}" alt="${escapeHtml(opens.alt)}" width="${width}" height="${height}">${acts}${header}`;
}

/** The card in its other languages: each named in its own words. */
function languageSwitch({ languages = [], language }: PageContext): string {
  if (languages.length < 2) return '';
  const entries = languages.map(({ language: other, href }) =>
    other === language
      ? `<b aria-current="true">${LANGUAGE_NAMES[other]}</b>`
      : `<a href="${escapeHtml(href)}" lang="${other}" hreflang="${other}">${LANGUAGE_NAMES[other]}</a>`,
  );
  return `<nav class="langs" aria-label="${say('languages', language)}">${entries.join('')}</nav>`;
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
    more: '',
    taps: null,
    script: false,
  });
}

function page(parts: {
  language: Language;
  title: string;
  meta: string;
  /** A further style sheet. */
  more: string;
  body: string;
  taps: string | null;
  script: boolean;
}): string {
  return (
    `<!doctype html><html lang="${parts.language}"${directionOf(parts.language) === 'rtl' ? ' dir="rtl"' : ''}><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">` +
    `<title>${escapeHtml(parts.title)}</title>${parts.meta}<style>${PAGE_STYLE}</style>${parts.more ? `<style>${parts.more}</style>` : ''}</head>` +
    `<body${parts.taps ? ` data-t="${escapeHtml(parts.taps)}"` : ''}><main>${parts.body}</main>${parts.script ? `<script>${TAP_SCRIPT}</script>` : ''}</body></html>`
  );
}
