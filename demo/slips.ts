import { lineOf, PAGE_AND_FILE, type Channel } from '@/core/card';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';

/** Who ticked their own mobile in a hurry, and for what, by family name. */
const TICKED: Record<string, Channel[]> = {
  Quern: ['page', 'file', 'print'],
  Roebuck: ['page'],
  Sorrel: ['page', 'file', 'signature'],
};
/** Who typed theirs into words of the card. */
const TYPED: Record<string, string> = { Elvaston: 'At weekends ring 07700 900111' };

/** What of people's own numbers got onto cards without anybody wanting it, as it happens in any company. */
export async function letSlip(actor: Actor, cardId: string, family: string): Promise<void> {
  const ticked = TICKED[family] ?? [];
  const typed = TYPED[family];
  if (ticked.length === 0 && !typed) return;
  const { version, audience, record, ...card } = await openCard(actor, cardId);
  const own = new Set(
    record.details.filter((each) => each.kind === 'phone' && each.uses.includes('home')).map(({ id }) => id),
  );
  const ticks = Object.fromEntries(ticked.map((channel) => [channel, true]));
  const lines = card.lines.map((line) =>
    own.has(line.detail) ? { ...line, ticks: { ...line.ticks, ...ticks } } : line,
  );
  const words = { kind: 'own' as const, id: 'weekends', label: 'Weekends', preferred: false, text: typed ?? '' };
  if (typed) lines.push(lineOf('weekends', PAGE_AND_FILE, words));
  await saveCard(actor, cardId, { baseVersion: version, lines, audience }, systemClock);
}
