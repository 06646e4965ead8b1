/**
 * The worker that keeps the cards that a phone holds up (W3C Service Workers): what is kept is shown at once, and renewed behind it. When the session was
 * ended from elsewhere what is kept goes; when it ended because nobody used it for days, it stays.
 */
type Scope = {
  skipWaiting: () => Promise<void>;
  clients: {
    claim: () => Promise<void>;
    matchAll: (of: { includeUncontrolled: boolean }) => Promise<{ postMessage: (told: string) => void }[]>;
  };
  addEventListener(type: 'install' | 'activate', then: (event: Extendable) => void): void;
  addEventListener(type: 'fetch', then: (event: Asked) => void): void;
};
type Extendable = { waitUntil: (work: Promise<unknown>) => void };
type Asked = Extendable & { request: Request; respondWith: (answer: Promise<Response>) => void };

const scope = self as unknown as Scope;
const PAGE = '/hand-over';
const BESIDE = [
  '/hand-over/page.js',
  '/hand-over/manifest.webmanifest',
  '/hand-over/icon.svg',
  '/fonts/literata.woff2',
  '/fonts/atkinson-next.woff2',
];
const NAME = 'hand-over';
const copies = () => caches.open(NAME);

/** Until when the session lives without being used, as the page said when it was kept (milliseconds, UTC). */
const idleEnds = (kept: Response | undefined): number => Number(kept?.headers.get('Heathland-Idle-Ends') ?? 0);

async function renew(): Promise<Response> {
  const cache = await copies();
  const answer = await fetch(PAGE, {
    headers: { 'Heathland-Renew': '1' },
    redirect: 'manual',
    credentials: 'same-origin',
  });
  if (answer.status === 200) await cache.put(PAGE, answer.clone());
  // Nobody is signed in any more, and not because time ran out.
  else if (answer.status === 401 && Date.now() < idleEnds(await cache.match(PAGE))) {
    await caches.delete(NAME);
    for (const client of await scope.clients.matchAll({ includeUncontrolled: true })) client.postMessage('ended');
  }
  return answer;
}

async function page({ request, waitUntil }: Pick<Asked, 'request' | 'waitUntil'>): Promise<Response> {
  const kept = await (await copies()).match(PAGE);
  if (!kept) {
    const answer = await fetch(request);
    if (answer.status === 200 && !answer.redirected) await (await copies()).put(PAGE, answer.clone());
    return answer;
  }
  waitUntil(renew().catch(() => undefined));
  return kept;
}

async function beside(request: Request): Promise<Response> {
  const cache = await copies();
  const { pathname } = new URL(request.url);
  const kept = await cache.match(pathname);
  const renewed = fetch(request).then(async (answer) => {
    if (answer.status === 200 && BESIDE.includes(pathname)) await cache.put(pathname, answer.clone());
    return answer;
  });
  if (!kept) return renewed;
  renewed.catch(() => undefined);
  return kept;
}

scope.addEventListener('install', (event) => {
  void scope.skipWaiting();
  event.waitUntil(
    Promise.allSettled([
      renew(),
      ...BESIDE.map(async (each) => {
        const answer = await fetch(each);
        if (answer.status === 200) await (await copies()).put(each, answer);
      }),
    ]),
  );
});
scope.addEventListener('activate', (event) => event.waitUntil(scope.clients.claim()));
scope.addEventListener('fetch', (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (request.method !== 'GET' || origin !== location.origin) return;
  if (pathname === PAGE) event.respondWith(page({ request, waitUntil: (work) => event.waitUntil(work) }));
  else if (BESIDE.includes(pathname)) event.respondWith(beside(request));
});

export {};
