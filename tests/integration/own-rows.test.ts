import sharp from 'sharp';
import { asOwner } from '../../commands/cluster/databases';
import { LIMITS } from '@/core/limits';
import { judge, summarise } from '@/core/response';
import { insertEvents, sortInbox } from '@/server/db/response/events';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { NOWHERE } from '@/core/card';
import type { Actor } from '@/server/services/accounts/actor';
import { createCard } from '@/server/services/cards/create-card';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { addPhoto } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { exportContacts } from '@/server/services/records/export-contacts';
import { keepLook } from '@/server/services/house/looks';
import { addMember, bringBackMember, removeMember } from '@/server/services/accounts/members';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { forgetUnnamedFiles } from '@/server/services/media/unnamed-files';
import { actorOfUser } from '@/server/services/accounts/sessions';
import { signIn } from '@/server/services/accounts/sign-in';
import { signUp } from '@/server/services/accounts/sign-up';
import { files } from '@/server/files';
import { FIRST_LOOK } from '@/core/look';
import { ask, refused } from './full-card';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const FIRST = 'a first password of theirs';
let shade = 0;
const pixels = () =>
  sharp({ create: { width: 64, height: 64, channels: 3, background: { r: (shade += 40), g: 9, b: 90 } } })
    .png()
    .toBuffer();
const person = (actor: Actor) => createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, clock);

test('every foreign key between rows of organisations carries the organisation', async () => {
  const { rows } = await outsideTenants((db) =>
    db.raw<{ rows: { name: string; carries: boolean }[] }>(
      `SELECT c.conrelid::regclass || '.' || c.conname AS name,
         EXISTS (SELECT FROM unnest(c.conkey) k JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = k WHERE a.attname = 'organisation_id') AS carries
       FROM pg_constraint c WHERE c.contype = 'f' AND c.connamespace = 'public'::regnamespace AND c.confrelid <> 'organisations'::regclass`,
    ),
  );
  expect(rows.length).toBeGreaterThan(15);
  expect(rows.filter(({ carries }) => !carries)).toEqual([]);
});

test('every table of organisations has an index led by them, and every foreign key one behind it', async () => {
  const { rows: tables } = await outsideTenants((db) =>
    db.raw<{ rows: { name: string }[] }>(
      `SELECT a.attrelid::regclass::text AS name FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid
       WHERE a.attname = 'organisation_id' AND c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace AND NOT EXISTS (
         SELECT FROM pg_index i WHERE i.indrelid = c.oid AND i.indkey[0] = a.attnum AND i.indpred IS NULL)`,
    ),
  );
  expect(tables).toEqual([]);
  const { rows: keys } = await outsideTenants((db) =>
    db.raw<{ rows: { name: string }[] }>(
      `SELECT c.conrelid::regclass || '.' || c.conname AS name FROM pg_constraint c
       WHERE c.contype = 'f' AND c.connamespace = 'public'::regnamespace AND NOT EXISTS (
         SELECT FROM pg_index i WHERE i.indrelid = c.conrelid AND (i.indkey::int2[])[0:cardinality(c.conkey) - 1] @> c.conkey
           AND (i.indpred IS NULL OR pg_get_expr(i.indpred, i.indrelid) ~ '^\\(\\w+ IS NOT NULL\\)$'))`,
    ),
  );
  expect(keys).toEqual([]);
});

test('two who lock the same rows in opposite orders both get through: the database takes one back, and it is done again', async () => {
  const actor = await newActor(clock);
  const [one, other] = [await person(actor), await person(actor)];
  let tries = 0;
  const both = (first: string, second: string) =>
    inTenant(actor.organisationId, async (tx) => {
      tries += 1;
      await tx('records').where({ id: first }).forUpdate();
      await new Promise((resolve) => setTimeout(resolve, 200));
      await tx('records').where({ id: second }).forUpdate();
      return first;
    });
  const done = await Promise.all([both(one.recordId, other.recordId), both(other.recordId, one.recordId)]);
  expect(done).toEqual([one.recordId, other.recordId]);
  expect(tries).toBe(3);
});

