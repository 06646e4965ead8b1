import { say } from '@/core/messages';
import { directionOf, languageName, ourLanguage, type Language } from '@/core/language';
import { saidIn, type Block, type ComposedLine, type Composition } from '@/core/card';
import { layoutOf, type Area } from '@/core/look';
import { shownValue, type Detail } from '@/core/record';
import { barButtons, renderBlock, targetsOf, type BlockContext } from './blocks';
import { areasOf, filledAreas, type CardAreas } from './card-areas';
import { escapeHtml } from '@/core/markup';
import type { PageContext } from './context';
import { headOf } from './head';
import { isOurLabel, labelFor } from './label';
import { LEGAL } from './legal';
import { hrefOf, withParameters } from './links';
import { fontsFor, lineClasses, lookStyle } from './look-style';
import { firstScreenStyle, previewClass } from './preview';
import { FORM_STYLE, REPLY_LOADER } from './reply-form';
import { BLOCK_STYLE, PAGE_STYLE, TAP_SCRIPT, TYPE_SCRIPT } from './style';

const ACTIONS = { phone: 'call', email: 'write' } as const;
const MOST_ACTIONS = 2;
/** Size of the card as one picture, in pixels. */
const DRAWN = { width: 1080, height: 1350 };

/**
 * The page of a card as a recipient gets it: HTML with its CSS, complete without JavaScript, no request to another host.
 * Carries the lines ticked for the page and no other; everything that a person typed is escaped. Its structure is that of its
 * look's layout.
 */
export const renderPage = (whole: Composition, context: PageContext): string => page(pageParts(whole, context));

/** What {@link renderPage} puts together: whoever shows a page under a hand changes of it what has changed. */
export function pageParts(whole: Composition, context: PageContext): PageParts {
  const { language } = context;
  const composition = saidIn(whole, language);
  const { blocks, opens, look } = composition;
  const areas = areasOf(composition);
  const drawn = blockContext(context, areas.name);
  const bar = blocks.find((each) => each.kind === 'action bar');
  const lines = composition.lines.filter(({ on }) => on.includes('page'));
  const buttons = bar
    ? barButtons(bar, { lines, blocks }, context.contactFile, drawn)
    : `${context.contactFile ? `<a class="save" href="${escapeHtml(context.contactFile)}">${say('save', language)}</a>` : ''}${actions(lines, language)}`;
  const acts = `<nav aria-label="${say('actions', language)}"${inOurs(language)}>${buttons}</nav>`;
  const targets = targetsOf(blocks);
  const block = (each: Block) =>
    renderBlock(each, lines, drawn, {
      leads: each === areas.lead,
      opens: each === areas.first,
      target: targets.has(each.id),
    });
  const first = areas.first
    ? `<div class="first block">${block(areas.first)}</div>`
    : opening(composition, context, drawn, acts, inWords(areas, language));
  const filled = filledOn(areas, context, opens.first === 'picture' && first !== '');
  const inner: Record<Area, string> = {
    photo: photo(context),
    logo: logo(context),
    name: heading(areas),
    role: `<p class="p-job-title">${escapeHtml(areas.role.join(', '))}</p>`,
    firm: `<p class="p-org">${escapeHtml(areas.firm.join(', '))}</p>`,
    alarm: areas.alarm ? alarm(areas.alarm, context) : '',
    lead: areas.lead ? block(areas.lead) : '',
    acts,
    lines:
      areas.before.map(block).join('') +
      (areas.lines.length > 0
        ? `<dl>${areas.lines.map((line) => row(line, context, lineClasses(look.lines[line.id]))).join('')}</dl>`
        : ''),
    rest: areas.after.map(block).join(''),
  };
  const { order } = layoutOf(look.layout);
  const placed = order.filter((area) => filled.has(area)).map((area) => place(area, inner[area], look.layout));
  const body =
    languageSwitch(context) +
    first +
    `<main class="h-card" id="card"><div class="ground"></div>${placed.join('')}</main>` +
    foot(passing(context, areas.name), legal(context));
  const strong = areas.alarm !== null || lines.some(({ emphasis }) => emphasis === 'strong');
  return {
    language,
    title: areas.name,
    meta: headOf(areas, context, lines, look),
    styles: stylesOf(whole, context),
    body,
    fonts: context.first ? fontsFor(look, body, strong || blocks.length > 0) : [],
    taps: context.taps,
    worker: context.app?.worker ?? null,
    reply: Boolean(context.reply?.script) && hasReplyForm(blocks),
    script:
      context.taps !== null || blocks.some((each) => each.kind === 'video' && each.videos.some(({ player }) => player)),
  };
}

