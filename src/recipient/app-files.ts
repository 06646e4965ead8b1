import { readFileSync } from 'node:fs';
import { directionOf, type Language } from '@/core/language';
import { writtenName } from '@/core/record';
import { keptCopyProgram, replyProgram } from '@/server/env';
import type { PublishedCard } from '@/server/services/publishing/load-published';

/** The card as an application of its own on a phone's first screen (W3C Web Application Manifest). `base` is its address. */
export function manifestOf({ composition }: PublishedCard, base: string, icon: string, language: Language): string {
  const name = writtenName(composition.name);
  const { band, sheet } = composition.look.palette;
  return JSON.stringify({
    id: base,
    name,
    short_name: name.split(/\s+/)[0]!.slice(0, 12),
    lang: language,
    dir: directionOf(language),
    start_url: base,
    scope: base,
    display: 'minimal-ui',
    theme_color: band,
    background_color: sheet,
    icons: [{ src: icon, sizes: '512x512', type: 'image/png', purpose: 'any maskable' }],
  });
}

let replies: string | null = null;

/** The script of a reply form, as it was built. */
export const replyProgramText = (): string => (replies ??= readFileSync(replyProgram(), 'utf8'));

let worker: Buffer | null = null;

/** The worker that keeps a copy of a card for when there is no network, as it was built. */
export const keptCopyWorker = (): Buffer => (worker ??= readFileSync(keptCopyProgram()));
