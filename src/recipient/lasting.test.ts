import fc from 'fast-check';
import { lastingFrom } from '@/core/address';
import { Refusal } from '@/core/errors';
import { loadWords } from '@/core/messages';
import { isConfirmingName, type Told } from '@/core/replies';
import type { Held } from '@/server/services/replies/held';
import { SETTINGS } from '../../tests/fixtures/settings';
import { answerLasting } from './lasting';

const TOLD: Told = {
  ...{ name: 'Wynne Kest', reach: 'wynne@kest.example', other: '', firm: 'Kest Ropes', title: '', answer: '' },
  ...{ note: 'We met at the valley station', question: '' },
} as Told;
const HELD: Held = {
  ...{ reply: 'r1', organisationId: 'org', byMail: true, address: 'ilse', holder: 'Ilse Varrow', look: null },
  ...{ at: '2026-11-24T09:30:00Z', timeZone: 'Europe/London', language: 'en', country: 'GB', told: TOLD },
  ...{ consent: 'Kept to get in touch', followed: false, agreed: false },
};
// What is held lies in the database, whose part is tested with it; here it is what a test says.
let held: Held | null = HELD;
let tries = 0;
const done: string[] = [];
jest.mock('@/server/services/replies/held', () => ({
  openLasting: async () => held,
  noteFollowed: async () => done.push('followed'),
  hasSaidName: async ({ told }: Held, typed: string) => {
    tries += 1;
    if (tries > 5) throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: 60 });
    return told !== null && isConfirmingName(told, typed);
  },
  correctHeld: async (_: Held, told: Told, email: string | null) => done.push(`corrected ${told.reach} ${email}`),
  removeAddress: async () => done.push('address removed'),
  agreeHeld: async (_: Held, agreed: boolean) => done.push(`views ${agreed}`),
  eraseHeld: async () => done.push('erased'),
}));

Object.assign(process.env, SETTINGS, { CARD_HOSTS: 'cards.tarnhope.example=0190f8a0-0000-7000-8000-0000000000aa' });
beforeAll(() => loadWords('en'));
beforeEach(() => {
  [held, tries] = [HELD, 0];
  done.length = 0;
});

const TOKEN = lastingFrom(Uint8Array.from({ length: 24 }, (_, at) => at * 7));
const BASE = `/r/${TOKEN}`;
async function ask(
  what: string,
  { method = 'GET', fields = {} as Record<string, string>, headers = {} as Record<string, string>, query = '' } = {},
) {
  const all: Record<string, string> = {
    'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0',
    ...{ host: 'c.heath.example', ...headers },
  };
  const answer = await answerLasting(
    {
      ...{ method, path: `${BASE}${what}`, query: new URLSearchParams(query), address: '192.0.2.1' },
      body: method === 'POST' ? Buffer.from(new URLSearchParams(fields).toString()) : null,
      header: (name) => all[name] ?? '',
    },
    { now: () => Date.parse('2026-11-30T10:00:00Z') },
  );
  return { status: answer!.status, headers: answer!.headers, body: String(answer!.body) };
}
const post = (what: string, fields: Record<string, string>) => ask(what, { method: 'POST', fields });
/** Whatever of what was told stands in an answer. */
const tells = (body: string) =>
  ['wynne@kest.example', 'valley station', 'Kest Ropes'].filter((each) => body.includes(each));

test('who comes by the mail’s link sees that something is held, and what only with the name; who has just sent it sees it', async () => {
  const closed = await ask('');
  expect([closed.status, tells(closed.body)]).toEqual([200, []]);
  expect(closed.headers).toMatchObject({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex' });
  held = { ...HELD, byMail: false };
  expect(tells((await ask('', { query: 'sent=mailed' })).body)).toHaveLength(3);
  expect(tells((await post('/held', { name: 'Wynne Kest' })).body)).toHaveLength(3);
});

test('a wrong name opens nothing and changes nothing, whatever else is sent with it, and is not tried without end (property)', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.string({ unit: 'grapheme', maxLength: 30 }).filter((name) => !isConfirmingName(TOLD, name)),
      fc.constantFrom('/held', '/erase', '/views'),
      fc.record(
        { on: fc.constant('1'), reach: fc.constant('other@kest.example'), note: fc.string() },
        { requiredKeys: [] },
      ),
      async (name, what, more) => {
        tries = 0;
        const { status, body } = await post(what, { name, known: name, ...more });
        expect([what, status, tells(body), done]).toEqual([what, 403, [], []]);
      },
    ),
    { numRuns: 40 },
  );
  tries = 5;
  expect([(await post('/held', { name: 'Wynne Kest' })).status, done]).toEqual([403, []]);
});

