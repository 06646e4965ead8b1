import { addressLine, addressOf, OFFICE_SLOTS, readOfficeLine, type HouseLine } from '@/core/house';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { moveToOffice, saveOffice } from '@/server/services/house/offices';
import { DEPOTS, VALLEYS, type DemoPerson } from './people';

/** The depots whose people take address and switchboard from them, so that a move of one is a single edit. */
export async function addDepots(actor: Actor): Promise<(person: DemoPerson, recordId: string) => Promise<void>> {
  const { country, timeZone: zone } = actor.organisation;
  const ids = new Map<string, string>();
  for (const [valley, hours] of Object.entries(DEPOTS)) {
    const { street, town, postcode, office } = VALLEYS[valley as DemoPerson['valley']];
    const said = { phone: office, hours, legal: 'Tarnhope Cableways Ltd, registered in England, no. 00000000' };
    const address = { ...addressOf(undefined), street, locality: town, postcode, country: 'United Kingdom' };
    const lines = OFFICE_SLOTS.flatMap((slot): HouseLine[] => {
      if (slot === 'address') return [addressLine(address, undefined)!];
      const read = readOfficeLine(slot, said[slot], { country, zone, before: undefined });
      return read.ok && read.value ? [read.value] : [];
    });
    const { id } = await saveOffice(actor, null, { base: 0, name: `${town} depot`, lines }, systemClock);
    ids.set(valley, id);
  }
  return async ({ valley }, recordId) => {
    const office = ids.get(valley);
    if (office) await moveToOffice(actor, office, [recordId], systemClock);
  };
}
