import fc from 'fast-check';
import { JSDOM } from 'jsdom';
import { composeDraft, freshBlock, type Block } from '@/core/card';
import { Refusal } from '@/core/errors';
import { loadWords } from '@/core/messages';
import { UNLISTED, type PublishedCard } from '@/server/services/publishing/load-published';
import type { IncomingReply } from '@/server/services/replies/take-reply';
import { anyCard } from '../../tests/fixtures/any-card';
import { SETTINGS } from '../../tests/fixtures/settings';
import { answerReply } from './reply';
import type { Asked, RecipientAnswer } from './request';

// A contact file is read in a process of its own, which is tested where it is; here it says what a test wants.
let read: () => unknown = () => null;
jest.mock('@/server/compute', () => ({ compute: async () => read() }));

Object.assign(process.env, SETTINGS);
beforeAll(() => loadWords('en'));

const [ANY] = fc.sample(anyCard, { numRuns: 1, seed: 11 });
const FORM = { ...freshBlock('reply form', () => 'b1'), fields: ['firm'], question: 'Which rope?' } as Block;
const card = (more: Partial<PublishedCard> = {}, blocks = [FORM]): PublishedCard => {
  const made = composeDraft(ANY!.record, { ...ANY!.draft, blocks, language: 'en' }, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return {
    ...UNLISTED,
    ...{ cardId: 'card', organisationId: 'org', version: 1, revision: 3, address: 'ilse', timeZone: 'Europe/London' },
    ...{ composition: made.value, publishedAt: '2026-11-24T09:30:00Z', photo: null, logo: null, logoOnBand: null },
    ...{ inFile: { photo: null, logo: null }, logoByNight: null, isHouseLogo: false, files: new Map(), legal: {} },
    ...more,
  };
};
const ASKED: Asked = { key: { address: 'ilse' }, what: { output: 'reply' }, base: '/c/ilse' };
const SOUND = { name: 'Wynne Kest', reach: 'wynne@kest.example', note: 'We met at the valley station' };

async function send(
  fields: Record<string, string> | FormData | Buffer | null,
  {
    of = card(),
    headers = {} as Record<string, string>,
    method = 'POST',
    sinceView = null as number | null,
    take = undefined as undefined | (() => never),
  } = {},
) {
  const taken: IncomingReply[] = [];
  const sent =
    fields === null || Buffer.isBuffer(fields)
      ? null
      : new Response(fields instanceof FormData ? fields : new URLSearchParams(fields));
  const body = sent ? Buffer.from(await sent.arrayBuffer()) : (fields as Buffer | null);
  const all: Record<string, string> = {
    ...{ host: 'c.heath.example', 'user-agent': 'A browser', 'content-type': sent?.headers.get('content-type') ?? '' },
    ...headers,
  };
  const answer = await answerReply(
    {
      ...{ method, path: '/c/ilse/reply', query: new URLSearchParams(), address: '192.0.2.1', body },
      header: (name) => all[name] ?? '',
    },
    of,
    ASKED,
    sinceView,
    {
      clock: { now: () => 0 },
      take: async (_, incoming) => {
        take?.();
        taken.push(incoming);
        return { token: 'TOKEN', mailed: incoming.email !== null, waits: incoming.signs?.hidden !== '' };
      },
    },
  );
  return { answer: answer as RecipientAnswer, taken };
}

/** What the fields of a page hold, as a browser's parser finds them, and whatever could run. */
function fieldsIn(html: string) {
  const { document } = new JSDOM(html).window;
  const all = [...document.querySelectorAll('*')];
  const running = all.filter(({ attributes }) => [...attributes].some(({ name }) => name.startsWith('on')));
  const fields = [...document.querySelectorAll<HTMLInputElement>('input, textarea')];
  return {
    fields: Object.fromEntries(fields.map(({ name, value }) => [name, value])),
    running: [...running, ...document.querySelectorAll('script')].map(({ outerHTML }) => outerHTML),
  };
}

test('a sound reply is handed on as it was typed, and its sender is sent on to thanks (RFC 9110, 15.4.4)', async () => {
  const { answer, taken } = await send({ ...SOUND, took: '5200', lang: 'en' }, { sinceView: 9_000 });
  expect(answer).toMatchObject({
    status: 303,
    headers: { Location: '/r/TOKEN?sent=mailed', 'Cache-Control': 'no-store' },
  });
  expect(taken).toEqual([
    {
      told: { ...SOUND, answer: '', firm: '', title: '', other: '', question: '' },
      ...{ email: 'wynne@kest.example', language: 'en', from: '192.0.2.1 A browser' },
      signs: { hidden: '', took: 5_200, sinceView: 9_000 },
    },
  ]);
  const phone = await send({ ...SOUND, reach: '020 7946 0182' });
  expect(phone.answer.headers.Location).toBe('/r/TOKEN?sent=taken');
  expect(phone.taken[0]!.signs).toEqual({ hidden: '', took: null, sinceView: null });
  const hidden = await send({ ...SOUND, more: 'buy now' });
  expect(hidden.answer.headers.Location).toBe('/r/TOKEN?sent=waits');
});

test('whatever is typed that cannot be taken comes back in its fields, word for word, and nothing of it runs (property)', async () => {
  const typed = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 60 }),
    fc.constantFrom(
      '"><script>alert(1)</script>',
      '</textarea><img src=x onerror=alert(1)>',
      '&amp;lt;',
      "' onfocus='x",
      '\n\nfrom the second line on',
    ),
  );
  await fc.assert(
    fc.asyncProperty(typed, typed, typed, async (name, note, firm) => {
      const { answer, taken } = await send({ name, note, firm, reach: 'no way to reach anybody' });
      expect([answer.status, taken]).toEqual([422, []]);
      const { fields, running } = fieldsIn(String(answer.body));
      expect(running).toEqual([]);
      // A field of one line holds no line breaks (HTML, 4.10.5.1.2), and no document holds a null (13.2.3.5).
      const plain = (text: string) => text.replace(/\0/g, '\ufffd');
      expect([fields.name, fields.firm]).toEqual([name, firm].map((text) => plain(text).replace(/[\r\n]/g, '')));
      expect(fields.note).toBe(plain(note).replace(/\r\n?/g, '\n'));
      expect(answer.headers).toMatchObject({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex' });
      expect(answer.headers['Content-Security-Policy']).toContain("default-src 'none'");
    }),
    { numRuns: 40 },
  );
});

