import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { asOwner } from '../../../commands/cluster/databases';
import { files } from '@/server/files';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { createRecord } from '@/server/services/records/create-record';
import {
  bringBackOrganisation,
  deleteOrganisation,
  deleteOwnAccount,
} from '@/server/services/organisation/delete-organisation';
import {
  bringBackCard,
  bringBackPerson,
  deleteCard,
  deletePerson,
  listDeleted,
  whatStopsWithPerson,
} from '@/server/services/cards/deletion';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { find } from '@/server/services/cards/find';
import { listPeople } from '@/server/services/records/list-people';
import { loadPublished } from '@/server/services/publishing/load-published';
import { addMember, listMembers } from '@/server/services/accounts/members';
import { openCard } from '@/server/services/cards/open-card';
import { loadPreview, makePreview } from '@/server/services/publishing/preview-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { recordEvent } from '@/server/intake/record-event';
import { actorOf, actorOfUser, beginSession } from '@/server/services/accounts/sessions';
import { sweep } from '@/server/services/jobs/sweeps';
import { takeAlong } from '@/server/services/organisation/take-along';
import { belongings, FIRST } from '../belongings';
import { clockAt, databaseUrl, newActor, useDatabase } from '../place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
beforeEach(() => clock.set('2026-11-24T09:00:00Z'));

const owner = <T extends object>(text: string, values: unknown[] = []) =>
  asOwner(databaseUrl, async (client) => (await client.query<T>(text, values)).rows);
const refused = (code: string) => ({ problem: { code } });
const fresh = (actor: Actor): Actor => ({ ...actor, confirmedAt: clock.now() });

/** Every table in which any of these words stands, read from the catalogue. */
async function tablesWith(words: string[]): Promise<string[]> {
  const tables = await owner<{ name: string }>(
    `SELECT quote_ident(schemaname) || '.' || quote_ident(tablename) AS name FROM pg_tables WHERE schemaname NOT IN ('pg_catalog', 'information_schema')`,
  );
  const found: string[] = [];
  for (const { name } of tables) {
    const rows = await owner(`SELECT FROM ${name} t WHERE t::text ILIKE ANY($1)`, [words.map((word) => `%${word}%`)]);
    if (rows.length > 0) found.push(name);
  }
  return found;
}

/** Every file of the store whose name or bytes hold any of these words. */
const filesWith = (words: string[]): string[] =>
  readdirSync(process.env.FILES_DIR!, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .filter((entry) => {
      const bytes = readFileSync(path.join(entry.parentPath, entry.name));
      return words.some((word) => entry.name.includes(word) || bytes.includes(word));
    })
    .map(({ name }) => name);

/** A person of whom something lies in every place that there is. */
async function somebody(actor: Actor, name: string, address: string) {
  const theirs = await belongings(actor, actor.userId);
  const { recordId, cardId } = theirs;
  const { body, version } = await openRecord(actor, recordId);
  await saveRecord(actor, recordId, version, { ...body, name: { ...body.name, given: name, written: '' } }, clock);
  await makePreview(actor, cardId, clock);
  const { version: base } = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: base, address }, clock);
  const { organisationId } = actor;
  await recordEvent({
    organisationId,
    cardId,
    handOutId: theirs.handOut,
    revision: 1,
    kind: 'save',
    line: null,
    visitor: null,
    at: clock.now(),
  });
  await sweep(['event inbox'], clock);
  await takeContactFile(actor, Buffer.from(`BEGIN:VCARD\nFN:${name}\nEND:VCARD\nBEGIN:VCARD\nFN:B\nEND:VCARD`), clock);
  return theirs;
}

