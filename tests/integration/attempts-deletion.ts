import { COMPANY_DEFAULTS } from '@/core/company';
import { inTenant, inTenantWithDeleted } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { readSettings, saveSettings } from '@/server/services/organisation/company-settings';
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
  countDeleted,
  listDeleted,
  whatStopsWithCard,
  whatStopsWithPerson,
} from '@/server/services/cards/deletion';
import { takeAlong } from '@/server/services/organisation/take-along';
import type { Attempt } from './attempts';
import { clock } from './belongings';

const set = (actor: Actor, table: 'cards' | 'records', id: string, deleted_at: Date | null) =>
  inTenantWithDeleted(actor.organisationId, (tx) => tx(table).where({ id }).update({ deleted_at }));
const AGO = new Date('2026-11-23T09:00:00Z');

/** Attempts at an organisation’s settings, and at deleting and bringing back; each leaves what there was, since the others go on with it. */
export const DELETION_ATTEMPTS: Record<string, Attempt> = {
  whatStopsWithCard: { action: 'card.delete', of: true, run: (actor, { cardId }) => whatStopsWithCard(actor, cardId) },
  whatStopsWithPerson: {
    action: 'record.delete',
    of: true,
    run: (actor, { recordId }) => whatStopsWithPerson(actor, recordId),
  },
  deleteCard: {
    action: 'card.delete',
    of: true,
    act: 'card.deleted',
    run: async (actor, { cardId }) => {
      await deleteCard(actor, cardId, clock);
      await set(actor, 'cards', cardId, null);
    },
  },
  deletePerson: {
    action: 'record.delete',
    of: true,
    act: 'record.deleted',
    run: async (actor, { recordId, cardId }) => {
      await deletePerson(actor, recordId, clock);
      await set(actor, 'records', recordId, null);
      await set(actor, 'cards', cardId, null);
    },
  },
  takeAlong: {
    action: 'organisation.export',
    act: 'organisation.exported',
    run: (actor) => takeAlong({ ...actor, confirmedAt: clock.now() }, clock),
  },
  countDeleted: { action: 'card.delete', run: (actor) => countDeleted(actor) },
  listDeleted: { action: 'card.delete', run: (actor) => listDeleted(actor) },
  bringBackCard: {
    action: 'card.delete',
    of: true,
    act: 'card.brought-back',
    run: async (actor, { cardId }) => {
      await set(actor, 'cards', cardId, AGO);
      await bringBackCard(actor, cardId, clock).finally(() => set(actor, 'cards', cardId, null));
    },
  },
  bringBackPerson: {
    action: 'record.delete',
    of: true,
    act: 'record.brought-back',
    run: async (actor, { recordId }) => {
      await set(actor, 'records', recordId, AGO);
      await bringBackPerson(actor, recordId, clock).finally(() => set(actor, 'records', recordId, null));
    },
  },
  deleteOrganisation: {
    action: 'organisation.delete',
    act: 'organisation.deleted',
    run: async (actor) => {
      await deleteOrganisation(actor, clock);
      await inTenant(actor.organisationId, (tx) => tx('organisations').update({ deleted_at: null }));
    },
  },
  bringBackOrganisation: {
    action: 'organisation.delete',
    act: 'organisation.brought-back',
    run: (actor) => bringBackOrganisation(actor, clock),
  },
  readSettings: { action: 'settings.write', run: (actor) => readSettings(actor) },
  saveSettings: {
    action: 'settings.write',
    act: 'settings.changed',
    run: (actor) => {
      const place = { country: 'GB', timeZone: 'Europe/London' };
      return saveSettings(actor, { name: 'Heath', ...place, links: {}, defaults: COMPANY_DEFAULTS }, clock);
    },
  },
  deleteOwnAccount: {
    action: 'account.delete',
    act: 'member.left',
    run: async (actor) => {
      await deleteOwnAccount(actor, clock);
      await inTenant(actor.organisationId, (tx) => tx('users').where({ id: actor.userId }).update({ left_at: null }));
    },
  },
};
