import type { ComposedLine } from '@/core/card';
import { nightLook, type Look } from '@/core/look';
import { shownValue, type Detail } from '@/core/record';
import type { CardAreas } from './card-areas';
import { escapeHtml } from '@/core/markup';
import { firstFonts } from './look-style';
import type { PageContext } from './context';

/** What link previews elsewhere show below the name, in characters (common practice, no published source). */
const LONGEST_DESCRIPTION = 200;

/** Who it is in one line. Numbers and addresses stay on the page: a preview elsewhere is kept by whoever made it. */
const descriptionOf = ({ role, firm }: CardAreas): string =>
  [role.join(', '), firm.join(', ')].filter(Boolean).join(' · ').slice(0, LONGEST_DESCRIPTION);

const meta = (property: string, content: string): string =>
  content ? `<meta property="${property}" content="${escapeHtml(content)}">` : '';

/**
 * What a page says of itself to programs: description, Open Graph (ogp.me) with the picture of its links, the colour of the
 * browser's frame, manifest and icon, and whom it stands for as JSON-LD (schema.org).
 */
export function headOf(areas: CardAreas, context: PageContext, lines: ComposedLine[], look: Look): string {
  const { canonical, drawn, app } = context;
  const description = descriptionOf(areas);
  const absolute = (address: string) => (canonical ? new URL(address, canonical).href : '');
  const night = nightLook(look);
  const colours =
    night !== look
      ? `<meta name="theme-color" content="${look.palette.band}" media="(prefers-color-scheme: light)"><meta name="theme-color" content="${night.palette.band}" media="(prefers-color-scheme: dark)">`
      : `<meta name="theme-color" content="${look.palette.band}">`;
  return (
    (description ? `<meta name="description" content="${escapeHtml(description)}">` : '') +
    meta('og:title', areas.name) +
    meta('og:description', description) +
    meta('og:type', 'profile') +
    colours +
    (context.first ? [] : firstFonts(look, context.language))
      .map((file) => `<link rel="preload" as="font" type="font/woff2" href="${file}" crossorigin>`)
      .join('') +
    (app
      ? `<link rel="manifest" href="${escapeHtml(app.manifest)}"><link rel="icon" href="${escapeHtml(app.icon)}"><link rel="apple-touch-icon" href="${escapeHtml(app.icon)}">`
      : '') +
    (canonical
      ? `<link rel="canonical" href="${escapeHtml(canonical)}">${meta('og:url', canonical)}${
          drawn
            ? meta('og:image', absolute(drawn.link)) +
              meta('og:image:width', '1200') +
              meta('og:image:height', '630') +
              meta('og:image:alt', [areas.name, description].filter(Boolean).join(', ')) +
              '<meta name="twitter:card" content="summary_large_image">'
            : ''
        }${personOf(areas, context, lines, absolute)}`
      : '')
  );
}

/** Types of schema.org. */
const TYPES = { individual: 'Person', org: 'Organization', group: 'Organization', location: 'Place' } as const;

/** The person, or what the card stands for, as JSON-LD, from what stands on the page and nothing else. `<` is written so that it can never end the element. */
function personOf(
  areas: CardAreas,
  { canonical, photo, logo }: PageContext,
  lines: ComposedLine[],
  absolute: (address: string) => string,
): string {
  const all = <K extends Detail['kind'], T>(
    kind: K,
    take: (detail: Extract<Detail, { kind: K }>) => T,
  ): T[] | undefined => {
    const found = lines.flatMap(({ detail }) =>
      detail.kind === kind ? take(detail as Extract<Detail, { kind: K }>) : [],
    );
    return found.length > 0 ? (found as T[]) : undefined;
  };
  const { kind } = areas;
  const firm =
    areas.firm.length > 0
      ? {
          '@type': 'Organization',
          name: areas.firm.join(', '),
          ...(logo && areas.logo ? { logo: absolute(logo) } : {}),
        }
      : undefined;
  const described = {
    '@context': 'https://schema.org',
    '@type': TYPES[kind ?? 'individual'],
    name: areas.name,
    url: canonical ?? undefined,
    image: photo && areas.photo ? absolute(photo) : undefined,
    telephone: all('phone', ({ number }) => number),
    sameAs: all('link', ({ url }) => url),
    address: all('address', (detail) => shownValue(detail).replace(/\n/g, ', ')),
    // Each type has its own properties; those that it has none for stand on the page alone.
    ...(kind === undefined && {
      jobTitle: areas.role.length > 0 ? areas.role.join(', ') : undefined,
      worksFor: firm,
      birthDate: all('birthday', ({ date }) => date)?.[0],
    }),
    ...(kind !== 'location' && { email: all('email', ({ address }) => address) }),
    ...((kind === 'org' || kind === 'group') && { parentOrganization: firm }),
  };
  return `<script type="application/ld+json">${JSON.stringify(described).replace(/</g, '\\u003c')}</script>`;
}