test.each<[string, Parameters<typeof send>, number]>([
  ['more than there is room for', [null], 413],
  ['to a draft', [SOUND, { of: card({ address: null }) }], 409],
  ['without a name', [{ ...SOUND, name: ' ' }], 422],
  ['from another site (Fetch Metadata)', [SOUND, { headers: { 'sec-fetch-site': 'cross-site' } }], 403],
  ['from another origin (RFC 6454)', [SOUND, { headers: { origin: 'https://evil.example' } }], 403],
  ['from an origin that is none', [SOUND, { headers: { origin: 'null' } }], 403],
])('%s nothing is taken', async (_, given, status) => {
  const { answer, taken } = await send(...given);
  expect([answer.status, taken, fieldsIn(String(answer.body)).running]).toEqual([status, [], []]);
});

test('of our own page a form is taken, however its browser says so; a card without a form takes none, and asking for it leads to the card', async () => {
  for (const headers of [
    {},
    { origin: 'https://c.heath.example' },
    { 'sec-fetch-site': 'same-origin', origin: 'null' },
    { 'sec-fetch-site': 'none' },
  ] as Record<string, string>[])
    expect((await send(SOUND, { headers })).answer.status).toBe(303);
  expect((await send(SOUND, { of: card({}, []) })).answer).toBeNull();
  expect((await send(null, { method: 'GET' })).answer).toMatchObject({ status: 303, headers: { Location: '/c/ilse' } });
});

test('who sends too many is told when to come again; any other fault is whoever’s who hears of it', async () => {
  const refusing = (error: Error) => ({
    take: () => {
      throw error;
    },
  });
  const { answer } = await send(SOUND, refusing(new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: 61 })));
  expect([answer.status, fieldsIn(String(answer.body)).fields.name]).toEqual([429, 'Wynne Kest']);
  expect(String(answer.body)).toMatch(/2 minutes/);
  await expect(send(SOUND, refusing(new Error('away')))).rejects.toThrow('away');
});

describe('a contact file in place of what is typed (RFC 7578)', () => {
  const form = (parts = 1): FormData => {
    const made = new FormData();
    made.set('file', new File(['BEGIN:VCARD'], 'wynne.vcf', { type: 'text/vcard' }));
    for (let at = 1; at < parts; at += 1) made.append('more', '');
    return made;
  };
  const contact = (...details: object[]) => ({
    record: {
      name: { prefix: '', given: 'Wynne', additional: '', family: 'Kest', suffix: '', written: '' },
      details: details.map((detail, at) => ({ id: `d${at}`, label: '', preferred: false, ...detail })),
      kept: [],
    },
  });
  const MAIL = { kind: 'email', address: 'wynne@kest.example', uses: ['work'] };
  const PHONE = { kind: 'phone', number: '+442079460182', uses: ['work'] };

  test('says who somebody is and how to reach them', async () => {
    read = () => contact(PHONE, MAIL, { kind: 'organisation', name: 'Kest Ropes', units: [] });
    const { answer, taken } = await send(form());
    expect([answer.status, taken[0]!.email]).toEqual([303, 'wynne@kest.example']);
    expect(taken[0]!.told).toMatchObject({ name: 'Wynne Kest', firm: 'Kest Ropes' });
    read = () => contact(PHONE);
    expect((await send(form())).taken[0]!.email).toBeNull();
  });

  test.each<[string, () => unknown]>([
    ['several people', () => null],
    ['nobody that can be reached', () => contact()],
    [
      'nothing that is a contact',
      () => {
        throw new Refusal({ code: 'NOT_A_CONTACT_FILE' });
      },
    ],
  ])('that holds %s is refused in words', async (_, holds) => {
    read = holds;
    const { answer, taken } = await send(form());
    expect([answer.status, taken]).toEqual([422, []]);
  });

  test('in a form that is broken, has no end or too many parts is no contact file; nothing stands still for it', async () => {
    read = () => contact(MAIL);
    const type = 'multipart/form-data; boundary=xx';
    for (const [body, header] of [
      ['--xx\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\nBEGIN', type],
      ['--xx--\r\n', type],
      ['', type],
      ['--xx\r\n'.repeat(20_000), type],
      ['anything', 'multipart/form-data'],
      ['anything', `multipart/form-data; boundary=${'x'.repeat(5_000)}`],
    ] as const)
      expect((await send(Buffer.from(body), { headers: { 'content-type': header } })).answer.status).toBe(422);
    expect((await send(form(30))).answer.status).toBe(422);
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async (bytes) => {
        const { answer } = await send(Buffer.from(bytes), { headers: { 'content-type': type } });
        expect(answer.status).toBe(422);
      }),
      { numRuns: 40 },
    );
  });
});
