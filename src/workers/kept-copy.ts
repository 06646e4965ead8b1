/**
 * The worker of a card's page that keeps a copy of the card for when there is no network (W3C Service Workers). The network always comes
 * first, so that the card shown is today's and its view is counted; page and contact file are fetched once more for the copy, as a
 * prefetch, which counts nothing. What answers 404 or 410 is forgotten.
 */

/** What this needs of a service worker's scope: TypeScript knows either a page's names or a worker's. */
type Scope = {
  skipWaiting: () => Promise<void>;
  clients: { claim: () => Promise<void> };
  addEventListener(type: 'install' | 'activate', then: (event: Extendable) => void): void;
  addEventListener(type: 'fetch', then: (event: Asked) => void): void;
};
type Extendable = { waitUntil: (work: Promise<unknown>) => void };
type Asked = Extendable & { request: Request; respondWith: (answer: Promise<Response>) => void };

const scope = self as unknown as Scope;
const copies = () => caches.open('card');

async function keepNow(address: string): Promise<void> {
  const answer = await fetch(address, { headers: { Purpose: 'prefetch' } });
  if (answer.ok) await (await copies()).put(new URL(answer.url).pathname, answer);
}

/** The answer of the network, kept or forgotten as it says; without a network the copy, whatever letters its address was typed in. */
async function answered({ request, waitUntil }: Pick<Asked, 'request' | 'waitUntil'>): Promise<Response> {
  const { pathname } = new URL(request.url);
  try {
    const answer = await fetch(request);
    if (answer.status === 200) {
      const copy = answer.clone();
      waitUntil(copies().then((kept) => kept.put(pathname, copy)));
    } else if (answer.status === 404 || answer.status === 410)
      waitUntil(copies().then((kept) => kept.delete(pathname)));
    return answer;
  } catch (unreachable) {
    const kept = await copies();
    const copy = (await kept.match(pathname)) ?? (await kept.match(pathname.toLowerCase()));
    if (copy) return copy;
    throw unreachable;
  }
}

scope.addEventListener('install', (event) => {
  void scope.skipWaiting();
  const card = location.pathname.replace(/\/worker\.js$/, '');
  const reply = new URLSearchParams(location.search).get('reply');
  const wanted = [card, `${card}.vcf`, ...(reply ? [`${card}/reply-${reply}.js`] : [])];
  event.waitUntil(Promise.allSettled(wanted.map(keepNow)));
});
scope.addEventListener('activate', (event) => event.waitUntil(scope.clients.claim()));
scope.addEventListener('fetch', (event) => {
  const { request } = event;
  const isOurs = request.method === 'GET' && new URL(request.url).origin === location.origin;
  if (!isOurs || request.headers.has('range')) return;
  event.respondWith(answered({ request, waitUntil: (work) => event.waitUntil(work) }));
});

export {};
