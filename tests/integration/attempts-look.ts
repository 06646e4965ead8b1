import { NO_HOUSE } from '@/core/house';
import { FIRST_LOOK } from '@/core/look';
import { faceOfDraft, faceOfRecord, pictureOfDraft } from '@/server/services/media/card-faces';
import { cardBeside, cardsBeside, faceUnderHouse } from '@/server/services/house/house-cards';
import { previewHouse, readHouseProofs } from '@/server/services/house/house-proofs';
import { houseToEdit, readHouse, readHouseVersion, saveHouse } from '@/server/services/house/house-style';
import { coloursOfPicture, keepLook, listLooks, removeLook } from '@/server/services/house/looks';
import type { Attempt } from './attempts';
import { clock, next } from './belongings';

/** Attempts at the services of look and house style. */
export const LOOK_ATTEMPTS: Record<string, Attempt> = {
  faceOfDraft: {
    action: 'card.read',
    of: true,
    run: (actor, { cardId }) => faceOfDraft(actor, cardId, 'card-lying', { layout: null, language: null }),
  },
  pictureOfDraft: {
    action: 'card.read',
    of: true,
    run: (actor, { cardId }) => pictureOfDraft(actor, cardId, 'link', 'jpeg', { layout: null, language: null }),
  },
  faceOfRecord: {
    action: 'card.create',
    of: true,
    run: (actor, { recordId }) =>
      faceOfRecord(actor, recordId, 'card-lying', { layout: 'cairn', start: null, isPrivate: false }),
  },
  readHouse: { action: 'house.read', run: (actor) => readHouse(actor) },
  houseToEdit: { action: 'house.write', run: (actor) => houseToEdit(actor) },
  readHouseVersion: {
    action: 'house.write',
    run: async (actor) => {
      const { number } = await readHouse(actor);
      if (number === 0) await saveHouse(actor, { baseNumber: 0, style: NO_HOUSE, note: '' }, clock);
      return readHouseVersion(actor, 1);
    },
  },
  saveHouse: {
    action: 'house.write',
    act: 'house.saved',
    run: async (actor) => {
      const { number } = await readHouse(actor);
      return saveHouse(actor, { baseNumber: number, style: NO_HOUSE, note: '' }, clock);
    },
  },
  cardsBeside: { action: 'house.write', run: (actor) => cardsBeside(actor) },
  cardBeside: { action: 'house.write', of: true, run: (actor, { cardId }) => cardBeside(actor, cardId) },
  faceUnderHouse: {
    action: 'house.write',
    of: true,
    run: (actor, { cardId }) => faceUnderHouse(actor, cardId, NO_HOUSE, 'card-lying', null),
  },
  readHouseProofs: { action: 'house.write', run: (actor) => readHouseProofs(actor) },
  previewHouse: { action: 'house.write', run: (actor) => previewHouse(actor, NO_HOUSE, clock) },
  listLooks: { action: 'look.keep', run: (actor) => listLooks(actor) },
  keepLook: {
    action: 'look.keep',
    act: 'look.kept',
    run: (actor) => keepLook(actor, { name: `Look ${next()}`, look: FIRST_LOOK }, clock),
  },
  removeLook: {
    action: 'look.keep',
    act: 'look.removed',
    run: async (actor) => {
      const { id } = await keepLook(actor, { name: `Look ${next()}`, look: FIRST_LOOK }, clock);
      return removeLook(actor, id, clock);
    },
  },
  coloursOfPicture: {
    action: 'picture.read',
    of: true,
    run: (actor, { picture }) => coloursOfPicture(actor, picture),
  },
};