test('without a tenant the application can neither read nor write a row of anybody, whatever where it forgets', async () => {
  await newActor(clock);
  for (const table of [
    'users',
    'sessions',
    'directory_cards',
    'directory_addresses',
    'directory_codes',
    'directory_previews',
  ])
    expect([table, await outsideTenants((db) => db(table))]).toEqual([table, []]);
  const changed = (table: string, row: object) => outsideTenants((db) => db(table).update(row));
  expect(await changed('users', { name: 'Taken' })).toBe(0);
  expect(await changed('sessions', { expires_at: new Date() }).catch(() => 0)).toBe(0);
  expect(await changed('directory_addresses', { is_current: false })).toBe(0);
  for (const statement of [
    'DELETE FROM rate_counts',
    'SELECT * FROM event_inbox',
    `INSERT INTO event_inbox (id, events) VALUES (gen_random_uuid(), '[]')`,
    `INSERT INTO directory_prefixes VALUES ('x', gen_random_uuid(), true)`,
    'SELECT * FROM known_secrets',
  ])
    await expect(outsideTenants((db) => db.raw(statement))).rejects.toMatchObject({ code: '42501' });
});

test('the inbox takes events of cards that there are; what is no event is put aside and not counted', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'well-formed' }, clock);
  const event = {
    organisationId: actor.organisationId,
    cardId,
    handOutId: null,
    revision: 1,
    kind: 'view' as const,
    line: null,
    visitor: null,
    at: clock.now(),
  };
  expect((await insertEvents(crypto.randomUUID(), [event])).get(cardId)).toBe(1);
  const other = await newActor(clock);
  for (const wrong of [{ organisationId: other.organisationId }, { cardId: crypto.randomUUID() }])
    await expect(insertEvents(crypto.randomUUID(), [event, { ...event, ...wrong }])).rejects.toMatchObject({
      code: expect.stringMatching(/^2(2|3)/),
    });
  await outsideTenants(sortInbox);
  for (const wrong of [
    { kind: 'sale' as never },
    { visitor: 'nobody' },
    { line: 'x'.repeat(61) },
    { at: Number.NaN },
  ]) {
    await insertEvents(crypto.randomUUID(), [event, { ...event, ...wrong }]);
    expect(await outsideTenants(sortInbox)).toBe(1);
  }
  const counted = await inTenant(actor.organisationId, (tx) => tx('events').where({ card_id: cardId }));
  expect(counted).toHaveLength(1);
});

test('a mail address is not lost to its owner when they are removed somewhere', async () => {
  const owner = await newActor(clock);
  const member = { name: 'Keld', email: 'keld@heath.example', role: 'analyst' as const, ownRecord: null };
  const { id } = await addMember(owner, { ...member, password: FIRST }, clock);
  const account = { name: 'Keld', email: member.email, password: 'long enough a password', country: 'GB' };
  const own = () => signUp({ ...account, timeZone: 'Europe/London' }, clock);
  await expect(own()).rejects.toMatchObject(refused('EMAIL_IN_USE'));
  await removeMember(owner, id, clock);
  expect(await own()).toEqual(expect.any(String));
  // And now it is taken again.
  await expect(addMember(owner, { ...member, password: FIRST }, clock)).rejects.toMatchObject(refused('EMAIL_IN_USE'));
  await expect(bringBackMember(owner, id, FIRST, clock)).rejects.toMatchObject(refused('EMAIL_IN_USE'));
});

