import { readDetail } from '@/core/record';
import type { Actor } from '@/server/services/accounts/actor';
import {
  addContact,
  addContactFile,
  changeContact,
  listContacts,
  openContact,
  removeContact,
} from '@/server/services/contacts/contacts';
import { endLink, referByFile, referByLink, referByMail } from '@/server/services/contacts/refer';
import type { Attempt } from './attempts';
import { clock } from './belongings';

const action = 'contact.refer' as const;
const ONE = Buffer.from('BEGIN:VCARD\nVERSION:3.0\nFN:One\nEND:VCARD');
const email = readDetail('email', 'dell@hythe.example', { id: 'm', country: 'GB', uses: ['work'] });
const DELL = { name: 'Dell Hythe', details: email.ok ? [email.value] : [] };

/** A contact of the actor's own: nobody else's can be asked for. */
const mine = async (actor: Actor, run: (id: string) => Promise<unknown>) =>
  run((await addContact(actor, DELL, clock)).id);

/** Attempts at the services of contacts, who are the actor's own alone. */
export const CONTACT_ATTEMPTS: Record<string, Attempt> = {
  listContacts: { action, run: (actor) => listContacts(actor) },
  addContact: { action, act: 'contact.added', run: (actor) => addContact(actor, DELL, clock) },
  addContactFile: { action, act: 'contact.added', run: (actor) => addContactFile(actor, ONE, clock) },
  openContact: { action, run: (actor) => mine(actor, (id) => openContact(actor, id, clock)) },
  changeContact: {
    action,
    act: 'contact.changed',
    run: (actor) => mine(actor, (id) => changeContact(actor, id, { ...DELL, baseVersion: 1, ticked: ['m'] }, clock)),
  },
  removeContact: {
    action,
    act: 'contact.removed',
    run: (actor) => mine(actor, (id) => removeContact(actor, id, clock)),
  },
  referByFile: {
    action,
    act: 'contact.referred',
    run: (actor) => mine(actor, (id) => referByFile(actor, id, clock)),
  },
  referByMail: {
    action,
    // No mail leaves here: whoever gets as far as that was let in.
    run: (actor) =>
      mine(actor, (id) =>
        referByMail(actor, id, { to: 'x@heath.example', name: '', note: '', copyTo: null }, clock),
      ).catch((error: { problem?: { code: string } }) => {
        if (error.problem?.code !== 'MAIL_CLOSED') throw error;
      }),
  },
  referByLink: {
    action,
    act: 'contact.referred',
    run: (actor) => mine(actor, (id) => referByLink(actor, id, 7, clock)),
  },
  endLink: {
    action,
    act: 'contact.link-ended',
    run: (actor) =>
      mine(actor, async (id) => {
        await referByLink(actor, id, 7, clock);
        const [link] = (await openContact(actor, id, clock)).referrals;
        await endLink(actor, id, link!.id, clock);
      }),
  },
};