/** Marks our own words where they are in another language than the page (WCAG 2.2, 3.1.2). */
const inOurs = (language: Language): string => {
  const ours = ourLanguage(language);
  return ours === language.split('-')[0] ? '' : ` lang="${ours}"`;
};

/** One landmark for what stands below a card. */
const foot = (...parts: string[]): string => (parts.some(Boolean) ? `<footer>${parts.join('')}</footer>` : '');

/** Small links at the foot of the page. */
function legal({ legal: links = {}, language }: PageContext): string {
  const shown = LEGAL.flatMap((which) => {
    const href = links[which];
    return href ? `<a href="${escapeHtml(href)}" rel="noopener">${say(which, language)}</a>` : [];
  });
  return shown.length === 0 ? '' : `<div class="legal"${inOurs(language)}>${shown.join('')}</div>`;
}

/** Handing the card on: through the phone's own ways where it offers them, else by mail; and its code, fetched when it is opened. */
function passing({ canonical, code, language }: PageContext, name: string): string {
  if (!canonical) return '';
  const mail = `mailto:?subject=${encodeURIComponent(name)}&body=${encodeURIComponent(canonical)}`;
  const shown = code
    ? `<details><summary>${say('showCode', language)}</summary><img src="${escapeHtml(code)}" alt="${say('showCode', language)}" width="240" height="240" loading="lazy"></details>`
    : '';
  return `<div class="on"${inOurs(language)}><a href="${escapeHtml(mail)}" data-s>${say('passOn', language)}</a>${shown}</div>`;
}

/** The name; pronouns beside it are none of it. */
function heading({ name, pronouns }: CardAreas): string {
  if (pronouns.length === 0) return `<h1 class="p-name">${escapeHtml(name)}</h1>`;
  const beside = pronouns.map((each) => ` <small>${escapeHtml(each)}</small>`).join('');
  return `<h1><span class="p-name">${escapeHtml(name)}</span>${beside}</h1>`;
}

/** The style sheets of a page, as {@link renderPage} puts them in: a content security policy names each by its hash. */
export function stylesOf(whole: Composition, context: PageContext): string[] {
  const composition = saidIn(whole, context.language);
  const { look } = composition;
  const areas = areasOf(composition);
  const art = opening(composition, context, blockContext(context, areas.name), '', '') !== '';
  const { ground } = look;
  const own = lookStyle(look, {
    filled: filledOn(areas, context, art),
    name: areas.name,
    language: context.language,
    ground: ground.kind === 'picture' ? (context.fileAt?.(ground.picture.hash, 'picture') ?? null) : null,
    plates: context.plates,
    loadsType: Boolean(context.first),
  });
  return [
    PAGE_STYLE,
    ...(needsMore(whole, context) ? [BLOCK_STYLE] : []),
    ...(hasReplyForm(whole.blocks) ? [FORM_STYLE] : []),
    own,
    ...(context.first ? [firstScreenStyle(context.first)] : []),
  ];
}

export const hasReplyForm = (blocks: Block[]): boolean => blocks.some(({ kind }) => kind === 'reply form');

const blockContext = (context: PageContext, holder: string): BlockContext => ({
  language: context.language,
  fileAt: context.fileAt ?? (() => null),
  lightFileAt: context.lightFileAt ?? (() => null),
  now: context.now ?? 0,
  placement: context.placement ?? null,
  parameters: context.parameters,
  mapAt: context.mapAt ?? (() => null),
  first: context.first ?? null,
  holder,
  reply: context.reply ?? null,
});

