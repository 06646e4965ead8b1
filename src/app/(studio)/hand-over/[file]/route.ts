import { HAND_OVER } from '@/core/words';
import { handOverScript } from '@/server/services/hand-outs/hand-over-script';

const MANIFEST = JSON.stringify({
  id: '/hand-over',
  name: `Heathland: ${HAND_OVER.title}`,
  short_name: HAND_OVER.title,
  start_url: '/hand-over',
  scope: '/hand-over',
  display: 'standalone',
  theme_color: '#ffffff',
  background_color: '#ffffff',
  icons: [{ src: '/hand-over/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any maskable' }],
});

const ICON =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 96 96"><path fill="#6B3F6E" d="M0 0h96v96H0z"/>' +
  '<path fill="#F5F3EE" fill-rule="evenodd" d="M24 24h20v20H24zm6 6v8h8v-8zM52 24h20v20H52zm6 6v8h8v-8zM24 52h20v20H24zm6 6v8h8v-8zM52 52h9v9h-9zM63 63h9v9h-9z"/></svg>';

const SCRIPT = 'text/javascript; charset=utf-8';

/** What the page that holds a card up is made of besides; nothing of it is anybody's. */
export const GET = async (_request: Request, { params }: { params: Promise<{ file: string }> }) => {
  const { file } = await params;
  const made: Record<string, [type: string, body: () => string | Promise<string>]> = {
    'manifest.webmanifest': ['application/manifest+json', () => MANIFEST],
    'icon.svg': ['image/svg+xml', () => ICON],
    'page.js': [SCRIPT, () => handOverScript('page')],
    'worker.js': [SCRIPT, () => handOverScript('worker')],
  };
  const found = Object.hasOwn(made, file) ? made[file] : undefined;
  if (!found) return new Response(null, { status: 404 });
  const [type, body] = found;
  return new Response(await body(), {
    headers: {
      'Content-Type': type,
      'Cache-Control': 'no-cache',
      'X-Content-Type-Options': 'nosniff',
      ...(file === 'worker.js' ? { 'Service-Worker-Allowed': '/hand-over' } : {}),
    },
  });
};
