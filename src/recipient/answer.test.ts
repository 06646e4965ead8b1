import fc from 'fast-check';
import { previewFrom } from '@/core/address';
import { composeDraft, type Channel, type Draft } from '@/core/card';
import { Refusal, type Problem } from '@/core/errors';
import { OUR_LANGUAGES } from '@/core/language';
import type { PersonRecord } from '@/core/record';
import type { EventRow } from '@/server/db/response/events';
import { UNLISTED, type PublishedCard } from '@/server/services/publishing/load-published';
import { anyCard, marksOf, searched } from '../../tests/fixtures/any-card';
import { SETTINGS } from '../../tests/fixtures/settings';
import { createAnswerer } from './answer';
import type { RecipientAnswer } from './request';
import type { Services } from './services';

// What is made of a page's first screen takes processes of its own, which are tested where they are.
jest.mock('@/server/compute', () => ({
  computeIsWarm: () => false,
  compute: () => Promise.reject(new Error('not here')),
}));

const OWN = '0190f8a0-0000-7000-8000-0000000000aa';
Object.assign(process.env, SETTINGS, { CARD_HOSTS: `cards.tarnhope.example=${OWN}` });

const PREVIEW = `/p/${previewFrom(Uint8Array.from({ length: 16 }, (_, each) => each))}`;
const NOW = Date.parse('2026-11-30T10:00:00Z');
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0';
const published = (record: PersonRecord, draft: Draft, more: Partial<PublishedCard> = {}): PublishedCard => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return {
    ...UNLISTED,
    ...{ cardId: 'card', organisationId: OWN, version: 1, revision: 3, address: 'any-body', timeZone: 'Europe/London' },
    ...{ composition: made.value, publishedAt: '2026-11-24T09:30:00Z', photo: null, logo: null, logoOnBand: null },
    ...{ inFile: { photo: null, logo: null }, logoByNight: null, isHouseLogo: false, files: new Map(), legal: {} },
    ...more,
  };
};

/** Answers of a card that may be exchanged, and what was written down of them. */
function open(card: PublishedCard | null, more: Partial<Services> = {}) {
  const events: EventRow[] = [];
  let [shown, loads] = [card, 0];
  const answer = createAnswerer({
    clock: { now: () => NOW },
    load: async () => ((loads += 1), shown),
    preview: async () => shown && { ...shown, address: null },
    version: async () => shown?.version,
    record: async (row) => (events.push(row), { recorded: true, version: shown?.version }),
    visitor: () => 'v1',
    ...more,
  });
  const ask = (
    path: string,
    { method = 'GET', headers = {} as Record<string, string>, query = '', body = null as string | null } = {},
  ): Promise<RecipientAnswer> => {
    const all: Record<string, string> = { 'user-agent': BROWSER, host: 'c.heath.example', ...headers };
    return answer({
      ...{ method, path, query: new URLSearchParams(query), address: '192.0.2.1', body },
      header: (name) => all[name] ?? '',
    });
  };
  return { ask, events, loads: () => loads, show: (next: PublishedCard | null) => (shown = next) };
}
/** All that leaves with an answer. */
const wholeOf = ({ headers, body }: RecipientAnswer): string =>
  searched(`${decodeURIComponent(JSON.stringify(headers).replace(/%(?![0-9a-f]{2})/gi, '%25'))}\n${String(body)}`);
const headerOf = ({ headers }: RecipientAnswer) => headers['Heathland-Event'];
const [ANY] = fc.sample(anyCard, { numRuns: 1, seed: 11 });
const card = (more: Partial<PublishedCard> = {}) => published(ANY!.record, ANY!.draft, more);
/** Parts of a card's address, and the channel that they give out. */
const PARTS: [part: string, channel: Channel][] = [
  ['', 'page'],
  ['.vcf', 'file'],
  ['/manifest.webmanifest', 'page'],
  ['/code.svg', 'page'],
];

