import { directionOf, type Language } from '@/core/language';
import { writtenName } from '@/core/record';
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

/**
 * The worker that keeps a copy of a card for when there is no network. The network always comes first, so that the card shown is
 * today's and its view is counted; page and contact file are fetched once more for the copy, as a prefetch, which counts nothing.
 * What answers 404 or 410 is forgotten.
 */
export const WORKER = `const N='card';const own=async r=>{const c=await caches.open(N);await c.put(new URL(r.url).pathname,r)};
addEventListener('install',e=>{skipWaiting();const b=location.pathname.replace(/\\/worker\\.js$/,'');e.waitUntil(Promise.allSettled([b,b+'.vcf'].map(async u=>{const r=await fetch(u,{headers:{Purpose:'prefetch'}});if(r.ok)await own(r)})))});
addEventListener('activate',e=>e.waitUntil(clients.claim()));
addEventListener('fetch',e=>{const q=e.request,u=new URL(q.url);if(q.method!=='GET'||u.origin!==location.origin||q.headers.has('range'))return;
e.respondWith(fetch(q).then(async r=>{const c=await caches.open(N);if(r.status===200){const k=r.clone();e.waitUntil(c.put(u.pathname,k))}else if(r.status===404||r.status===410)e.waitUntil(c.delete(u.pathname));return r},async x=>{const c=await caches.open(N);const k=await c.match(u.pathname)||await c.match(u.pathname.toLowerCase());if(k)return k;throw x}))});`;
