import { linesOf, lineOfButton, takenBy, type BarButton, type Block, type ComposedLine, type Item } from '@/core/card';
import type { Picture } from '@/core/record';
import { dayNames, openAt, shownHours, shownValue, type Detail } from '@/core/record';
import { say } from '@/core/messages';
import { labelIn } from '@/core/record';
import type { Language } from '@/core/language';
import { escapeHtml } from '@/core/markup';
import { previewClass, type FirstScreen } from './preview';
import { labelFor } from './label';
import { hrefOf, withParameters } from './links';
import type { ReplyTarget } from './context';
import { barHref } from './bar';
import { replyForm } from './reply-form';

/** What blocks are drawn with: where a file lies, or null where it is gone; the instant (ms, UTC); where the card was handed out. */
export type BlockContext = {
  language: Language;
  fileAt: (hash: string, what: 'picture' | 'film') => string | null;
  /** The same picture as WebP, for browsers that take it; null where it is not to be had. */
  lightFileAt: (hash: string) => string | null;
  now: number;
  placement: string | null;
  /** What links that lead away carry, as it stands in a query. */
  parameters?: string | undefined;
  /** Where the recipient's own map is opened at the address of a line; null where it cannot be. */
  mapAt: (line: string) => string | null;
  /** Whom a reply goes to, and where. */
  holder: string;
  reply: ReplyTarget | null;
  /** Pictures that have a preview in the page itself. */
  first: FirstScreen | null;
};

const text = escapeHtml;

/** A picture at its own proportions, so that nothing moves when it comes. */
function image(picture: Picture | null, alt: string, context: BlockContext, eager = false): string {
  const { fileAt, lightFileAt, first } = context;
  const src = picture && fileAt(picture.hash, 'picture');
  if (!src) return '';
  const shown = `<img${classed(previewClass(first, picture.hash))} src="${text(src)}" alt="${text(alt)}" width="${picture.width}" height="${picture.height}"${eager ? '' : ' loading="lazy"'}>`;
  const light = lightFileAt(picture.hash);
  return light ? `<picture><source srcset="${text(light)}" type="image/webp">${shown}</picture>` : shown;
}

const classed = (name: string): string => (name ? ` class="${name}"` : '');

const linked = (url: string, inner: string): string =>
  url ? `<a href="${text(url)}" rel="noopener">${inner}</a>` : inner;

const ACT_WORDS = {
  call: 'call',
  text: 'text',
  mail: 'write',
  chat: 'chat',
  map: 'map',
  booking: 'booking',
} as const;

type Bar = Extract<Block, { kind: 'action bar' }>;
type OnBar = { button: BarButton; said: string; line: ComposedLine | null; to: string | null };

/** The buttons of a bar that have something to do: what each says, the line that it opens or the block that it goes to. */
export const onBar = (bar: Bar, lines: ComposedLine[], blocks: Block[], language: Language): OnBar[] =>
  bar.buttons.flatMap((button): OnBar[] => {
    const { act } = button;
    if (act === 'save') return [{ button, said: say('save', language), line: null, to: null }];
    if (act === 'jump') {
      const target = blocks.find(({ id }) => id === button.block);
      return target && target.kind !== 'action bar'
        ? [{ button, said: headingOf(target, language), line: null, to: target.id }]
        : [];
    }
    const line = lineOfButton(button, lines);
    if (!line) return [];
    const said =
      act === 'open' ? labelFor(line, language) || labelIn(language, line.detail) : say(ACT_WORDS[act], language);
    return [{ button, said, line, to: null }];
  });

const headingOf = (block: Exclude<Block, Bar>, language: Language): string => block.title || say(block.kind, language);

/** The buttons below the head, saving among them. Those whose line does not go out are left out. */
export function barButtons(
  bar: Bar,
  { lines, blocks }: { lines: ComposedLine[]; blocks: Block[] },
  contactFile: string | null,
  context: BlockContext,
): string {
  return onBar(bar, lines, blocks, context.language)
    .map(({ button, said, line, to }) => {
      if (button.act === 'save')
        return contactFile ? `<a class="save" href="${text(contactFile)}">${text(said)}</a>` : '';
      if (to) return `<a href="#b-${text(to)}">${text(said)}</a>`;
      const own = line && barHref(button, line.detail, context.placement, context.mapAt(line.id));
      if (!line || !own) return '';
      const href = line.detail.kind === 'link' ? withParameters(own, context.parameters) : own;
      return `<a href="${text(href)}" data-l="${text(line.id)}">${text(said)}</a>`;
    })
    .join('');
}

