import { CompositionSchema, type Composition, type Draft } from '@/core/card';
import type { Problem } from '@/core/errors';
import type { Knex } from 'knex';
import type { Tx } from '../pool';

/** What happens to a card by itself. `publish_at` is null where nothing is to be published, `ends_at` where it does not end. */
export type PlanRow = {
  card_id: string;
  organisation_id: string;
  publish_at: Date | null;
  address: string;
  note: string;
  ends_at: Date | null;
  ends_with: 'resting' | 'retired' | null;
  planned_by: string;
  /** What goes out at that time, as it was shown, and the draft behind it; null of plans older than these columns. */
  composition: Composition | null;
  draft: Draft | null;
  problem: Problem | null;
  /** How often it failed for no reason of its own, and when it is tried again. */
  tries: number;
  retry_at: Date | null;
};

const read = (row: PlanRow | undefined): PlanRow | undefined =>
  row && { ...row, composition: row.composition && CompositionSchema.parse(row.composition) };

export const planOf = async (tx: Tx, cardId: string): Promise<PlanRow | undefined> =>
  read(await tx('plans').where({ card_id: cardId }).first());

/** Which of these cards are planned to go out later, as they were when that was planned. */
export const plannedCards = async (tx: Tx, cardIds: string[]): Promise<Set<string>> =>
  new Set(
    (
      await tx('plans').whereIn('card_id', cardIds).whereNotNull('publish_at').select<{ card_id: string }[]>('card_id')
    ).map(({ card_id }) => card_id),
  );

/** The plan, locked for who carries it out; undefined where another process does so already. */
export const planToCarryOut = async (tx: Tx, cardId: string): Promise<PlanRow | undefined> =>
  read(await tx('plans').where({ card_id: cardId }).forUpdate().skipLocked().first());

export const writePlan = (tx: Tx, row: PlanRow) =>
  tx('plans')
    .insert({
      ...row,
      problem: row.problem && JSON.stringify(row.problem),
      composition: row.composition && JSON.stringify(row.composition),
      draft: row.draft && JSON.stringify(row.draft),
    })
    .onConflict('card_id')
    .merge();

export const retryPlan = (tx: Tx, cardId: string, row: Pick<PlanRow, 'tries' | 'retry_at'>) =>
  tx('plans').where({ card_id: cardId }).update(row);

export const deletePlan = (tx: Tx, cardId: string) => tx('plans').where({ card_id: cardId }).delete();

/** Cards of whichever organisation whose plan is due at an instant. */
export const duePlans = async (db: Knex, at: Date): Promise<{ organisation_id: string; card_id: string }[]> =>
  (await db.raw('SELECT * FROM due_plans(?)', [at])).rows;
