import { readFile } from 'node:fs/promises';
import { webFontFile } from '@/server/fonts';
import type { RecipientAnswer } from './request';

const loaded = new Map<string, Promise<Buffer>>();

/** The answer to `/fonts/NAME`. */
export async function answerFont(name: string, method: string): Promise<RecipientAnswer> {
  const file = webFontFile(name);
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