/** The blocks that a button goes to. */
export const targetsOf = (blocks: Block[]): Set<string> =>
  new Set(
    blocks.flatMap((block) => (block.kind === 'action bar' ? block.buttons.flatMap(({ block: to }) => to ?? []) : [])),
  );

/** A block of the page with its heading; an empty string where nothing of it can be shown. */
export function renderBlock(
  block: Block,
  lines: ComposedLine[],
  context: BlockContext,
  { leads = false, opens = false, target = false }: { leads?: boolean; opens?: boolean; target?: boolean } = {},
): string {
  const inner = CONTENT[block.kind](block as never, linesOf(block.kind, lines), context, lines, leads || opens);
  if (!inner || block.kind === 'action bar') return '';
  // Above the name, which is the page's heading, there is no second-level one.
  const heading = opens ? 'p' : 'h2';
  return `<section${target ? ` id="b-${text(block.id)}"` : ''}><${heading} class="h">${text(headingOf(block, context.language))}</${heading}>${inner}</section>`;
}

/** The lines that stand in blocks and not in the list. */
export function inBlocks(blocks: Block[], lines: ComposedLine[]): Set<string> {
  const taken = new Set<string>();
  for (const { kind } of blocks) {
    for (const line of linesOf(kind, lines)) taken.add(line.id);
    if (kind === 'offices')
      for (const office of linesOf('offices', lines)) for (const line of hoursOf(office, lines)) taken.add(line.id);
  }
  return taken;
}

type Of<K extends Block['kind']> = Extract<Block, { kind: K }>;
type Content<K extends Block['kind']> = (
  block: Of<K>,
  taken: ComposedLine[],
  context: BlockContext,
  lines: ComposedLine[],
  first: boolean,
) => string;

const CONTENT: { [K in Block['kind']]: Content<K> } = {
  'action bar': () => '',
  about: (block) => `<p>${text(block.text.trim())}</p>`,
  gallery: (block, _taken, context, _lines, first) => {
    const entries = block.items.map((item, at) => `<li>${figure(item, context, first && at === 0)}</li>`);
    // A list that scrolls can be reached and moved by the keyboard.
    return `<ul class="g" tabindex="0" aria-label="${text(block.title || say('gallery', context.language))}">${entries.join('')}</ul>`;
  },
  video: (block, _taken, context, _lines, first) => block.videos.map((each) => video(each, context, first)).join(''),
  'onward links': (block, _taken, context) =>
    `<ul>${block.items.map((item) => `<li>${row(item, context)}</li>`).join('')}</ul>`,
  hours: (block, taken, { language, now }) =>
    taken
      .map((line) => {
        const label = labelFor(line, language);
        // What the heading says already is not said twice.
        const named = label && label !== (block.title || say('hours', language)) ? `<h3>${text(label)}</h3>` : '';
        return `<div class="office">${named}${hours(line.detail, language, now)}</div>`;
      })
      .join(''),
  credentials: (block, taken, context) =>
    `<ul class="marks">${taken
      .map(
        (line) =>
          `<li><div class="row"><div><b>${text(shownValue(line.detail))}</b><span>${text(labelFor(line, context.language))}</span></div></div></li>`,
      )
      .join('')}${block.items.map((item) => `<li>${row(item, context)}</li>`).join('')}</ul>`,
  products: (block, _taken, context, _lines, first) =>
    `<ul class="p">${block.items.map((item, at) => `<li>${figure(item, context, first && at < 2)}</li>`).join('')}</ul>`,
  offices: (_block, taken, context, lines) =>
    taken
      .map((line) => {
        const map = hrefOf(line.detail, context.mapAt(line.id));
        return (
          `<div class="office">${line.label ? `<h3>${text(labelFor(line, context.language))}</h3>` : ''}<div>${text(shownValue(line.detail, context.language))}</div>` +
          (map
            ? `<a href="${text(map)}" data-l="${text(line.id)}" rel="noopener">${say('map', context.language)}</a>`
            : '') +
          hoursOf(line, lines)
            .map(({ detail }) => hours(detail, context.language, context.now))
            .join('') +
          '</div>'
        );
      })
      .join(''),
  'reply form': (block, _taken, context, lines) => replyForm(block, lines, context),
};