test.each<[string, Record<string, string>, string[]]>([
  ['/erase', { known: 'wynne kest' }, ['erased']],
  ['/views', { known: 'Wynne Kest', on: '1' }, ['views true']],
  ['/views', { known: 'Wynne Kest' }, ['views false']],
  [
    '/held',
    { known: 'Wynne  KEST', name: 'Wynne Kest-Lund', reach: 'wynne@lund.example' },
    ['corrected wynne@lund.example wynne@lund.example'],
  ],
  ['/held', { known: 'Wynne Kest', name: 'Wynne Kest', reach: '020 7946 0182' }, ['corrected 020 7946 0182 null']],
  // Opening is no change.
  ['/held', { name: 'Wynne Kest' }, []],
])('with the name %s and %j does what was asked for', async (what, fields, wanted) => {
  const { status } = await post(what, fields);
  expect([status, done]).toEqual([200, wanted]);
});

test('what cannot be taken is told beside its field with what was typed, and nothing is changed', async () => {
  const { status, body } = await post('/held', { known: 'Wynne Kest', name: '', reach: 'nowhere"><b>' });
  expect([status, done, body.includes('nowhere"><b>'), body.includes('nowhere')]).toEqual([422, [], false, true]);
});

test('whoever reads a mail by mistake takes the address away without any name; of a page that was not by mail there is none to take', async () => {
  expect(tells((await post('/address', {})).body)).toEqual([]);
  expect(done).toEqual(['address removed']);
  held = { ...HELD, byMail: false };
  await post('/address', {});
  expect(done).toEqual(['address removed']);
});

test('to the card leads a redirection; that a person has followed it is noted, of a program or a prefetch nothing', async () => {
  expect(await ask('/card')).toMatchObject({ status: 303, headers: { Location: '/c/ilse' } });
  expect(done).toEqual(['followed']);
  for (const headers of [{ 'user-agent': 'curl/8.5.0' }, { 'sec-purpose': 'prefetch' }, { 'user-agent': '' }] as Record<
    string,
    string
  >[])
    expect((await ask('/card', { headers })).status).toBe(303);
  expect((await ask('/card', { method: 'HEAD' })).status).toBe(303);
  held = { ...HELD, address: null };
  // Its card is out no more: the page about what is held stands in.
  expect((await ask('/card')).status).toBe(200);
  expect(done.filter((each) => each !== 'followed')).toEqual([]);
  expect(done).toHaveLength(2);
});

test('asking is never changing: a link that is only opened leads back, and what is no way to ask is refused (RFC 9110, 9.2.1)', async () => {
  for (const what of ['/held', '/erase', '/views', '/address'])
    expect([what, await ask(what)]).toEqual([
      what,
      expect.objectContaining({ status: 303, headers: expect.objectContaining({ Location: BASE }) }),
    ]);
  expect(done).toEqual([]);
  for (const method of ['PUT', 'DELETE']) expect((await ask('/erase', { method })).status).toBe(405);
  for (const what of ['', '/card']) expect((await post(what, {})).status).toBe(405);
});

test('what never was, and what is another organisation’s on its own host, is not found', async () => {
  expect((await ask('', { headers: { host: 'cards.tarnhope.example' } })).status).toBe(404);
  held = null;
  for (const what of ['', '/card', '/held']) expect((await ask(what)).status).toBe(404);
});

test('of what was erased nothing is left to open', async () => {
  held = { ...HELD, told: null };
  for (const fields of [{ name: '' }, { name: 'Wynne Kest' }]) {
    const { status, body } = await post('/held', fields);
    expect([status, tells(body)]).toEqual([200, []]);
  }
  expect(done).toEqual([]);
});