test('a deleted card is gone at once, answers with a note, and comes back as it was', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await somebody(actor, 'Petronel', 'gone-at-once');
  const { url } = await makePreview(actor, cardId, clock);
  const before = await loadPublished({ address: 'gone-at-once' });
  expect(await whatStopsWithPerson(actor, recordId)).toMatchObject({
    cards: [{ id: cardId, addresses: ['gone-at-once', expect.stringMatching(/^ilse-roles/)], saves: 1 }],
  });
  await deleteCard(actor, cardId, clock);
  await expect(loadPublished({ address: 'gone-at-once' })).rejects.toMatchObject(refused('CARD_DELETED'));
  await expect(openCard(actor, cardId)).rejects.toMatchObject(refused('NOT_FOUND'));
  expect(await loadPreview(url.split('/').at(-1)!, clock)).toBeNull();
  expect((await find(actor, 'petronel')).map(({ kind }) => kind)).toEqual(['person']);
  expect(await listDeleted(actor)).toMatchObject([{ kind: 'card', id: cardId, erasedAt: '2026-12-24T09:00:00.000Z' }]);
  await expect(deleteCard(actor, cardId, clock)).rejects.toMatchObject(refused('NOT_FOUND'));

  await bringBackCard(actor, cardId, clock);
  const after = await loadPublished({ address: 'gone-at-once' });
  expect({ ...after, version: 0 }).toEqual({ ...before, version: 0 });
  expect(after!.version).toBeGreaterThan(before!.version);
  expect(await listDeleted(actor)).toEqual([]);
});

