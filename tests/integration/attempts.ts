import sharp from 'sharp';
import { type Action, type Act } from '@/core/access';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { createCard } from '@/server/services/cards/create-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { cardNow, cardVersions, openCard } from '@/server/services/cards/open-card';
import { adoptWording } from '@/server/services/cards/adopt-wording';
import { audiencesToEdit, readAudiences, saveAudiences } from '@/server/services/organisation/audiences';
import { setState } from '@/server/services/cards/card-state';
import { makePreview } from '@/server/services/publishing/preview-card';
import { cardsBehind, publishSeveral } from '@/server/services/publishing/publish-several';
import type { Line } from '@/core/card';
import { addBlockPicture, addLogo, addPhoto, cropPhoto } from '@/server/services/media/add-picture';
import { markForWork, openRecord, saveRecord } from '@/server/services/records/edit-record';
import { addCaptions, addFilm, filmOf } from '@/server/services/media/films';
import { readStorage } from '@/server/services/organisation/quota';
import { askPrefix, readPrefix } from '@/server/services/publishing/address-prefix';
import { planCard } from '@/server/services/publishing/plans';
import { showOnCards } from '@/server/services/records/show-added';
import { listRevisions, openRevision } from '@/server/services/publishing/revisions';
import { tagBytes } from '@/server/services/hand-outs/tags';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { exportContacts } from '@/server/services/records/export-contacts';
import { importContact } from '@/server/services/imports/import-contact';
import {
  chooseContact,
  chooseContacts,
  openImport,
  takeImport,
  undoImport,
} from '@/server/services/imports/review-import';
import { readContactFile } from '@/core/vcard';
import { listFaults } from '@/server/services/jobs/faults';
import { cancelJob, listJobs, readJob } from '@/server/services/jobs/jobs';
import { listPeople, listPeopleIds, listPeopleNames } from '@/server/services/records/list-people';
import { changePassword } from '@/server/services/accounts/members';
import { readPicture } from '@/server/services/media/pictures';
import { publishCard } from '@/server/services/publishing/publish-card';
import { readAudit } from '@/server/services/accounts/read-audit';
import { readLastUses } from '@/server/services/response/last-uses';
import { readResponse } from '@/server/services/response/read-response';

import { CODE_ATTEMPTS } from './attempts-codes';
import { CONTACT_ATTEMPTS } from './attempts-contacts';
import { DELETION_ATTEMPTS } from './attempts-deletion';
import { LEAD_ATTEMPTS } from './attempts-leads';
import { LOOK_ATTEMPTS } from './attempts-look';
import { MEMBER_ATTEMPTS } from './attempts-members';
import { MANY_ATTEMPTS } from './attempts-many';
import { PRIVACY_ATTEMPTS } from './attempts-privacy';
import { ROSTER_ATTEMPTS } from './attempts-roster';
import { SIGN_IN_ATTEMPTS } from './attempts-sign-in';
import { clock, FILM, FIRST, next, TWO, type Belongings } from './belongings';

export type Attempt = {
  action: Action;
  /** Works on what belongs to somebody; without it there is no colleague's to try. */
  of?: boolean;
  act?: Act;
  run: (actor: Actor, target: Belongings) => Promise<unknown> | unknown;
};

/** An import of an actor's organisation in a state, with one contact in it. */
const importIn = (actor: Actor, id: string, state: string) =>
  inTenant(actor.organisationId, async (tx) => {
    const changed = await tx('imports').where({ id }).update({ state, job_id: null });
    const body = JSON.stringify({ name: { given: 'One' }, details: [], kept: [] });
    const row = { at: 0, line: 1, name: 'One', verdict: 'new', body, has_photo: false, take: true };
    if (changed)
      await tx('import_entries')
        .insert({ ...row, organisation_id: actor.organisationId, import_id: id })
        .onConflict(['import_id', 'at'])
        .ignore();
  });

