import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type APIRequestContext } from '@playwright/test';
import { reachOf, ROLES, type Role } from '../../../src/core/access';
import { FIRST_BACKDROP } from '../../../src/core/backdrop';
import { FIRST_PIECE } from '../../../src/core/print';
import { FIRST_SIGNATURE } from '../../../src/core/signature';
import { mailTo } from '../mails';
import { NEEDS } from './route-needs';
import { APPLICATION } from '../ports';

const ORIGIN = `http://127.0.0.1:${APPLICATION}`;
const FIRST = 'a first password of theirs';

/** Every route and page of the studio as it stands in the source, with the methods that it answers. */
function routesInSource(): { route: string; methods: string[] }[] {
  const root = 'src/app/(studio)';
  return readdirSync(root, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /^(route\.ts|page\.tsx)$/.test(entry.name))
    .map((entry) => {
      const file = path.join(entry.parentPath, entry.name);
      const methods = [...readFileSync(file, 'utf8').matchAll(/export const (GET|POST|PUT|DELETE) =/g)].map(
        (m) => m[1]!,
      );
      return {
        route: `/${path.relative(root, entry.parentPath)}`,
        methods: entry.name === 'page.tsx' ? ['PAGE'] : methods,
      };
    });
}

const NOBODYS = '00000000-0000-4000-8000-000000000000';
const CHANGE = { what: 'state', state: 'out', notice: '' };
const SIGNATURE = { ...FIRST_SIGNATURE, variant: 'message' };
/** Input that every schema takes as far as the service, which then says whether the role may. */
const INPUT = {
  token: 'x',
  agrees: true,
  to: 'x@heath.example',
  name: 'x',
  phone: '',
  email: 'not an address',
  baseVersion: 1,
  body: { name: {}, details: [] },
  lines: [],
  audience: 'x',
  recordId: NOBODYS,
  isPrivate: false,
  address: 'abc-def',
  cardId: NOBODYS,
  placement: 'x',
  place: '',
  firstDay: '2026-05-01',
  lastDay: '2026-05-01',
  occasionId: NOBODYS,
  role: 'analyst',
  ownRecord: null,
  password: 'long enough it is',
  present: 'x',
  required: false,
  code: '000000',
  verdict: 'new',
  take: true,
  next: 'long enough it is',
  audiences: null,
  state: 'resting',
  notice: '',
  instead: null,
  line: 'x',
  detail: 'x',
  details: ['x'],
  onCards: [NOBODYS],
  cards: [{ id: NOBODYS, version: 1 }],
  from: null,
  publishAt: null,
  note: '',
  endsAt: null,
  endsWith: null,
  prefix: 'abc-routes',
  country: 'GB',
  timeZone: 'Europe/London',
  links: {},
  look: {},
  style: {},
  card: NOBODYS,
  face: 'link',
  defaults: {},
  baseNumber: 0,
};
/** A crop names its picture by `from`, where a new card names what it starts from. */
const CROP = { from: 'f'.repeat(64), x: 0.5, y: 0.5, side: 1, turn: 0, focus: { x: 0.5, y: 0.5 } };
const OPTIONS = { complete: 'no', publish: 'drafts', privateToo: false, instead: null };
/** What routes take whose fields mean something else than those of the same name elsewhere. */
const INPUT_BY: [RegExp, object][] = [
  [/^\/api\/roster\/\[run\]\/crop$/, { name: 'x', crop: CROP }],
  [/^\/api\/roster\/\[run\]$/, OPTIONS],
  [/^\/api\/offices\/people$/, { office: NOBODYS, records: [NOBODYS] }],
  [/^\/api\/offices/, { base: 0, name: 'x', lines: [] }],
  [/\/\[team\]\/people$/, { records: [NOBODYS], into: true }],
  [
    /^\/api\/roster$/,
    {
      name: 'x',
      cardId: NOBODYS,
      columns: [{ heading: 'x', field: 'email' }],
      place: { sheet: 0, headingRow: 1 },
      options: OPTIONS,
      keepAs: null,
    },
  ],
  [/^\/api\/roster\/\[run\]\/rows$/, { rows: [2], field: 'family', find: null, text: 'x' }],
  [/\/crop$/, CROP],
  [/\/signature$/, SIGNATURE],
  [/\/print(\/|$)/, { ...FIRST_PIECE, printedOn: '2026-11-24', copies: 1, place: '' }],
  [/\/backdrop$/, FIRST_BACKDROP],
  [/\/designer$/, { days: 7 }],
  [/^\/api\/copies\//, { done: true }],
  [/\/tag$/, { room: 144, act: 'renew' }],
  [/^\/api\/privacy\//, { records: [NOBODYS], privacies: ['home'], act: 'take off' }],
  [/^\/api\/tags$/, { records: [NOBODYS], placement: 'x', what: 'card', tags: [NOBODYS] }],
  [/^\/api\/invitations/, { records: [NOBODYS] }],
  [/^\/api\/leads\/erase$/, { ids: [NOBODYS] }],
  [/^\/api\/changes/, { records: [NOBODYS], change: { of: 'codes' } }],
  [/\/pack$/, { records: [NOBODYS], kinds: ['code'], pattern: '{name}' }],
  [/\/teams\/[^/]+\/leaders$/, { leaders: [] }],
  [/\/print-together$/, { records: [NOBODYS], piece: FIRST_PIECE, placement: 'x', copies: 0 }],
  [/\/changes$/, CHANGE],
  [/\/passed$/, { way: 'file' }],
  [/\/profile$/, { parameters: '' }],
  [/^\/api\/spare-codes/, { count: 1, placement: 'x', cardId: NOBODYS, code: 'x' }],
  [/^\/api\/templates/, { name: 'x', body: 'x' }],
  [
    /^\/api\/hand-over\/replies$/,
    { card: NOBODYS, occasion: null, name: 'x', reach: 'x', note: '', at: '2026-11-24T09:00:00Z' },
  ],
  [/^\/api\/leads\/\[lead\]$/, { act: 'change', state: 'done' }],
  [/^\/api\/leads\/evening$/, { on: true }],
  [/^\/api\/leads/, { name: 'x', details: [] }],
  [/^\/api\/refer/, { name: 'x', details: [], baseVersion: 1, ticked: [] }],
];
const addressOf = (route: string) =>
  route
    .replace('[file]', 'code.svg')
    .replace('[as]', 'csv')
    .replace('[face]', 'card-lying.svg')
    .replace('[number]', '1')
    .replace('[hash]', 'f'.repeat(64))
    .replace(/\[\w+\]/g, NOBODYS);

async function ask(request: APIRequestContext, method: string, route: string, origin: string = ORIGIN) {
  const headers: Record<string, string> = method === 'GET' || method === 'PAGE' ? {} : { Origin: origin };
  const answer = await request.fetch(`${ORIGIN}${addressOf(route)}`, {
    method: method === 'PAGE' ? 'GET' : method,
    headers,
    maxRedirects: 0,
    ...(method === 'POST' || method === 'PUT'
      ? {
          data: INPUT_BY.find(([end]) => end.test(route))?.[1] ?? INPUT,
        }
      : {}),
  });
  const problem = /json/.test(answer.headers()['content-type'] ?? '') ? (await answer.json()).problem?.code : undefined;
  return { status: answer.status(), problem: problem as string | undefined, headers: answer.headers() };
}

const all = routesInSource().flatMap(({ route, methods }) =>
  methods.map((method) => ({ method, route, key: `${method} ${route}` })),
);

test('every route of the source stands in the table', () => {
  expect(all.length).toBeGreaterThan(25);
  expect(all.map(({ key }) => key).sort()).toEqual(Object.keys(NEEDS).sort());
});

test('signed out, nothing but the entry answers; from another site, nothing changes', async ({ playwright }) => {
  const nobody = await playwright.request.newContext();
  for (const { method, route, key } of all) {
    if (NEEDS[key] === 'open') continue;
    const answer = await ask(nobody, method, route);
    if (method === 'PAGE' || key === 'GET /hand-over') expect([key, answer.status]).toEqual([key, 307]);
    else expect([key, answer.problem]).toEqual([key, 'SIGNED_OUT']);
  }
  for (const { method, route, key } of all.filter(({ method: each }) => each !== 'GET' && each !== 'PAGE')) {
    const forged = await ask(nobody, method, route, 'https://evil.example');
    expect([key, forged.problem]).toEqual([key, 'CROSS_SITE']);
  }
});

test('every route as every role: refused where the role does not reach, and only there', async ({ playwright }) => {
  const owner = await playwright.request.newContext();
  const post = (who: APIRequestContext, route: string, data: object) =>
    who.post(`${ORIGIN}${route}`, { headers: { Origin: ORIGIN }, data });
  const email = (who: string) => `${who.replace(' ', '-')}-${Date.now()}@heath.example`;
  const own = {
    name: 'Maud Aldercott',
    email: email('owner'),
    password: FIRST,
    country: 'GB',
    timeZone: 'Europe/London',
  };
  expect((await post(owner, '/api/sign-up', own)).status()).toBe(200);
  const token = /\/confirm\/(\S+)/.exec((await mailTo(own.email, 'Confirm your address')).text)![1];
  expect((await post(owner, '/api/address/confirm', { token })).status()).toBe(200);
  const { recordId } = await (
    await post(owner, '/api/records', { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' })
  ).json();

  const as = new Map<Role, APIRequestContext>([['owner', owner]]);
  for (const role of ROLES.filter((each) => each !== 'owner')) {
    const member = { name: role, email: email(role), password: FIRST };
    expect(
      (await post(owner, '/api/members', { ...member, role, ownRecord: role === 'holder' ? recordId : null })).status(),
    ).toBe(200);
    const theirs = await playwright.request.newContext();
    expect((await post(theirs, '/api/sign-in', member)).status()).toBe(200);
    // Before the first password is changed, nothing else is allowed.
    expect((await ask(theirs, 'POST', '/api/records')).problem).toMatch(/PASSWORD_MUST_CHANGE|NOT_ALLOWED/);
    expect((await ask(theirs, 'PAGE', '/response')).headers.location).toContain('/password');
    expect((await post(theirs, '/api/password', { present: FIRST, next: 'one of my own now' })).status()).toBe(200);
    as.set(role, theirs);
  }
  for (const [role, request] of as)
    for (const { method, route, key } of all) {
      const needs = NEEDS[key];
      if (needs === 'open' || needs === null || needs === undefined) continue;
      const { status, problem, headers } = await ask(request, method, route);
      const none = reachOf(role, needs) === 'none';
      const what = `${role}: ${key}`;
      if (method === 'PAGE') expect([what, status === 404]).toEqual([what, none || route.includes('[')]);
      else if (none) expect([what, status, problem]).toEqual([what, 403, 'NOT_ALLOWED']);
      else expect([what, problem]).not.toEqual([what, 'NOT_ALLOWED']);
      if (status === 500) throw new Error(`${what} failed unexpectedly`);
      expect(headers['content-security-policy']).toContain("default-src 'none'");
      expect(headers['x-content-type-options']).toBe('nosniff');
    }
});