/** A picture with its words, the whole of it a link where it leads somewhere; one without words is named by its host. */
function figure(item: Item, context: BlockContext, eager = false): string {
  const { title, text: words, url, picture } = item;
  const said = title || words ? `<figcaption>${title ? `<b>${text(title)}</b>` : ''}${text(words)}</figcaption>` : '';
  const alt = item.alt || (url && !said ? new URL(url).host : '');
  const shown = `<figure>${image(picture, alt, context, eager)}${said || (picture ? '' : `<figcaption>${text(alt)}</figcaption>`)}</figure>`;
  return linked(withParameters(url, context.parameters), shown);
}

function row(item: Item, context: BlockContext): string {
  const { title, text: words, url, alt } = item;
  const shown = title || (url ? new URL(url).host : '');
  const inner = `${image(item.picture, alt, context)}<div>${shown ? `<b>${text(shown)}</b>` : ''}${words ? `<span>${text(words)}</span>` : ''}</div>`;
  const href = withParameters(url, context.parameters);
  return url ? `<a class="row" href="${text(href)}" rel="noopener">${inner}</a>` : `<div class="row">${inner}</div>`;
}

function video(each: Of<'video'>['videos'][number], context: BlockContext, first: boolean): string {
  const { film, player, poster, captions, title } = each;
  const source = film && context.fileAt(film.hash, 'film');
  const below = title ? `<figcaption>${text(title)}</figcaption>` : '';
  if (film && source) {
    const still = poster && context.fileAt(poster.hash, 'picture');
    const words = captions && context.fileAt(captions.hash, 'film');
    const track = words
      ? `<track kind="captions" srclang="${text(captions.language)}" label="${say('captions', context.language)}" src="${text(words)}" default>`
      : '';
    return `<figure><video class="${[shapeOf(film), poster ? previewClass(context.first, poster.hash) : ''].filter(Boolean).join(' ')}" controls playsinline preload="none" width="${film.width}" height="${film.height}"${still ? ` poster="${text(still)}"` : ''} src="${text(source)}"${title ? ` aria-label="${text(title)}"` : ''}>${track}</video>${below}</figure>`;
  }
  if (!player) return '';
  // Nothing is asked of the other host before the recipient does.
  return `<figure><a class="play" data-p href="${text(player)}" target="_blank" rel="noopener noreferrer">${image(poster, '', context, first)}<span>${say('playAt', context.language)} ${text(new URL(player).host)}</span></a>${below}</figure>`;
}

/** The shape that a film is shown in, before anything of it was loaded: a poster of other proportions must not move the page. */
function shapeOf({ width, height }: { width: number; height: number }): string {
  const ratio = width / height;
  return ratio > 1.5 ? 'wide' : ratio > 1.15 ? 'broad' : ratio > 0.85 ? 'square' : ratio > 0.65 ? 'high' : 'tall';
}

/** The hours that belong to an office: those under the same label. */
const hoursOf = (office: ComposedLine, lines: ComposedLine[]): ComposedLine[] =>
  lines.filter(
    (line) =>
      line.detail.kind === 'hours' && line.on.includes('page') && office.label !== '' && line.label === office.label,
  );

/** The week of an office and whether it is open, by its own clock. */
function hours(detail: Detail, language: Language, now: number): string {
  if (detail.kind !== 'hours') return '';
  const { open, next } = openAt(detail, now);
  const city = detail.zone.includes('/') ? ` (${detail.zone.split('/').at(-1)!.replace(/_/g, ' ')})` : '';
  const day = next && !open ? `${dayNames(language)[next.day]} ` : '';
  const status = next
    ? `${say(open ? 'openUntil' : 'closedUntil', language)} ${day}${next.at.replace(/^0/, '')}${city}`
    : say('closed', language);
  return `<p class="now">${text(status)}</p><div class="week">${text(shownHours(detail, language))}</div>`;
}

/** Whether what a page shows depends on the minute at which it is asked for. */
export const dependsOnTime = (blocks: Block[]): boolean =>
  blocks.some(({ kind }) => kind === 'offices' || takenBy(kind).includes('hours'));