test('a person goes and comes back with the cards that they had; one deleted before stays deleted', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await somebody(actor, 'Petronel', 'goes-with-cards');
  const { cardId: other } = await createRecord(actor, { name: 'Somebody else', phone: '', email: '' }, clock);
  const [extra] = await inTenant(actor.organisationId, (tx) =>
    tx('cards').insert(
      {
        id: crypto.randomUUID(),
        organisation_id: actor.organisationId,
        record_id: recordId,
        audience: 'B',
        lines: '[]',
      },
      ['id'],
    ),
  );
  await deleteCard(actor, extra.id as string, clock);
  clock.set('2026-11-25T09:00:00Z');
  await deletePerson(actor, recordId, clock);
  expect((await listPeople(actor, {}, clock)).people.map(({ name }) => name)).toEqual(['Somebody else']);
  expect(await find(actor, 'petronel')).toEqual([]);
  // Of a card whose person is deleted nothing is offered by itself.
  expect(await listDeleted(actor)).toMatchObject([{ kind: 'record', id: recordId }]);
  await expect(bringBackCard(actor, extra.id as string, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await bringBackPerson(actor, recordId, clock);
  expect((await loadPublished({ address: 'goes-with-cards' }))?.cardId).toBe(cardId);
  expect(await listDeleted(actor)).toMatchObject([{ kind: 'card', id: extra.id }]);
  expect((await openCard(actor, other)).id).toBe(other);
});

test('after 30 days nothing of a person is in any table or file; their addresses and codes stay theirs', async () => {
  const actor = await newActor(clock);
  const name = 'Zephyrine';
  const { recordId, cardId, handOut, picture, film } = await somebody(actor, name, 'erased-whole');
  const [{ page_hash, file_hash }] = (await owner<{ page_hash: string; file_hash: string }>(
    'SELECT page_hash, file_hash FROM pictures WHERE hash = $1',
    [picture],
  )) as [{ page_hash: string; file_hash: string }];
  const [{ code }] = (await owner<{ code: string }>('SELECT code FROM hand_outs WHERE id = $1', [handOut])) as [
    { code: string },
  ];
  expect(await tablesWith([name])).toEqual(expect.arrayContaining(['public.records', 'public.revisions']));
  expect(filesWith([name, picture])).toHaveLength(2);
  await deletePerson(actor, recordId, clock);
  clock.set('2026-12-24T08:59:00Z');
  await sweep(['deleted'], clock);
  expect(await tablesWith([name])).toContain('public.records');
  clock.set('2026-12-24T09:01:00Z');
  await sweep(['deleted'], clock);
  const rest = [name, picture, page_hash, file_hash, film];
  expect(await tablesWith([name])).toEqual([]);
  // Ids of what was done, and the name of a picture is one.
  expect(await tablesWith(rest)).toEqual(['public.audit_trail']);
  expect(await Promise.all([picture, page_hash, file_hash].map((hash) => files().get(hash)))).toEqual([
    null,
    null,
    null,
  ]);
  expect(filesWith(rest)).toEqual([]);
  const kept = ['public.audit_trail', 'public.directory_addresses', 'public.directory_cards', 'public.directory_codes'];
  expect((await tablesWith([cardId])).sort()).toEqual(kept);
  expect(await tablesWith([recordId])).toEqual(['public.audit_trail']);
  for (const key of [{ address: 'erased-whole' }, { code }])
    await expect(loadPublished(key)).rejects.toMatchObject(refused('CARD_DELETED'));
  const next = await createRecord(actor, { name: 'Next', phone: '020 7946 0182', email: '' }, clock);
  await expect(
    publishCard(actor, next.cardId, { baseVersion: 1, address: 'erased-whole' }, clock),
  ).rejects.toMatchObject(refused('ADDRESS_TAKEN'));
  await expect(bringBackPerson(actor, recordId, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('a deleted organisation gives nothing out, signs everybody out and is brought back, or erased whole', async () => {
  const actor = fresh(await newActor(clock));
  const { cardId } = await somebody(actor, 'Melisande', 'firm-erased');
  const input = { name: 'Quillfeather', email: 'quill@heath.example', password: FIRST };
  const { id } = await addMember(actor, { ...input, role: 'analyst', ownRecord: null }, clock);
  const token = await beginSession({ id, organisation_id: actor.organisationId }, 'phone', clock);
  await expect(deleteOrganisation({ ...actor, confirmedAt: 0 }, clock)).rejects.toMatchObject(
    refused('PASSWORD_STALE'),
  );
  await deleteOrganisation(actor, clock);
  expect(await actorOf(token, clock)).toBeNull();
  await expect(loadPublished({ address: 'firm-erased' })).rejects.toMatchObject(refused('CARD_DELETED'));
  const now = fresh((await actorOfUser(actor.userId, actor.organisationId))!);
  await expect(openCard(now, cardId)).rejects.toMatchObject(refused('ORGANISATION_DELETED'));
  // What is theirs can still be taken along, and what nobody may sign in with is not in it.
  const { bytes } = await takeAlong(now, clock);
  const pieces: Uint8Array[] = [];
  for await (const piece of bytes) pieces.push(piece);
  const archive = Buffer.concat(pieces).toString('latin1');
  for (const told of [cardId, 'quill@heath.example', 'manifest.json']) expect(archive).toContain(told);
  expect(archive).not.toContain('$argon2id$');
  await bringBackOrganisation(now, clock);
  expect((await loadPublished({ address: 'firm-erased' }))?.cardId).toBe(cardId);

  await deleteOrganisation(actor, clock);
  clock.set('2026-12-25T09:00:00Z');
  await sweep(['deleted'], clock);
  expect(await tablesWith(['Melisande', 'Quillfeather', 'quill@heath', actor.email])).toEqual([]);
  expect(await owner('SELECT FROM audit_trail WHERE organisation_id = $1', [actor.organisationId])).not.toEqual([]);
  await expect(loadPublished({ address: 'firm-erased' })).rejects.toMatchObject(refused('CARD_DELETED'));
});

test('a member’s own account goes and is erased; the last owner must delete the organisation instead', async () => {
  const actor = fresh(await newActor(clock));
  await expect(deleteOwnAccount(actor, clock)).rejects.toMatchObject(refused('LAST_OWNER'));
  const input = { name: 'Leander Foxcombe', email: 'leander@heath.example', password: FIRST };
  const { id } = await addMember(actor, { ...input, role: 'analyst', ownRecord: null }, clock);
  await inTenant(actor.organisationId, (tx) => tx('users').where({ id }).update({ must_change_password: false }));
  await deleteOwnAccount(fresh((await actorOfUser(id, actor.organisationId))!), clock);
  expect(await actorOfUser(id, actor.organisationId)).toBeNull();
  clock.set('2026-12-25T09:00:00Z');
  await sweep(['deleted'], clock);
  expect(await tablesWith(['Foxcombe', 'leander@'])).toEqual([]);
  expect((await listMembers(actor, {}, clock)).members.map(({ id: each }) => each)).toEqual([actor.userId]);
});