test('whatever a card says, nothing that comes from its address holds a line without a tick for it, in body or headers (property)', async () => {
  await fc.assert(
    fc.asyncProperty(anyCard, fc.constantFrom(...OUR_LANGUAGES), async ({ record, draft }, language) => {
      const { ask } = open(published(record, draft));
      const answers = await Promise.all([
        ...PARTS.map(async ([part, channel]) => ({
          channel,
          answer: await ask(`/c/any-body${part}`, { query: `lang=${language}` }),
        })),
        ...['2.1', '3.0', '4.0'].map(async (v) => ({
          channel: 'file' as const,
          answer: await ask('/h/7K3M9QXZ.vcf', { query: `v=${v}` }),
        })),
        ...record.details.map(async ({ id }) => ({
          channel: 'page' as const,
          answer: await ask(`/c/any-body/map-${id}`, { headers: { 'user-agent': 'Android' } }),
        })),
        { channel: 'page' as const, answer: await ask(PREVIEW) },
      ]);
      for (const { channel, answer } of answers) {
        const ticked = new Set(draft.lines.filter(({ ticks }) => ticks[channel]).map(({ detail }) => detail));
        const shown = new Set(record.details.filter(({ id }) => ticked.has(id)).flatMap(marksOf));
        const said = wholeOf(answer);
        for (const mark of record.details.flatMap(marksOf))
          if (!shown.has(mark)) expect([channel, mark, said.includes(mark)]).toEqual([channel, mark, false]);
      }
      // A map is opened for addresses that the page shows, and tells nobody of others.
      for (const { id, kind } of record.details) {
        const shows =
          kind === 'address' && draft.lines.some((line) => line.detail === id && line.ticks.page && line.part === null);
        const { status } = await ask(`/c/any-body/map-${id}`, { headers: { 'user-agent': 'Android' } });
        if (shows) expect([id, status]).toEqual([id, 302]);
        if (kind !== 'address') expect([id, status]).toEqual([id, 404]);
      }
    }),
    { numRuns: 25 },
  );
});

test.each(['resting', 'retired'] as const)(
  'a card that is %s gives nothing out and nothing is counted, whatever is asked for',
  async (state) => {
    // Its firm is what a notice is headed by.
    const own = ANY!.record.details.filter(({ kind }) => kind !== 'organisation');
    const marks = [...own.flatMap(marksOf), ANY!.record.name.given];
    const { ask, events } = open(
      card({ state, notice: 'Back in spring', instead: { address: 'rope-desk', name: 'Rope desk' } }),
    );
    for (const [part] of PARTS) {
      const answer = await ask(`/c/any-body${part}`);
      expect([part, answer.status, answer.headers['Cache-Control']]).toEqual([part, 410, 'no-store']);
      expect(marks.filter((mark) => wholeOf(answer).includes(mark))).toEqual([]);
      expect(String(answer.body)).toContain('href="/c/rope-desk"');
    }
    for (const { id } of ANY!.record.details)
      expect((await ask('/c/any-body/tap', { method: 'POST', body: id })).headers['Heathland-Event']).toBe('none');
    expect(events).toEqual([]);
  },
);

