import type { Tx } from '../pool';

/** A drawing of a card as recipients get it: `name` says which, `key` what it depends on. */
export type DrawingRow = { organisation_id: string; card_id: string; name: string; key: string; file: string };

export const drawingOf = async (tx: Tx, cardId: string, name: string): Promise<DrawingRow | undefined> =>
  tx('drawings').where({ card_id: cardId, name }).first();

/** Notes a drawing in place of the one of that name. */
export const keepDrawing = (tx: Tx, row: DrawingRow) =>
  tx('drawings').insert(row).onConflict(['card_id', 'name']).merge(['key', 'file']);
