import { expect, test, type APIRequestContext } from '@playwright/test';
import { asOwner } from '../../../commands/cluster/databases';
import { APPLICATION, DATABASE } from '../ports';

const ORIGIN = `http://127.0.0.1:${APPLICATION}`;

/** What no form sends and any program may: wrong kinds, ends of the number line, what JSON, UTF-16 and PostgreSQL disagree about. */
const GARBAGE: unknown[] = [
  null,
  true,
  -1,
  0.5,
  2 ** 31,
  Number.MAX_SAFE_INTEGER,
  1e300,
  '',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\u202e\u2066x',
  "'; DROP TABLE cards; --",
  'x'.repeat(70_000),
  '../../../etc/passwd',
  '00000000-0000-4000-8000-000000000000',
  [],
  [null],
  [[[[[[[[[]]]]]]]]],
  {},
  { __proto__: null, constructor: { prototype: { polluted: true } } },
  JSON.parse('{"__proto__":{"polluted":true}}'),
];

type Leaf = (string | number)[];
/** Every place of a value, those of lists and objects as well. */
const placesOf = (value: unknown, at: Leaf = []): Leaf[] =>
  value !== null && typeof value === 'object'
    ? [at, ...Object.entries(value).flatMap(([key, inner]) => placesOf(inner, [...at, key]))]
    : [at];

function replaced(value: unknown, [first, ...rest]: Leaf, by: unknown): unknown {
  if (first === undefined) return by;
  const copy = (Array.isArray(value) ? [...value] : { ...(value as object) }) as Record<string | number, unknown>;
  copy[first] = replaced(copy[first], rest, by);
  return copy;
}

/** Asks several at a time; answers what failed without a word of its own. */
async function failing(request: APIRequestContext, asked: { method: string; path: string; data: unknown }[]) {
  const found = new Set<string>();
  const left = [...asked];
  const one = async () => {
    for (let each = left.pop(); each; each = left.pop()) {
      const { method, path, data } = each;
      const answer = await request.fetch(`${ORIGIN}${path}`, {
        method,
        headers: { Origin: ORIGIN, 'Content-Type': 'application/json' },
        ...(data === undefined ? {} : { data: typeof data === 'string' ? data : JSON.stringify(data) }),
        maxRedirects: 0,
      });
      if (answer.status() >= 500) found.add(`${method} ${path} ${JSON.stringify(data)?.slice(0, 300)}`);
    }
  };
  await Promise.all(Array.from({ length: 4 }, one));
  return [...found];
}