// What is a person's act: RFC 9110 14.2 (ranges), Sec-Purpose (Fetch 2.2), Fetch Metadata 2; isbot's list of programs.
const TICKED = ANY!.draft.lines.find(({ ticks, detail }) => ticks.page && detail !== 'name')!.detail;
test.each<[string, string, Parameters<ReturnType<typeof open>['ask']>[1], string | undefined, EventRow['kind'] | null]>(
  [
    ['a page opened by a person', '/c/any-body', {}, 'recorded', 'view'],
    ['a contact file', '/c/any-body.vcf', {}, 'recorded', 'save'],
    ['a code that is scanned', '/h/7K3M9QXZ', {}, 'recorded', 'view'],
    ['HEAD', '/c/any-body', { method: 'HEAD' }, 'none', null],
    ['a page that is fetched ahead', '/c/any-body', { headers: { 'sec-purpose': 'prefetch' } }, 'none', null],
    ['the rest of a file', '/c/any-body.vcf', { headers: { range: 'bytes=500-' } }, 'none', null],
    [
      'a file that another site shows as a picture',
      '/c/any-body.vcf',
      { headers: { 'sec-fetch-dest': 'image', 'sec-fetch-site': 'cross-site' } },
      'none',
      null,
    ],
    ['a program', '/c/any-body', { headers: { 'user-agent': 'curl/8.5.0' } }, 'not-counted', 'bot'],
    ['nobody at all', '/c/any-body', { headers: { 'user-agent': '' } }, 'not-counted', 'bot'],
    ['a picture of the code', '/c/any-body/code.svg', {}, 'none', null],
    ['a preview', PREVIEW, {}, 'none', null],
    ['a tap on a line', '/c/any-body/tap', { method: 'POST', body: TICKED }, 'recorded', 'tap'],
    [
      'a tap from another site',
      '/c/any-body/tap',
      { method: 'POST', body: TICKED, headers: { 'sec-fetch-site': 'cross-site' } },
      'none',
      null,
    ],
    ['a tap on what is no line', '/c/any-body/tap', { method: 'POST', body: "'; drop table events --" }, 'none', null],
  ],
)('counting: %s', async (_, path, request, header, kind) => {
  const { ask, events } = open(card());
  expect(headerOf(await ask(path, request))).toBe(header);
  expect(events.map((event) => event.kind)).toEqual(kind ? [kind] : []);
});

test('a view tells its visitor as a hash, and with Global Privacy Control or of a program nothing of them', async () => {
  const { ask, events } = open(card({ handOutId: 'stand' }));
  await ask('/h/7K3M9QXZ');
  await ask('/h/7K3M9QXZ', { headers: { 'sec-gpc': '1' } });
  await ask('/h/7K3M9QXZ', { headers: { 'user-agent': 'Googlebot/2.1' } });
  expect(events.map(({ visitor, kind }) => [kind, visitor])).toEqual([
    ['view', 'v1'],
    ['view', null],
    ['bot', null],
  ]);
  expect(events[0]).toEqual({
    ...{ organisationId: OWN, cardId: 'card', handOutId: 'stand', revision: 3, kind: 'view', line: null },
    ...{ visitor: 'v1', at: NOW },
  });
});

test('a scan that a code waits for as its test is given and not counted', async () => {
  const { ask, events } = open(card({ testUntil: NOW + 1 }), { test: async () => true });
  expect(headerOf(await ask('/h/7K3M9QXZ'))).toBe('not-counted');
  const over = open(card({ testUntil: NOW }), { test: async () => true });
  expect([headerOf(await over.ask('/h/7K3M9QXZ')), events.length, over.events.length]).toEqual(['recorded', 0, 1]);
  // Whether it is one cannot be told: then it is a view.
  const failing = open(card({ testUntil: NOW + 1 }), { test: () => Promise.reject(new Error('away')) });
  expect(headerOf(await failing.ask('/h/7K3M9QXZ'))).toBe('recorded');
});

test('many who ask at once wait for one loading; a new version shows with the very next answer, in every output', async () => {
  const { ask, loads, show, events } = open(card());
  await Promise.all(Array.from({ length: 40 }, (_, at) => ask(at % 2 ? '/c/any-body' : '/c/any-body.vcf')));
  expect([loads(), events.length]).toEqual([1, 40]);
  const other = { ...ANY!.record, name: { ...ANY!.record.name, given: 'Quiteanother' } };
  show(published(other, ANY!.draft, { version: 2 }));
  for (const part of ['', '.vcf', '/manifest.webmanifest'])
    expect([part, String((await ask(`/c/any-body${part}`)).body).includes('Quiteanother')]).toEqual([part, true]);
  expect(loads()).toBe(2);
  show(null);
  expect((await ask('/c/any-body')).status).toBe(404);
});

