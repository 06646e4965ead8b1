import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type APIRequestContext } from '@playwright/test';
import { reachOf, ROLES, type Action, type Role } from '../../src/core/access';
import { FIRST_BACKDROP } from '../../src/core/backdrop';
import { FIRST_PIECE } from '../../src/core/print';
import { FIRST_SIGNATURE } from '../../src/core/signature';
import { mailTo } from './mails';
import { APPLICATION } from './ports';

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

/** What each route needs a role to reach; null where everybody signed in may, and 'open' where nobody need be. */
const NEEDS: Record<string, Action | null | 'open'> = {
  'POST /api/sign-in': 'open',
  'POST /api/sign-up': 'open',
  'POST /api/sign-out': 'open',
  'POST /api/password/forgotten': 'open',
  'POST /api/password/replace': 'open',
  'POST /api/address/confirm': 'open',
  'POST /api/address/move': 'open',
  'POST /api/address': null,
  'POST /api/address/again': null,
  'PAGE /tray': null,
  'POST /api/records': 'record.create',
  'POST /api/records/import': 'record.create',
  'PUT /api/imports/[import]/entries/[at]': 'record.create',
  'PUT /api/imports/[import]/choices': 'record.create',
  'POST /api/imports/[import]/take': 'record.create',
  'POST /api/imports/[import]/undo': 'record.create',
  'GET /api/people': 'record.read',
  'GET /api/contacts': 'record.read',
  'POST /api/contacts': 'record.read',
  'PUT /api/records/[record]': 'record.write',
  'POST /api/photos': 'record.write',
  'POST /api/photos/crop': 'record.write',
  'POST /api/logos': 'record.write',
  'POST /api/block-pictures': 'card.write',
  'POST /api/films': 'card.write',
  'GET /api/films/[hash]': 'picture.read',
  'POST /api/captions': 'card.write',
  'GET /api/cards/[card]/revisions': 'card.read',
  'GET /api/cards/[card]/revisions/[number]': 'card.read',
  'PUT /api/cards/[card]/plan': 'card.publish',
  'PUT /api/addresses': 'addresses.write',
  'GET /api/records/[record]/publish': 'card.read',
  'POST /api/records/[record]/publish': 'card.publish',
  'POST /api/records/[record]/show': 'card.write',
  'POST /api/records/[record]/for-work': 'record.write',
  'GET /api/audiences': 'card.read',
  'PUT /api/audiences': 'audiences.write',
  'GET /api/cards/[card]': 'card.read',
  'GET /api/cards/[card]/live': 'card.read',
  'PUT /api/cards/[card]/state': 'card.publish',
  'POST /api/cards/[card]/preview': 'card.write',
  'POST /api/cards/[card]/adopt': 'record.write',
  'GET /api/pictures/[hash]': 'picture.read',
  'POST /api/cards': 'card.create',
  'PUT /api/cards/[card]': 'card.write',
  'PUT /api/company': 'settings.write',
  'PAGE /company/settings': 'settings.write',
  'DELETE /api/cards/[card]': 'card.delete',
  'GET /api/cards/[card]/deletion': 'card.delete',
  'POST /api/cards/[card]/back': 'card.delete',
  'DELETE /api/records/[record]': 'record.delete',
  'GET /api/records/[record]/deletion': 'record.delete',
  'POST /api/records/[record]/back': 'record.delete',
  // What they do would end the others; the services are tried as every role in the integration tests.
  'DELETE /api/organisation': null,
  'GET /api/organisation/archive': 'organisation.export',
  'DELETE /api/account': null,
  'POST /api/organisation/back': 'organisation.delete',
  'PAGE /people/deleted': 'card.delete',
  'GET /api/cards/[card]/faces/[face]': 'card.read',
  'GET /api/house': 'house.read',
  'PUT /api/house': 'house.write',
  'POST /api/house/preview': 'house.write',
  'GET /api/house/proofs': 'house.write',
  'GET /api/house/cards': 'house.write',
  'GET /api/house/cards/[card]': 'house.write',
  'POST /api/house/faces': 'house.write',
  'GET /api/house/[number]': 'house.write',
  'POST /api/looks': 'look.keep',
  'DELETE /api/looks/[look]': 'look.keep',
  'GET /api/pictures/[hash]/colours': 'picture.read',
  'GET /api/records/[record]/faces/[face]': 'card.create',
  'POST /api/cards/[card]/publish': 'card.publish',
  'POST /api/hand-outs': 'hand-out.make',
  'POST /api/hand-over': 'hand-out.make',
  'GET /hand-over': 'hand-out.read',
  'GET /hand-over/[file]': 'open',
  'PAGE /cards/[card]/hand-outs/[handOut]': 'card.read',
  'GET /api/hand-outs/[handOut]/[file]': 'hand-out.read',
  'PUT /api/hand-outs/[handOut]': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/test': 'hand-out.make',
  'PUT /api/hand-outs/[handOut]/changes': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/changes': 'hand-out.make',
  'POST /api/cards/[card]/message': 'hand-out.make',
  'POST /api/cards/[card]/message/draft': 'hand-out.make',
  'POST /api/cards/[card]/share': 'hand-out.make',
  'PUT /api/hand-outs/[handOut]/profile': 'hand-out.make',
  'POST /api/spare-codes': 'code.reserve',
  'PUT /api/spare-codes': 'hand-out.make',
  'PAGE /company/codes': 'code.reserve',
  'GET /api/templates': 'hand-out.make',
  'POST /api/templates': 'hand-out.make',
  'DELETE /api/templates/[template]': 'hand-out.make',
  'GET /api/hand-outs/[handOut]/print': 'hand-out.read',
  'PUT /api/hand-outs/[handOut]/print': 'hand-out.make',
  'POST /api/print-together': 'hand-out.make',
  'GET /api/jobs/[job]/file': 'job.read',
  'POST /api/hand-outs/[handOut]/artwork': 'hand-out.make',
  'DELETE /api/hand-outs/[handOut]/artwork': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/designer': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/taken': 'hand-out.read',
  'POST /api/hand-outs/[handOut]/shared': 'hand-out.make',
  'GET /api/hand-outs/[handOut]/tag': 'hand-out.read',
  'PUT /api/hand-outs/[handOut]/tag': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/tag': 'hand-out.make',
  'GET /api/copies': 'hand-out.read',
  'PUT /api/copies/[copy]': 'hand-out.make',
  'GET /api/records/[record]/copies': 'record.read',
  'PAGE /copies': 'hand-out.read',
  'DELETE /api/hand-outs/[handOut]/designer/[link]': 'hand-out.make',
  'GET /api/hand-outs/[handOut]/backdrop': 'hand-out.read',
  'PUT /api/hand-outs/[handOut]/backdrop': 'hand-out.make',
  'GET /api/hand-outs/[handOut]/pass': 'hand-out.read',
  'POST /api/hand-outs/[handOut]/pass': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/print': 'hand-out.make',
  'PUT /api/hand-outs/[handOut]/print/[run]': 'hand-out.make',
  'DELETE /api/hand-outs/[handOut]/print/[run]': 'hand-out.make',
  'GET /api/hand-outs/[handOut]/signature': 'hand-out.read',
  'PUT /api/hand-outs/[handOut]/signature': 'hand-out.make',
  'POST /api/hand-outs/[handOut]/signature': 'hand-out.make',
  'POST /api/refer': 'contact.refer',
  'POST /api/refer/file': 'contact.refer',
  'GET /api/refer/[contact]': 'contact.refer',
  'PUT /api/refer/[contact]': 'contact.refer',
  'DELETE /api/refer/[contact]': 'contact.refer',
  'POST /api/refer/[contact]/passed': 'contact.refer',
  'DELETE /api/refer/[contact]/links/[referral]': 'contact.refer',
  'PAGE /refer': 'contact.refer',
  'PAGE /refer/[contact]': 'contact.refer',
  'GET /api/occasions': 'hand-out.read',
  'POST /api/occasions': 'hand-out.make',
  'PUT /api/occasions/[occasion]': 'hand-out.make',
  'DELETE /api/occasions/[occasion]': 'hand-out.make',
  'GET /api/placements': 'hand-out.read',
  'POST /api/designs': 'hand-out.read',
  'GET /api/pictures/[hash]/mark': 'picture.read',
  'POST /api/members': 'member.manage',
  'PUT /api/members/[member]': 'member.manage',
  'DELETE /api/members/[member]': 'member.manage',
  'POST /api/members/[member]/password': 'member.manage',
  'POST /api/members/[member]/back': 'member.manage',
  'POST /api/password': null,
  'GET /api/confirm': null,
  'POST /api/confirm': null,
  'DELETE /api/sessions': null,
  'DELETE /api/sessions/[session]': null,
  'POST /api/second-factor': null,
  'PUT /api/second-factor': null,
  'DELETE /api/second-factor': null,
  'PUT /api/second-factor/required': 'second-factor.require',
  'DELETE /api/members/[member]/second-factor': 'member.manage',
  'GET /api/jobs/[job]': 'job.read',
  'GET /api/jobs/[job]/progress': 'job.read',
  'POST /api/jobs/[job]/cancel': 'job.read',
  'POST /api/jobs/[job]/undo': 'privacy.read',
  'GET /api/privacy': 'privacy.read',
  'POST /api/privacy/preview': 'privacy.read',
  'POST /api/privacy/mend': 'privacy.read',
  'PAGE /privacy': 'privacy.read',
  'PAGE /people/[record]/public': 'privacy.read',
  'GET /api/tags': 'hand-out.read',
  'POST /api/tags': 'hand-out.make',
  'PUT /api/tags': 'hand-out.make',
  'GET /api/tags/[placement]/[as]': 'hand-out.read',
  'PAGE /tags': 'hand-out.read',
  'POST /api/roster': 'roster.run',
  'POST /api/roster/columns': 'roster.run',
  'DELETE /api/roster/mappings/[mapping]': 'roster.run',
  'GET /api/roster/pattern/[card]': 'roster.run',
  'GET /api/roster/sheet/[card]': 'roster.run',
  'PUT /api/roster/[run]': 'roster.run',
  'DELETE /api/roster/[run]': 'roster.run',
  'PUT /api/roster/[run]/sheet': 'roster.run',
  'PUT /api/roster/[run]/rows': 'roster.run',
  'PUT /api/roster/[run]/rows/[at]': 'roster.run',
  'PUT /api/roster/[run]/choices': 'roster.run',
  'POST /api/roster/[run]/run': 'roster.run',
  'POST /api/roster/[run]/undo': 'roster.run',
  'GET /api/roster/[run]/pictures': 'roster.run',
  'PUT /api/roster/[run]/pictures': 'roster.run',
  'POST /api/roster/[run]/pictures': 'roster.run',
  'PUT /api/roster/[run]/crop': 'roster.run',
  'GET /api/roster/[run]/table/[as]': 'roster.run',
  'PAGE /roster': 'roster.run',
  'PAGE /roster/[run]': 'roster.run',
  'GET /api/go-to': null,
  'PAGE /people': 'record.read',
  'PAGE /people/[record]': 'record.read',
  'PAGE /imports/[import]': 'record.create',
  'PAGE /cards/[card]': 'card.read',
  'PAGE /cards/[card]/look': 'card.read',
  'PAGE /company/house-style': 'house.write',
  'PAGE /cards/[card]/hand-outs': 'card.read',
  'PAGE /cards/[card]/response': 'card.read',
  'PAGE /response': 'response.read',
  'PAGE /company': null,
  'PAGE /company/members': 'member.read',
  'PAGE /company/audit': 'audit.read',
  'PAGE /company/audiences': 'audiences.write',
  'PAGE /company/addresses': 'addresses.write',
  'PAGE /company/jobs': 'job.read',
  'PAGE /company/storage': 'storage.read',
  'PAGE /jobs/[job]': 'job.read',
};

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
  [/\/print-together$/, { records: [NOBODYS], piece: FIRST_PIECE, placement: 'x', copies: 0 }],
  [/\/changes$/, CHANGE],
  [/\/passed$/, { way: 'file' }],
  [/\/profile$/, { parameters: '' }],
  [/^\/api\/spare-codes/, { count: 1, placement: 'x', cardId: NOBODYS, code: 'x' }],
  [/^\/api\/templates/, { name: 'x', body: 'x' }],
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
  test.setTimeout(120_000);
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
