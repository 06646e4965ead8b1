import { reachOf, ROLES } from '@/core/access';
import { sectionsOf } from '@/ui/frame/sections';
import { forgetCards, recall, remember } from '@/ui/card/draft/draft-memory';
import { call, confirmWith } from './call';
import { languageTyped, LANGUAGE_LIST } from './languages';
import { listen } from './listen';

/** Answers of a server in their order, and what it was asked. */
function server(...answers: (Response | Error)[]) {
  const asked: { path: string; method: string; body: unknown }[] = [];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    asked.push({ path, method: method!, body: body ? JSON.parse(String(body)) : null });
    const answer = answers.shift()!;
    if (answer instanceof Error) throw answer;
    return answer;
  }) as typeof fetch;
  return asked;
}
const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });

test('a problem is told as it is; no answer, one that cannot be read, and a server that is away are told apart', async () => {
  server(
    json({ a: 1 }),
    json({ problem: { code: 'NOT_FOUND' } }, 404),
    new Error('gone'),
    new Response('<html>', { status: 502 }),
    new Response('', { status: 503 }),
  );
  expect(await call('/x')).toEqual({ ok: true, value: { a: 1 } });
  const codes: string[] = [];
  for (let at = 0; at < 4; at += 1) {
    const answer = await call('/x');
    codes.push(answer.ok ? 'ok' : answer.problem.code);
  }
  expect(codes).toEqual(['NOT_FOUND', 'OFFLINE', 'UNEXPECTED', 'DATABASE_UNAVAILABLE']);
});

test('what is sent is a POST unless it says otherwise; what wants a fresh password is asked for, and sent once more after it', async () => {
  const stale = json({ problem: { code: 'PASSWORD_STALE' } }, 403);
  const asked = server(stale, json({ done: true }));
  let asks = 0;
  const back = confirmWith(async () => {
    asks += 1;
    return true;
  });
  expect(await call('/x', { json: { b: 2 } })).toEqual({ ok: true, value: { done: true } });
  expect([asks, asked.map(({ method, body }) => [method, body])]).toEqual([
    1,
    [
      ['POST', { b: 2 }],
      ['POST', { b: 2 }],
    ],
  ]);
  back();
  // Nobody is there to be asked: it is told as a problem.
  server(json({ problem: { code: 'PASSWORD_STALE' } }, 403));
  expect(await call('/x', { method: 'DELETE' })).toMatchObject({ ok: false, problem: { code: 'PASSWORD_STALE' } });
});

test('a stream that the server refused is opened again, one that broke off by itself is the browser’s to open, and a stopped one stays shut', () => {
  jest.useFakeTimers();
  const made: FakeStream[] = [];
  class FakeStream {
    static CLOSED = 2;
    readyState = 1;
    onmessage: ((event: { data: string }) => void) | null = null;
    onerror: (() => void) | null = null;
    constructor(readonly path: string) {
      made.push(this);
    }
    close() {
      this.readyState = FakeStream.CLOSED;
    }
  }
  Object.assign(globalThis, { EventSource: FakeStream });
  const heard: unknown[] = [];
  const stop = listen<{ version: number }>('/live', (told) => heard.push(told));
  made[0]!.onmessage!({ data: '{"version":2}' });
  // Broken off: the browser tries by itself.
  made[0]!.readyState = 0;
  made[0]!.onerror!();
  jest.advanceTimersByTime(60_000);
  expect([made.length, heard]).toEqual([1, [{ version: 2 }]]);
  made[0]!.readyState = FakeStream.CLOSED;
  made[0]!.onerror!();
  jest.advanceTimersByTime(2_900);
  expect(made.length).toBe(1);
  jest.advanceTimersByTime(3_200);
  expect(made.length).toBe(2);
  stop();
  made[1]!.onerror!();
  jest.advanceTimersByTime(60_000);
  expect(made.length).toBe(2);
  jest.useRealTimers();
});

test('what a browser keeps of a table comes back, is gone when nothing is left of it, and at signing out; a full store costs nothing else', () => {
  const store = new Map<string, string>();
  const localStorage = new Proxy(
    {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => void store.set(key, value),
      removeItem: (key: string) => void store.delete(key),
    },
    { ownKeys: () => [...store.keys()], getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }) },
  );
  Object.assign(globalThis, { window: { localStorage } });
  const nothing = { edits: [], past: [], future: [], clashes: [], typing: null };
  const edit = { edit: 'card' as const, cell: 'audience' as const, from: 'a', to: 'b' };
  remember('one', { ...nothing, edits: [edit] });
  remember('two', nothing);
  expect([recall('one'), recall('two'), recall('three')]).toEqual([{ ...nothing, edits: [edit] }, null, null]);
  // What an older release kept lacks what came since.
  store.set('heathland.card.old', '{"edits":[]}');
  expect(recall('old')).toEqual(nothing);
  store.set('heathland.card.broken', '{');
  expect(recall('broken')).toBeNull();
  store.set('others', 'x');
  forgetCards();
  expect([...store.keys()]).toEqual(['others']);
  Object.assign(globalThis, {
    window: {
      get localStorage(): never {
        throw new Error('shut');
      },
    },
  });
  expect(() => remember('one', { ...nothing, edits: [edit] })).not.toThrow();
  expect(recall('one')).toBeNull();
  Reflect.deleteProperty(globalThis, 'window');
});

test('sections are those that a role reaches; whoever works alone has an account and no company', () => {
  for (const role of ROLES) {
    const words = sectionsOf({ role, alone: false }).map(({ href }) => href);
    expect([role, words.includes('/people'), words.includes('/company')]).toEqual([
      role,
      reachOf(role, 'record.read') !== 'none',
      reachOf(role, 'member.read') !== 'none',
    ]);
  }
  const [company, account] = [false, true].map(
    (alone) => sectionsOf({ role: 'owner', alone }).find(({ href }) => href === '/company')!.word,
  );
  expect(company).not.toBe(account);
  const letters = sectionsOf({ role: 'owner', alone: false }).map(({ letter }) => letter);
  expect(new Set(letters).size).toBe(letters.length);
});

test('a language is taken by its name in English, its own name or its tag (BCP 47), and a slip is none', () => {
  expect(['German', 'deutsch', 'DE', ' العربية ', 'zh-hant', 'de-AT', 'Polnisch', 'xx', ''].map(languageTyped)).toEqual(
    ['de', 'de', 'de', 'ar', 'zh-Hant', 'de-AT', null, null, null],
  );
  for (const { tag, english } of LANGUAGE_LIST) expect([tag, languageTyped(english)]).toEqual([tag, tag]);
});