test('a member who was removed is taken back into their place, with a first password; not once they are erased', async () => {
  const owner = await newActor(clock);
  const { recordId } = await person(owner);
  const member = { name: 'Tam', email: 'tam@heath.example', role: 'holder' as const, ownRecord: recordId };
  const { id } = await addMember(owner, { ...member, password: 'their very own password' }, clock);
  await expect(bringBackMember(owner, id, FIRST, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await removeMember(owner, id, clock);
  await bringBackMember(owner, id, FIRST, clock);
  const back = await actorOfUser(id, owner.organisationId);
  expect(back).toMatchObject({ role: 'holder', ownRecord: recordId, mustChangePassword: true });
  const enter = (password: string) => signIn({ email: member.email, password, from: '192.0.2.1' }, clock);
  await expect(enter('their very own password')).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  expect((await enter(FIRST)).token).toEqual(expect.any(String));
  // Two at once bring back one.
  await removeMember(owner, id, clock);
  const both = await Promise.allSettled([1, 2].map(() => bringBackMember(owner, id, FIRST, clock)));
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  await removeMember(owner, id, clock);
  await inTenant(owner.organisationId, (tx) => tx('users').where({ id }).update({ name: '' }));
  await expect(bringBackMember(owner, id, FIRST, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('a card keeps a stated number of addresses, a person makes a stated number a day, and limits hold for many at once', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await person(actor);
  const take = (address: string, card = cardId) => publishCard(actor, card, { baseVersion: 1, address }, clock);
  for (let at = 0; at < LIMITS.addresses; at += 1) await take(`many-names-${at}`);
  await expect(take('one-too-many')).rejects.toMatchObject(refused('TOO_MANY_ADDRESSES'));
  // One that it has had leads to it for good.
  expect((await take('many-names-0')).address).toBe('many-names-0');
  const outcomes = await Promise.allSettled(
    Array.from({ length: 70 }, (_, at) => keepLook(actor, { name: `look ${at}`, look: FIRST_LOOK }, clock)),
  );
  expect(outcomes.filter(({ status }) => status === 'fulfilled')).toHaveLength(LIMITS.looks);
  await asOwner(databaseUrl, (client) =>
    client.query(
      `INSERT INTO cards SELECT (jsonb_populate_record(c, jsonb_build_object('id', gen_random_uuid()))).* FROM cards c, generate_series(1, $2) WHERE c.id = $1`,
      [cardId, LIMITS.cards - 2],
    ),
  );
  const cards = await Promise.allSettled(
    Array.from({ length: 5 }, () => createCard(actor, { recordId, audience: 'x', isPrivate: false }, clock)),
  );
  expect(cards.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
});

test('of two photos, one ticked for the page and one for the file, each leaves where it is ticked', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await person(actor);
  const [onPage, inFile] = [await addPhoto(actor, await pixels(), clock), await addPhoto(actor, await pixels(), clock)];
  const { body, version } = await openRecord(actor, recordId);
  const photo = (id: string, picture: string) => ({ kind: 'photo' as const, id, label: '', preferred: false, picture });
  const details = [...body.details, photo('p1', onPage.picture), photo('p2', inFile.picture)];
  await saveRecord(actor, recordId, version, { ...body, details }, clock);
  const { lines, version: base } = await openCard(actor, cardId);
  const ticked = lines.map((line) =>
    line.detail === 'p1'
      ? { ...line, ticks: { ...NOWHERE, page: true } }
      : line.detail === 'p2'
        ? { ...line, ticks: { ...NOWHERE, file: true } }
        : line,
  );
  await saveCard(actor, cardId, { baseVersion: base, lines: ticked, audience: 'x' }, clock);
  await publishCard(actor, cardId, { baseVersion: base + 1, address: 'two-photos' }, clock);
  const rows = await inTenant(actor.organisationId, (tx) => tx('pictures').select('hash', 'page_hash', 'file_hash'));
  const of = (hash: string) => rows.find((row: { hash: string }) => row.hash === hash) as Record<string, string>;
  const html = String((await ask('/c/two-photos')).body);
  expect(html).toContain(of(onPage.picture).page_hash);
  expect(html).not.toContain(of(inFile.picture).page_hash);
  for (const place of ['/c/two-photos.vcf?v=2.1', '/c/two-photos.vcf', '/c/two-photos.vcf?v=4.0']) {
    const file = String((await ask(place)).body).replace(/\r\n[ \t]/g, '');
    const base64 = async (hash: string) => (await files().get(of(hash).file_hash!))!.toString('base64');
    expect(file).toContain(await base64(inFile.picture));
    expect(file).not.toContain(await base64(onPage.picture));
  }
});

test('a holder names no picture of the organisation that they may not see, unless they have it themselves', async () => {
  const owner = await newActor(clock);
  const { recordId } = await person(owner);
  const bytes = await pixels();
  const { picture } = await addPhoto(owner, bytes, clock);
  const member = { name: 'Ilse', email: 'ilse-pictures@heath.example', role: 'holder' as const, ownRecord: recordId };
  const { id } = await addMember(owner, { ...member, password: FIRST }, clock);
  const holder: Actor = { ...owner, userId: id, role: 'holder', ownRecord: recordId };
  const { body, version } = await openRecord(holder, recordId);
  const photo = { kind: 'photo' as const, id: 'p', label: '', preferred: false, picture };
  const named = { ...body, details: [...body.details, photo] };
  await expect(saveRecord(holder, recordId, version, named, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  // The same file, given by themselves: nothing new is learnt by naming it.
  await addPhoto(holder, bytes, clock);
  expect(await saveRecord(holder, recordId, version, named, clock)).toEqual({ version: version + 1 });
});

test('a brand keeper does not export records, and takes along what cards give out', async () => {
  const owner = await newActor(clock);
  const { recordId, cardId } = await person(owner);
  const keeper: Actor = { ...owner, role: 'brand keeper' };
  for (const records of [[recordId], 'everybody' as const])
    await expect(exportContacts(keeper, { records, cards: [], version: '3.0' }, clock)).rejects.toMatchObject(
      refused('NOT_ALLOWED'),
    );
  expect((await exportContacts(keeper, { records: [], cards: [cardId], version: '3.0' }, clock)).count).toBe(1);
});

test('bytes beyond the quota are refused, and files that nothing names go after thirty days', async () => {
  const actor = await newActor(clock);
  const { recordId } = await person(actor);
  const [kept, unused] = [await addPhoto(actor, await pixels(), clock), await addPhoto(actor, await pixels(), clock)];
  const { body, version } = await openRecord(actor, recordId);
  const photo = { kind: 'photo' as const, id: 'p', label: '', preferred: false, picture: kept.picture };
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, photo] }, clock);
  // Two months from now neither was put lately.
  await asOwner(databaseUrl, (client) => client.query(`UPDATE pictures SET created_at = now()`));
  await forgetUnnamedFiles(Date.now());
  expect(await files().get(unused.picture)).not.toBeNull();
  await forgetUnnamedFiles(Date.now() + 61 * 86_400_000);
  expect(await files().get(unused.picture)).toBeNull();
  expect(await files().get(kept.picture)).not.toBeNull();
  await asOwner(databaseUrl, (client) =>
    client.query('UPDATE pictures SET bytes = $2 WHERE organisation_id = $1', [
      actor.organisationId,
      LIMITS.organisationBytes,
    ]),
  );
  await expect(addPhoto(actor, await pixels(), clock)).rejects.toMatchObject(refused('QUOTA_FULL'));
});

test('counted are navigations, and a tap on a line once a visit', () => {
  const facts = {
    method: 'GET',
    userAgent: 'Mozilla/5.0 (X11; rv:140.0) Gecko/20100101 Firefox/140.0',
    purpose: '',
    range: '',
  };
  // Fetch Metadata (W3C), Sec-Fetch-Dest: what an element of somebody else's page asks with.
  for (const destination of ['image', 'iframe', 'script', 'style', 'video', 'object', 'empty'])
    expect([destination, judge({ ...facts, destination, site: 'cross-site' })]).toEqual([destination, 'none']);
  for (const [destination, site] of [
    ['document', 'cross-site'],
    ['', ''],
    ['empty', 'same-origin'],
  ])
    expect(judge({ ...facts, destination, site })).toBe('person');
  const at = Date.parse('2026-11-24T09:00:00Z');
  const tap = (minute: number, line: string, visitor: string | null = 'a') => ({
    kind: 'tap' as const,
    card: 'c',
    handOut: null,
    visitor,
    line,
    at: at + minute * 60_000,
  });
  const events = [tap(0, 'phone'), tap(1, 'phone'), tap(2, 'mail'), tap(50, 'phone'), tap(51, 'phone', 'b')];
  const period = { first: '2026-11-24', last: '2026-11-24', timeZone: 'Europe/London' };
  expect(summarise(events, period).totals.taps).toBe(4);
});
