import { composeToday, type Composition, type Draft } from '@/core/card';
import { orRefuse } from '@/core/errors';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import type { PersonRecord } from '@/core/record';
import type { CardRow } from '@/server/db/cards/cards';
import type { Tx } from '@/server/db/pool';
import { houseOf } from '@/server/services/house/house-style';

/**
 * A card as it would go out now: what it says itself, and as recipients get it, dressed by its house style. Errors: those of a wording
 * that cannot be read.
 */
export async function composeCard(
  tx: Tx,
  row: Pick<CardRow, 'record_id'> & Draft,
  body: PersonRecord,
  country: string,
): Promise<{ own: Composition; shown: Composition; house: { style: HouseStyle } | null }> {
  const own = orRefuse(composeToday(body, row, country));
  const house = await houseOf(tx, row);
  return { own, shown: applyHouseStyle(own, house?.style ?? null), house };
}