test('no route falls over garbage in any place of its input: it is taken or refused in words, and nothing else changes', async ({
  playwright,
}) => {
  test.setTimeout(600_000);
  const owner = await playwright.request.newContext();
  const post = async (path: string, data: object) => {
    const answer = await owner.post(`${ORIGIN}${path}`, { headers: { Origin: ORIGIN }, data });
    expect([path, answer.status()]).toEqual([path, 200]);
    return (await answer.json()) as Record<string, string>;
  };
  const account = { name: 'Maud Aldercott', password: 'a curlew at dusk', country: 'GB', timeZone: 'Europe/London' };
  await post('/api/sign-up', { ...account, email: `garbage-${Date.now()}@heath.example` });
  const { recordId, cardId } = await post('/api/records', {
    name: 'Ilse Varrow',
    phone: '020 7946 0182',
    email: 'ilse@tarnhope.example',
  });
  await post(`/api/cards/${cardId}/publish`, { baseVersion: 1, address: `garbage-${Date.now()}` });
  const card = (await (await owner.get(`${ORIGIN}/api/cards/${cardId}`)).json()) as Record<string, unknown> & {
    record: object;
  };
  const { audience, language, blocks, opens, words, look, version } = card;
  // Two of each stand for all.
  const lines = (card.lines as object[]).slice(0, 2);
  const about = { kind: 'about', id: 'b1', on: true, before: false, title: 'About', text: 'Words' };
  const style = ((await (await owner.get(`${ORIGIN}/api/house`)).json()) as { style: object | null }).style ?? {
    look,
    layouts: ['trod'],
    logos: { onLight: null, onDark: null },
    lines: [
      {
        id: 'house-a',
        label: 'a',
        detail: { kind: 'own', id: 'house-a', label: 'a', preferred: false, text: 'a' },
        page: true,
        file: false,
      },
    ],
    blocks: [],
    codes: { ink: '#000000', ground: '#FFFFFF' },
    locks: { palette: 'x' },
  };
  const inputs: { method: string; path: string; input: object }[] = [
    {
      method: 'PUT',
      path: `/api/cards/${cardId}`,
      input: {
        baseVersion: version,
        lines,
        audience,
        language,
        blocks: [...(blocks as []), about],
        opens,
        words,
        look,
      },
    },
    { method: 'PUT', path: `/api/records/${recordId}`, input: { baseVersion: 1, body: card.record } },
    { method: 'POST', path: '/api/records', input: { name: 'x', phone: '', email: '' } },
    {
      method: 'POST',
      path: '/api/cards',
      input: { recordId, audience: 'x', isPrivate: false, from: null, without: [] },
    },
    { method: 'POST', path: `/api/cards/${cardId}/publish`, input: { baseVersion: 99, address: 'abc-def', note: 'x' } },
    {
      method: 'PUT',
      path: `/api/cards/${cardId}/plan`,
      input: { publishAt: '2099-01-01T10:00:00Z', address: 'abc-def', note: '', endsAt: null, endsWith: null },
    },
    { method: 'PUT', path: `/api/cards/${cardId}/state`, input: { state: 'published', notice: 'x', instead: null } },
    { method: 'POST', path: `/api/cards/${cardId}/adopt`, input: { baseVersion: 1, line: 'x' } },
    { method: 'POST', path: '/api/hand-outs', input: { cardId, placement: 'x', channel: 'code', frozen: true } },
    { method: 'POST', path: '/api/looks', input: { name: 'x', look } },
    { method: 'PUT', path: '/api/house', input: { baseNumber: 0, style, note: 'x' } },
    {
      method: 'PUT',
      path: '/api/audiences',
      input: { audiences: [{ name: 'x', isPrivate: false, without: ['note'] }] },
    },
    { method: 'PUT', path: '/api/addresses', input: { prefix: 'abc-garbage' } },
    {
      method: 'POST',
      path: '/api/members',
      input: { name: 'x', email: 'x@heath.example', password: 'long enough', role: 'analyst', ownRecord: null },
    },
    { method: 'POST', path: `/api/records/${recordId}/publish`, input: { cards: [{ id: cardId, version: 1 }] } },
    { method: 'POST', path: `/api/records/${recordId}/show`, input: { details: ['x'], onCards: [cardId] } },
    { method: 'POST', path: `/api/records/${recordId}/for-work`, input: { detail: 'x' } },
    { method: 'POST', path: '/api/photos/crop', input: { from: 'f'.repeat(64), x: 0.5, y: 0.5, side: 1, turn: 0 } },
    { method: 'POST', path: '/api/sign-in', input: { email: 'x@heath.example', password: 'x' } },
    { method: 'POST', path: '/api/password', input: { present: 'x', next: 'long enough it is' } },
  ];
  const database = new URL(process.env.TEST_DATABASE_SERVER!);
  database.pathname = `/${DATABASE}`;
  const unlimited = () => asOwner(database.href, (client) => client.query('DELETE FROM rate_counts'));
  const found: string[] = [];
  for (const { method, path, input } of inputs) {
    // Every second piece for a place, its neighbours the others: each reaches every kind of place, in half the time.
    const asked = placesOf(input).flatMap((place, at) =>
      GARBAGE.filter((_, piece) => piece % 2 === at % 2).map((garbage) => ({
        ...{ method, path },
        data: replaced(input, place, garbage),
      })),
    );
    const broken = ['', '{', 'not json', '\u0000', '[1,2', '{"a":}'].map((data) => ({ method, path, data }));
    for (let at = 0; at < asked.length; at += 25) {
      await unlimited();
      found.push(...(await failing(owner, asked.slice(at, at + 25))));
    }
    found.push(...(await failing(owner, broken)));
  }
  // Addresses as well: ids, numbers, hashes and what is asked for.
  const odd = [
    '%00',
    '%ff',
    '..%2f..%2fx',
    '1e9',
    '-1',
    '99999999999',
    'x'.repeat(3_000),
    '%F0%9F%90%91',
    '%22%3E%3Cscript%3E',
  ];
  const addresses = odd.flatMap((each) => [
    ...['cards', 'records', 'pictures', 'films', 'jobs', 'house', 'hand-outs'].map((of) => `/api/${of}/${each}`),
    `/api/cards/${cardId}/revisions/${each}`,
    `/api/cards/${cardId}/faces/${each}`,
    `/api/cards/${cardId}/faces/card-lying.svg?layout=${each}&version=${each}&language=${each}`,
    `/api/records/${recordId}/faces/card-lying.svg?layout=${each}&start=${each}&private=${each}`,
    `/api/contacts?records=${each}&cards=${each}&v=${each}&as=${each}`,
    `/api/go-to?q=${each}`,
    `/people/${each}`,
    `/cards/${each}/look`,
    `/response?days=${each}`,
    `/company/audit?before=${each}&page=${each}`,
    ...['c', 'h', 'p', 'fonts'].flatMap((of) => [`/${of}/${each}`, `/${of}/x/${each}`]),
  ]);
  found.push(
    ...(await failing(
      owner,
      addresses.map((path) => ({ method: 'GET', path, data: undefined })),
    )),
  );
  expect(found.slice(0, 20)).toEqual([]);
  // Nothing of it reached anybody's objects, and the card is as it was published.
  expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  expect((await owner.get(`${ORIGIN}/people`)).status()).toBe(200);
});