/** Every service that acts for a member, by name. A new one that is not in here fails the first test. */
export const ATTEMPTS: Record<string, Attempt> = {
  createRecord: {
    action: 'record.create',
    act: 'record.made',
    run: (actor) => createRecord(actor, { name: 'New', phone: '', email: '' }, clock),
  },
  takeContactFile: {
    action: 'record.create',
    act: 'job.asked',
    run: async (actor) => {
      const taken = await takeContactFile(actor, TWO, clock);
      // There is an end to how many may wait.
      if ('job' in taken) await cancelJob(actor, taken.job, clock);
    },
  },
  importContact: {
    action: 'record.create',
    act: 'record.imported',
    run: (actor) => importContact(actor, readContactFile(String(TWO), 'GB').contacts[0]!, clock),
  },
  openImport: {
    action: 'record.create',
    of: true,
    run: (actor, target) => openImport(actor, target.import, { verdict: null, from: 0 }),
  },
  chooseContact: {
    action: 'record.create',
    of: true,
    run: async (actor, target) => {
      await importIn(actor, target.import, 'ready');
      await chooseContact(actor, target.import, 0, { take: true });
    },
  },
  chooseContacts: {
    action: 'record.create',
    of: true,
    run: async (actor, target) => {
      await importIn(actor, target.import, 'ready');
      await chooseContacts(actor, target.import, { verdict: 'new', take: true });
    },
  },
  takeImport: {
    action: 'record.create',
    of: true,
    act: 'job.asked',
    run: async (actor, target) => {
      await importIn(actor, target.import, 'ready');
      await takeImport(actor, target.import, clock);
    },
  },
  undoImport: {
    action: 'record.create',
    of: true,
    act: 'job.asked',
    run: async (actor, target) => {
      await importIn(actor, target.import, 'taken');
      await undoImport(actor, target.import, clock);
    },
  },
  exportContacts: {
    action: 'record.export',
    of: true,
    act: 'contacts.exported',
    run: async (actor, { recordId, cardId }) => {
      const choice = { records: [recordId], cards: [cardId], version: '3.0' as const };
      for await (const { text } of (await exportContacts(actor, choice, clock)).contacts)
        expect(text).toContain('FN:Ilse Varrow');
    },
  },
  openRecord: { action: 'record.read', of: true, run: (actor, { recordId }) => openRecord(actor, recordId) },
  saveRecord: {
    action: 'record.write',
    of: true,
    act: 'record.changed',
    run: async (actor, { recordId }) => {
      const [row] = await inTenant(actor.organisationId, (tx) => tx('records').where({ id: recordId }));
      const { version, body } = row ?? { version: 1, body: { name: { given: 'x' }, details: [], kept: [] } };
      return saveRecord(actor, recordId, version, body, clock);
    },
  },
  addPhoto: {
    action: 'record.write',
    act: 'photo.added',
    run: async (actor) =>
      addPhoto(
        actor,
        await sharp({ create: { width: 9, height: 9, channels: 3, background: '#111' } })
          .png()
          .toBuffer(),
        clock,
      ),
  },
  addBlockPicture: {
    action: 'card.write',
    act: 'photo.added',
    run: async (actor) =>
      addBlockPicture(
        actor,
        await sharp({ create: { width: 9, height: 5, channels: 3, background: '#111' } })
          .png()
          .toBuffer(),
        clock,
      ),
  },
  addFilm: { action: 'card.write', act: 'film.added', run: (actor) => addFilm(actor, FILM, clock) },
  addCaptions: {
    action: 'card.write',
    act: 'film.added',
    run: (actor) => addCaptions(actor, Buffer.from('WEBVTT\n\n00:01.000 --> 00:02.000\nUp'), clock),
  },
  filmOf: { action: 'picture.read', of: true, run: (actor, { film }) => filmOf(actor, film) },
  listRevisions: { action: 'card.read', of: true, run: (actor, { cardId }) => listRevisions(actor, cardId) },
  openRevision: { action: 'card.read', of: true, run: (actor, { cardId }) => openRevision(actor, cardId, 1) },
  planCard: {
    action: 'card.publish',
    of: true,
    act: 'card.planned',
    run: (actor, { cardId }) =>
      planCard(actor, cardId, { publishAt: null, address: '', note: '', endsAt: null, endsWith: null }, clock),
  },
  readPrefix: { action: 'addresses.write', run: (actor) => readPrefix(actor) },
  askPrefix: { action: 'addresses.write', act: 'prefix.asked', run: (actor) => askPrefix(actor, 'asked-for', clock) },
  readStorage: { action: 'storage.read', run: (actor) => readStorage(actor) },
  listPeopleIds: { action: 'record.read', run: (actor) => listPeopleIds(actor, '') },
  listPeople: { action: 'record.read', run: (actor) => listPeople(actor, {}, clock) },
  listPeopleNames: { action: 'record.read', run: (actor) => listPeopleNames(actor, '') },
  ...LEAD_ATTEMPTS,
  ...LOOK_ATTEMPTS,
  cardNow: { action: 'card.read', of: true, run: (actor, { cardId }) => cardNow(actor, cardId) },
  cardVersions: { action: 'card.read', of: true, run: (actor, { cardId }) => cardVersions(actor, cardId) },
  cardsBehind: { action: 'card.read', of: true, run: (actor, { recordId }) => cardsBehind(actor, recordId) },
  publishSeveral: {
    action: 'card.publish',
    of: true,
    act: 'card.published',
    run: async (actor, { recordId, cardId }) => {
      const [row] = await inTenant(actor.organisationId, (tx) => tx('cards').where({ id: cardId }));
      return publishSeveral(actor, recordId, { cards: [{ id: cardId, version: row?.version ?? 1 }] }, clock);
    },
  },
  setState: {
    action: 'card.publish',
    of: true,
    act: 'card.state-set',
    run: (actor, { cardId }) => setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock),
  },
  makePreview: {
    action: 'card.write',
    of: true,
    act: 'preview.made',
    run: (actor, { cardId }) => makePreview(actor, cardId, clock),
  },
  adoptWording: {
    action: 'record.write',
    of: true,
    act: 'wording.adopted',
    run: async (actor, { cardId }) => {
      const [row] = await inTenant(actor.organisationId, (tx) => tx('cards').where({ id: cardId }));
      const lines = (row?.lines ?? []) as Line[];
      const worded = lines.map((line) => (line.detail === 'name' ? { ...line, wording: 'Ilse Varrow' } : line));
      if (row)
        await inTenant(actor.organisationId, (tx) =>
          tx('cards')
            .where({ id: cardId })
            .update({ lines: JSON.stringify(worded) }),
        );
      return adoptWording(actor, cardId, { baseVersion: row?.version ?? 1, line: 'name' }, clock);
    },
  },
  markForWork: {
    action: 'record.write',
    of: true,
    act: 'record.changed',
    run: (actor, { recordId }) => markForWork(actor, recordId, 'd1', clock),
  },
  showOnCards: {
    action: 'card.write',
    of: true,
    act: 'card.changed',
    run: async (actor, { recordId, cardId }) => {
      await inTenant(actor.organisationId, async (tx) => {
        const [row] = await tx('cards').where({ id: cardId });
        const lines = ((row?.lines ?? []) as Line[]).filter(({ detail }) => detail !== 'p');
        await tx('cards')
          .where({ id: cardId })
          .update({ lines: JSON.stringify(lines) });
      });
      return showOnCards(actor, recordId, { details: ['p'], onCards: [cardId] }, clock);
    },
  },
  readAudiences: { action: 'card.read', run: (actor) => readAudiences(actor) },
  audiencesToEdit: { action: 'audiences.write', run: (actor) => audiencesToEdit(actor) },
  saveAudiences: {
    action: 'audiences.write',
    act: 'audiences.changed',
    run: (actor) => saveAudiences(actor, null, clock),
  },
  addLogo: {
    action: 'record.write',
    act: 'photo.added',
    run: (actor) =>
      addLogo(actor, Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), clock),
  },
  cropPhoto: {
    action: 'record.write',
    of: true,
    act: 'photo.added',
    run: (actor, { picture }) =>
      cropPhoto(actor, { from: picture, x: 0.5, y: 0.5, side: 1, turn: 0, focus: { x: 0.5, y: 0.5 } }, clock),
  },
  tagBytes: { action: 'hand-out.read', of: true, run: (actor, { tag }) => tagBytes(actor, tag) },
  openCard: { action: 'card.read', of: true, run: (actor, { cardId }) => openCard(actor, cardId) },
  saveCard: {
    action: 'card.write',
    of: true,
    act: 'card.changed',
    run: async (actor, { cardId }) => {
      const [row] = await inTenant(actor.organisationId, (tx) => tx('cards').where({ id: cardId }));
      return saveCard(
        actor,
        cardId,
        { baseVersion: row?.version ?? 1, lines: row?.lines ?? [], audience: 'Fair' },
        clock,
      );
    },
  },
  createCard: {
    action: 'card.create',
    of: true,
    act: 'card.made',
    run: (actor, { recordId }) => createCard(actor, { recordId, audience: 'Fair', isPrivate: false }, clock),
  },
  publishCard: {
    action: 'card.publish',
    of: true,
    act: 'card.published',
    run: async (actor, { cardId }) => {
      const [row] = await inTenant(actor.organisationId, (tx) => tx('cards').where({ id: cardId }));
      return publishCard(actor, cardId, { baseVersion: row?.version ?? 1, address: `roles-${next()}` }, clock);
    },
  },
  ...CODE_ATTEMPTS,
  ...CONTACT_ATTEMPTS,
  ...PRIVACY_ATTEMPTS,
  ...MANY_ATTEMPTS,
  ...ROSTER_ATTEMPTS,
  readPicture: { action: 'picture.read', of: true, run: (actor, { picture }) => readPicture(actor, picture) },
  readResponse: {
    action: 'response.read',
    of: true,
    run: (actor, { cardId }) => readResponse(actor, { cardId, days: 7 }, clock),
  },
  readLastUses: { action: 'response.read', of: true, run: (actor, { cardId }) => readLastUses(actor, cardId) },
  ...MEMBER_ATTEMPTS,
  changePassword: {
    action: 'password.change',
    act: 'password.changed',
    run: async (actor) => {
      const wrong = changePassword(
        actor,
        { present: 'not this one', next: 'long enough too', device: 'program' },
        clock,
      );
      await expect(wrong).rejects.toMatchObject({ problem: { code: 'PASSWORD_WRONG' } });
      await changePassword(actor, { present: FIRST, next: 'long enough too', device: 'program' }, clock);
      await changePassword(actor, { present: 'long enough too', next: FIRST, device: 'program' }, clock);
    },
  },
  ...SIGN_IN_ATTEMPTS,
  ...DELETION_ATTEMPTS,
  readAudit: {
    action: 'audit.read',
    run: (actor) => readAudit(actor, { act: null, userId: null, subjectId: null, before: null }),
  },
  listFaults: { action: 'fault.read', run: (actor) => listFaults(actor) },
  listJobs: { action: 'job.read', run: (actor) => listJobs(actor) },
  readJob: { action: 'job.read', of: true, run: (actor, { job }) => readJob(actor, job) },
  cancelJob: {
    action: 'job.read',
    of: true,
    act: 'job.cancelled',
    run: async (actor, { job }) => {
      await cancelJob(actor, job, clock);
      await inTenant(actor.organisationId, (tx) =>
        tx('jobs').where({ id: job }).update({ state: 'waiting', cancel_asked: false }),
      );
    },
  },
};
