import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { webFontFile } from '@/server/fonts';
import type { RecipientAnswer } from './request';

/** The studio's own typefaces (SIL Open Font License), by the name that its style sheet asks for; cards' families are {@link webFontFile}'s. */
const FONTS: Record<string, string> = {
  'literata.woff2': '@fontsource-variable/literata/files/literata-latin-wght-normal.woff2',
  'literata-ext.woff2': '@fontsource-variable/literata/files/literata-latin-ext-wght-normal.woff2',
  'atkinson-next.woff2':
    '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
  'atkinson-next-ext.woff2':
    '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2',
  'atkinson-mono.woff2':
    '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff2',
};

const loaded = new Map<string, Promise<Buffer>>();

/** The answer to `/fonts/NAME`. */
export async function answerFont(name: string, method: string): Promise<RecipientAnswer> {
  const file = Object.hasOwn(FONTS, name) ? path.join(process.cwd(), 'node_modules', FONTS[name]!) : webFontFile(name);
  if (!file) return { status: 404, headers: {}, body: '' };
  if (!loaded.has(name)) loaded.set(name, readFile(file));
  const bytes = await loaded.get(name)!;
  const headers = {
    'Content-Type': 'font/woff2',
    'Content-Length': String(bytes.length),
    'Cache-Control': 'public, max-age=31536000, immutable',
  };
  return { status: 200, headers, body: method === 'HEAD' ? '' : bytes };
}