/** The areas that have something to show; buttons that stand below an opening picture do not stand twice. */
function filledOn(areas: CardAreas, context: PageContext, opened: boolean): Set<Area> {
  const filled = filledAreas(areas, { photo: context.photo !== null, logo: context.logo !== null });
  if (opened) filled.delete('acts');
  return filled;
}

/** Whether a page needs the blocks' style sheet. */
const needsMore = ({ blocks, opens }: Composition, { languages = [] }: PageContext): boolean =>
  blocks.length > 0 || opens.first === 'picture' || languages.length > 1;

function place(area: Area, inner: string, name: Composition['look']['layout']): string {
  const layout = layoutOf(name);
  const classes = [
    area,
    ...(area === 'acts' ? [] : (layout.band as readonly Area[]).includes(area) ? ['band'] : []),
    ...(layout.align[area] ? [layout.align[area]] : []),
    ...(area === 'photo' && layout.photo === 'fills' ? ['fills'] : []),
  ];
  return `<div class="${classes.join(' ')}">${inner}</div>`;
}

/** The face, in the lighter form where the browser takes it. Its size is known before it comes, so that nothing moves. */
function photo({ photo: src, lightPhoto, first }: PageContext): string {
  if (!src) return '';
  const image = `<img class="${['u-photo', previewClass(first, 'photo')].filter(Boolean).join(' ')}" src="${escapeHtml(src)}" alt="" width="336" height="336">`;
  return lightPhoto
    ? `<picture><source srcset="${escapeHtml(lightPhoto.src)}" type="${lightPhoto.type}">${image}</picture>`
    : image;
}

function logo({ logo: src, nightLogo }: PageContext): string {
  if (!src) return '';
  const image = `<img class="u-logo" src="${escapeHtml(src)}" alt="" height="40">`;
  return nightLogo
    ? `<picture><source media="(prefers-color-scheme: dark)" srcset="${escapeHtml(nightLogo)}">${image}</picture>`
    : image;
}

/** Where a picture of the card opens first: it, with its text for those who cannot see it, and the buttons below it. */
function opening(
  { opens }: Composition,
  { drawn }: PageContext,
  { fileAt }: BlockContext,
  acts: string,
  inWords: string,
): string {
  if (opens.first !== 'picture') return '';
  const own = opens.picture && fileAt(opens.picture.hash, 'picture');
  const src = opens.picture ? own : drawn && drawn.picture('jpg');
  if (!src) return '';
  const { width, height } = opens.picture ?? DRAWN;
  const alt = opens.picture ? opens.alt : inWords;
  const image = `<img class="art" src="${escapeHtml(src)}" alt="${escapeHtml(alt)}" width="${width}" height="${height}">`;
  const art = own
    ? image
    : `<picture><source srcset="${escapeHtml(drawn!.picture('webp'))}" type="image/webp">${image}</picture>`;
  return `<div class="first">${art}<div class="acts">${acts}</div></div>`;
}

/** All that the drawn picture of a card says. */
const inWords = ({ name, role, firm, alarm, lines }: CardAreas, language: Language): string =>
  [
    name,
    ...role,
    ...firm,
    ...[...(alarm ? [alarm] : []), ...lines].map((line) =>
      [labelFor(line, language), shownValue(line.detail, language)].filter(Boolean).join(': '),
    ),
  ].join('\n');

