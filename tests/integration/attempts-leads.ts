import { randomUUID } from 'node:crypto';
import { readDetail } from '@/core/record';
import type { Actor } from '@/server/services/accounts/actor';
import { addLead, addLeadFile } from '@/server/services/replies/add-lead';
import { chooseEveningMail, eveningMail } from '@/server/services/replies/evening';
import { leadsAsContacts, leadsAsCsv, leadsAsWorkbook } from '@/server/services/replies/export-leads';
import { changeLead, nod, passLead, removeLead, removeLeads } from '@/server/services/replies/keep-lead';
import { ALL_LEADS, dueToday, leadTopics, listLeads, occasionToday } from '@/server/services/replies/list-leads';
import { compareLeads, mergeLeads, undoMerge } from '@/server/services/replies/merge-leads';
import { followUp, noteLead, removeFollowUp, removeNote } from '@/server/services/replies/notes';
import { heirs, openLead } from '@/server/services/replies/open-lead';
import { ownCards, sendCardTo } from '@/server/services/replies/send-card';
import { takeHanded } from '@/server/services/replies/take-handed';
import type { Attempt } from './attempts';
import { clock } from './belongings';

const action = 'lead.keep' as const;
const email = readDetail('email', 'dell@hythe.example', { id: 'm', country: 'GB' });
const DELL = { name: 'Dell Hythe', details: email.ok ? [email.value] : [], occasion: null };
const ONE = Buffer.from('BEGIN:VCARD\nVERSION:3.0\nFN:One\nEND:VCARD');
const NOTE = { entry: null, kind: 'note' as const, at: null, place: '', text: 'Met', private: false };
const TODO = { followUp: null, due: '2026-12-01', what: 'Write', done: false };
const ALL = { ids: 'all' as const, asked: ALL_LEADS };

/** A lead of the actor's own; those of others are tried in leads.test.ts. */
const mine = async (actor: Actor, run: (id: string) => Promise<unknown>) => run((await addLead(actor, DELL, clock)).id);
const two = (actor: Actor, run: (id: string, other: string) => Promise<unknown>) =>
  mine(actor, (id) => mine(actor, (other) => run(id, other)));
/** Whoever gets as far as that was let in. */
const unless = (code: string) => (error: { problem?: { code: string } }) => {
  if (error.problem?.code !== code) throw error;
};

/** Attempts at the services of leads. */
export const LEAD_ATTEMPTS: Record<string, Attempt> = {
  addLead: { action, act: 'lead.added', run: (actor) => addLead(actor, DELL, clock) },
  addLeadFile: { action, act: 'lead.added', run: (actor) => addLeadFile(actor, ONE, null, clock) },
  listLeads: { action, run: (actor) => listLeads(actor, ALL_LEADS, clock) },
  leadTopics: { action, run: (actor) => leadTopics(actor) },
  occasionToday: { action, run: (actor) => occasionToday(actor, randomUUID(), clock) },
  dueToday: { action, run: (actor) => dueToday(actor, clock) },
  openLead: { action, run: (actor) => mine(actor, (id) => openLead(actor, id)) },
  heirs: { action, run: (actor) => heirs(actor) },
  ownCards: { action, run: (actor) => ownCards(actor) },
  removeLeads: {
    action,
    act: 'lead.erased',
    run: (actor) => two(actor, (id, other) => removeLeads(actor, [id, other], clock)),
  },
  changeLead: {
    action,
    act: 'lead.changed',
    run: (actor) =>
      mine(actor, (id) => changeLead(actor, id, { state: 'done', topics: ['ropes'], private: false }, clock)),
  },
  noteLead: { action, act: 'lead.noted', run: (actor) => mine(actor, (id) => noteLead(actor, id, NOTE, clock)) },
  removeNote: {
    action,
    run: (actor) =>
      mine(actor, async (id) => {
        await noteLead(actor, id, NOTE, clock);
        await removeNote(actor, id, (await openLead(actor, id)).entries[0]!.id, clock);
      }),
  },
  followUp: { action, run: (actor) => mine(actor, (id) => followUp(actor, id, TODO, clock)) },
  removeFollowUp: {
    action,
    run: (actor) =>
      mine(actor, async (id) => {
        await followUp(actor, id, TODO, clock);
        await removeFollowUp(actor, id, (await openLead(actor, id)).followUps[0]!.id, clock);
      }),
  },
  compareLeads: { action, run: (actor) => two(actor, (id, other) => compareLeads(actor, id, other)) },
  mergeLeads: {
    action,
    act: 'lead.merged',
    run: (actor) => two(actor, (id, other) => mergeLeads(actor, id, { other, chosen: [] }, clock)),
  },
  undoMerge: {
    action,
    act: 'lead.merge-undone',
    run: (actor) =>
      two(actor, async (id, other) => {
        await mergeLeads(actor, id, { other, chosen: [] }, clock);
        await undoMerge(actor, id, (await openLead(actor, id)).merged!.id, clock);
      }),
  },
  passLead: {
    action,
    act: 'lead.handed-over',
    run: (actor) => mine(actor, async (id) => passLead(actor, id, (await heirs(actor))[0]!.id, clock)),
  },
  takeHanded: {
    action,
    run: (actor) =>
      takeHanded(
        actor,
        {
          card: randomUUID(),
          occasion: null,
          name: 'Dell',
          reach: 'dell@hythe.example',
          note: '',
          at: '2026-11-24T09:00:00Z',
        },
        clock,
      ).catch(unless('NOT_FOUND')),
  },
  eveningMail: { action, run: (actor) => eveningMail(actor) },
  chooseEveningMail: { action, run: (actor) => chooseEveningMail(actor, true) },
  nod: { action, run: (actor) => mine(actor, (id) => nod(actor, id, randomUUID(), clock).catch(unless('NOT_FOUND'))) },
  removeLead: { action, act: 'lead.erased', run: (actor) => mine(actor, (id) => removeLead(actor, id, clock)) },
  sendCardTo: {
    action: 'hand-out.make',
    // No mail leaves here.
    run: (actor) =>
      mine(actor, (id) => sendCardTo(actor, id, { card: randomUUID(), note: '' }, clock).catch(unless('MAIL_CLOSED'))),
  },
  leadsAsWorkbook: { action, act: 'lead.exported', run: (actor) => leadsAsWorkbook(actor, ALL, clock) },
  leadsAsCsv: {
    action,
    act: 'lead.exported',
    run: async (actor) => {
      for await (const part of leadsAsCsv(actor, ALL, clock)) if (part.length === 0) throw new Error('empty');
    },
  },
  leadsAsContacts: {
    action,
    act: 'lead.exported',
    run: async (actor) => {
      for await (const part of leadsAsContacts(actor, ALL, clock)) if (part.length === 0) throw new Error('empty');
    },
  },
};
