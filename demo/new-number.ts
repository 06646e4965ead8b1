import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { signatureTaken } from '@/server/services/hand-outs/signature';
import { publishSeveral } from '@/server/services/publishing/publish-several';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';

/** Numbers of London that are reserved for drama (Ofcom). */
const [OLD_NUMBER, NEW_NUMBER] = ['+442079460182', '+442079460198'];

/** Somebody pastes their signature and then gets another number at work: what was printed, pasted, written and saved before carries the old one. */
export async function giveNewNumber(actor: Actor, recordId: string): Promise<void> {
  const { version, body, cards } = await openRecord(actor, recordId);
  for (const { id } of cards)
    for (const handOut of (await openCard(actor, id)).handOuts)
      if (handOut.channel === 'signature') await signatureTaken(actor, handOut.id, systemClock);
  const details = body.details.map((detail) =>
    detail.kind === 'phone' && detail.number === OLD_NUMBER ? { ...detail, number: NEW_NUMBER } : detail,
  );
  await saveRecord(actor, recordId, version, { ...body, details }, systemClock);
  const out = cards.filter(({ state }) => state === 'published');
  const versions = await Promise.all(out.map(async ({ id }) => ({ id, version: (await openCard(actor, id)).version })));
  await publishSeveral(actor, recordId, { cards: versions }, systemClock);
}