test('an event that cannot be written costs the event, not the answer', async () => {
  for (const record of [async () => ({ recorded: false }) as const, () => Promise.reject(new Error('away'))]) {
    const { ask } = open(card(), { record });
    const answer = await ask('/c/any-body');
    expect([answer.status, headerOf(answer)]).toEqual([200, 'not-recorded']);
  }
});

test.each<[Problem, number, Record<string, string>]>([
  [{ code: 'DATABASE_UNAVAILABLE' }, 503, { 'Retry-After': '5' }],
  [{ code: 'TOO_BUSY', seconds: 5 }, 503, { 'Retry-After': '5' }],
  [{ code: 'CODE_SPARE' }, 404, {}],
  [{ code: 'CARD_DELETED' }, 410, {}],
])('%j is told in words, kept by nobody', async (problem, status, headers) => {
  const { ask } = open(card(), { load: () => Promise.reject(new Refusal(problem)) });
  const answer = await ask('/c/any-body');
  expect([answer.status, answer.headers]).toEqual([
    status,
    expect.objectContaining({ 'Cache-Control': 'no-store', ...headers }),
  ]);
  expect(answer.headers['Content-Security-Policy']).toContain("script-src 'sha256");
});

test('on an organisation’s own host nobody else’s cards are found; what is no path of ours, or no way to ask, is refused', async () => {
  const host = { headers: { host: 'cards.tarnhope.example' } };
  expect((await open(card()).ask('/c/any-body', host)).status).toBe(200);
  const other = open(card({ organisationId: '0190f8a0-0000-7000-8000-0000000000bb' }));
  expect([(await other.ask('/c/any-body', host)).status, other.events.length]).toEqual([404, 0]);
  const { ask } = open(card());
  for (const path of [
    '/',
    '/c/',
    '/c/any-body/../x',
    `/c/any-body/photo-${'a1'.repeat(32)}.jpg`,
    `/c/any-body/file-${'a1'.repeat(32)}`,
    '/c/any-body/icon-0123456789abcdef.png',
  ])
    expect([path, (await ask(path)).status]).toEqual([path, 404]);
  for (const method of ['POST', 'PUT', 'DELETE'])
    expect(await ask('/c/any-body', { method })).toMatchObject({ status: 405, headers: { Allow: 'GET, HEAD' } });
  expect(await ask('/c/any-body/tap')).toMatchObject({ status: 405, headers: { Allow: 'POST' } });
});

test('a card that ends at an instant is loaded again from then on, and one that lacked its pictures after a few seconds', async () => {
  let now = NOW;
  const ending = open(card({ endsAt: NOW + 1_000 }), { clock: { now: () => now } });
  await ending.ask('/c/any-body');
  await ending.ask('/c/any-body');
  expect(ending.loads()).toBe(1);
  now += 1_000;
  ending.show(card({ state: 'resting', version: 1 }));
  expect([(await ending.ask('/c/any-body')).status, ending.loads()]).toEqual([410, 2]);
  const lacking = open(card({ incomplete: true }), { clock: { now: () => now } });
  await lacking.ask('/c/any-body');
  now += 5_000;
  await lacking.ask('/c/any-body');
  expect(lacking.loads()).toBe(2);
});

test('a card that opens as its contact file gives that to people, and its page to whoever asks for the page or is a program', async () => {
  const { ask } = open(card({ composition: { ...card().composition, opens: { first: 'file' } } }));
  const typeOf = async (...given: Parameters<typeof ask>) => (await ask(...given)).headers['Content-Type'];
  expect(await typeOf('/c/any-body')).toBe('text/vcard; charset=utf-8');
  expect(await typeOf('/c/any-body', { query: 'page' })).toBe('text/html; charset=utf-8');
  expect(await typeOf('/c/any-body', { headers: { 'user-agent': 'curl/8.5.0' } })).toBe('text/html; charset=utf-8');
});