/** The card in its other languages: each named in its own words. */
function languageSwitch({ languages = [], language }: PageContext): string {
  if (languages.length < 2) return '';
  const entries = languages.map(({ language: other, href }) =>
    other === language
      ? `<b aria-current="true">${languageName(other)}</b>`
      : `<a href="${escapeHtml(href)}" lang="${other}" hreflang="${other}">${languageName(other)}</a>`,
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

/** What a value is in an h-card (microformats.org h-card). */
const H_CARD: Partial<Record<Detail['kind'], string>> = {
  phone: 'p-tel',
  email: 'u-email',
  link: 'u-url',
  address: 'p-adr',
  nickname: 'p-nickname',
  note: 'p-note',
  category: 'p-category',
};

/** A value as a link where it leads somewhere. */
function linked({ id, detail }: ComposedLine, { language, mapAt, parameters }: PageContext): string {
  const own = hrefOf(detail, mapAt?.(id) ?? null);
  const href = own && detail.kind === 'link' ? withParameters(own, parameters) : own;
  const shown = escapeHtml(shownValue(detail, language));
  // Numbers and addresses read from left to right in every script.
  const way = directionOf(language) === 'rtl' ? ' dir="ltr"' : '';
  const means = H_CARD[detail.kind];
  const named = means ? ` class="${means}"` : '';
  if (!href) return means ? `<span${named}>${shown}</span>` : shown;
  return `<a${named} href="${escapeHtml(href)}" data-l="${escapeHtml(id)}"${way}${href.startsWith('http') ? ' rel="noopener"' : ''}>${shown}</a>`;
}

function alarm(line: ComposedLine, context: PageContext): string {
  const label = labelFor(line, context.language);
  return `${label ? `<p>${escapeHtml(label)}</p>` : ''}<p>${linked(line, context)}</p>`;
}

function row(line: ComposedLine, context: PageContext, own: string[]): string {
  const { language } = context;
  const label = labelFor(line, language);
  const text = texted(line, language);
  const look = [line.emphasis === 'plain' ? '' : line.emphasis, line.gap ? 'gap' : '', ...own]
    .filter(Boolean)
    .join(' ');
  return `<div${look ? ` class="${look}"` : ''}>${label ? `<dt${isOurLabel(line) ? inOurs(language) : ''}>${escapeHtml(label)}</dt>` : ''}<dd>${linked(line, context)}${text}</dd></div>`;
}

/** Writing a text is offered only where the holder reads them: `sms:` (RFC 5724). */
function texted({ id, detail }: ComposedLine, language: Language): string {
  if (detail.kind !== 'phone' || !detail.uses.includes('text')) return '';
  return ` <a class="sms" href="sms:${escapeHtml(detail.number)}" data-l="${escapeHtml(id)}"${inOurs(language)}>${say('text', language)}</a>`;
}

/**
 * A page that comes in one round trip is painted whole: half of it would move when the other half comes (HTML, link type `expect`). Said
 * before anything else, since a browser that stops at a script paints what is there by then.
 */
const WHOLE = '<link rel="expect" href="#card" blocking="render">';

/** A document in parts: HTML of its head (`meta`) and body, its style sheets as text. */
export type PageParts = {
  language: Language;
  title: string;
  meta: string;
  styles: string[];
  body: string;
  taps: string | null;
  worker: string | null;
  script: boolean;
  /** Whether there is a form whose script is fetched when it is touched. */
  reply?: boolean;
  /** Faces that the page loads by itself. */
  fonts?: [string, string, string][];
};

/** A whole document with its style sheets inlined. */
export function page(parts: PageParts): string {
  const { language, taps, worker, fonts = [] } = parts;
  const type = fonts.length > 0 ? ` data-f="${escapeHtml(JSON.stringify(fonts))}"` : '';
  const data = `${taps ? ` data-t="${escapeHtml(taps)}"` : ''}${worker ? ` data-w="${escapeHtml(worker)}"` : ''}`;
  return (
    `<!doctype html><html lang="${language}"${directionOf(language) === 'rtl' ? ' dir="rtl"' : ''}><head${type}><meta charset="utf-8">${type ? WHOLE : ''}<meta name="viewport" content="width=device-width,initial-scale=1">` +
    `<title>${escapeHtml(parts.title)}</title>${parts.meta}${parts.styles.map((style) => `<style>${style}</style>`).join('')}${type ? `<script>${TYPE_SCRIPT}</script>` : ''}</head>` +
    `<body${data}>${parts.body}${parts.script ? `<script>${TAP_SCRIPT}</script>` : ''}${parts.reply ? `<script>${REPLY_LOADER}</script>` : ''}</body></html>`
  );
}
