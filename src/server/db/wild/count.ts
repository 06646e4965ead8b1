import type { Tx } from '../pool';
import { publicNow, STILL_OUT } from './public-now';

/** A value `k` of a copy of the card `o` is given out by neither the card nor the house style nor its person’s office any more. An own firm gives way to one that the house style shows. */
export const OLD = `k.source IN ('card', 'house')
  AND NOT EXISTS (SELECT FROM published_values h WHERE h.card_id IS NULL AND h.kind = k.kind AND h.value = k.value
    AND (h.office_id IS NULL OR h.office_id = (SELECT r.office_id FROM records r WHERE r.id = o.record_id)))
  AND (o.state = 'retired' OR NOT EXISTS (
    SELECT FROM published_values p WHERE p.card_id = o.id AND p.kind = k.kind AND p.value = k.value
      AND (p.kind <> 'organisation' OR NOT EXISTS (
        SELECT FROM published_values h WHERE h.card_id IS NULL AND h.kind = 'organisation' AND h.source = 'house'
          AND (h.locked OR NOT h.line = ANY (o.published_hides))))))`;

/** Which cards: these, that of a hand-out, or all of the organisation. */
export type CardsCounted = { cards: string[] } | { handOut: string } | 'all';

const among = (of: CardsCounted): [sql: string, bind: (string | string[])[]] =>
  of === 'all'
    ? ['true', []]
    : 'cards' in of
      ? ['id = ANY (?::uuid[])', [of.cards]]
      : ['id = (SELECT card_id FROM hand_outs WHERE id = ?)', [of.handOut]];

/**
 * Counts anew how many copies of cards are out of date and not dealt with, and whether any is at all: kept with the card, since every look at People asks
 * for it. After each act that changes what a card or the house style gives out, what copies there are, or what became of them. What copies of a card carry
 * is looked at value by value, however many carry it.
 */
export async function recountCopies(tx: Tx, of: CardsCounted): Promise<void> {
  const [within, bind] = among(of);
  await tx.raw(
    `WITH o AS MATERIALIZED (SELECT id, record_id, state, published_hides FROM cards WHERE ${within}),
     carried_by AS MATERIALIZED (
       SELECT DISTINCT c.card_id, k.kind, k.value, k.source FROM copies c JOIN o ON o.id = c.card_id JOIN carried k ON k.copy_id = c.id
     ), old AS MATERIALIZED (SELECT k.card_id, k.kind, k.value, k.source FROM carried_by k JOIN o ON o.id = k.card_id WHERE ${OLD}),
     counted AS (
       SELECT card_id, count(*) FILTER (WHERE unsettled)::int AS wild FROM (
         SELECT DISTINCT c.id, c.card_id, ${STILL_OUT} AS unsettled FROM old JOIN copies c ON c.card_id = old.card_id
         JOIN carried k ON k.copy_id = c.id AND k.kind = old.kind AND k.value = old.value AND k.source = old.source
         LEFT JOIN hand_outs h ON h.id = c.hand_out_id
       ) stale GROUP BY card_id
     )
     UPDATE cards SET wild = coalesce(n.wild, 0), stale = n.card_id IS NOT NULL FROM o LEFT JOIN counted n ON n.card_id = o.id
     WHERE cards.id = o.id AND (cards.wild, cards.stale) IS DISTINCT FROM (coalesce(n.wild, 0), n.card_id IS NOT NULL)`,
    bind,
  );
  // Nothing of the house style is private.
  if (of !== 'all') await recountExposed(tx, of);
}

/** Keeps with cards what kinds of private values of theirs are public in which forms, each as `kind/form`: the map counts by that. */
export async function recountExposed(tx: Tx, of: CardsCounted): Promise<void> {
  const [within, bind] = among(of);
  await tx.raw(
    `WITH o AS MATERIALIZED (SELECT id FROM cards WHERE ${within}),
     found AS (
       SELECT e.card_id, array_agg(DISTINCT e.privacy || '/' || e.channel) AS exposed
       FROM ${publicNow('v.privacy IS NOT NULL AND o.id IN (SELECT id FROM cards WHERE ' + within + ')')} e GROUP BY e.card_id
     )
     UPDATE cards SET exposed = coalesce(n.exposed, '{}') FROM o LEFT JOIN found n ON n.card_id = o.id
     WHERE cards.id = o.id AND cards.exposed IS DISTINCT FROM coalesce(n.exposed, '{}')`,
    [...bind, ...bind, ...bind],
  );
}
