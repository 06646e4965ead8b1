import type { Action } from '@/core/access';
import { Refusal } from '@/core/errors';
import { card, type CardRow } from '@/server/db/cards/cards';
import { handOut, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import type { Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { authoriseFor } from '@/server/services/accounts/authorise';

/** A hand-out with the card that it is of. */
export type OwnHandOut = { row: HandOutRow; owner: CardRow };

/** A hand-out that the member may do this with. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function ownHandOut(tx: Tx, actor: Actor, id: string, action: Action): Promise<OwnHandOut> {
  const row = await handOut(tx, id);
  const owner = row && (await card(tx, row.card_id));
  if (!row || !owner) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, action, owner.record_id);
  return { row, owner };
}

/** A hand-out that is a code. Errors: as {@link ownHandOut}. */
export async function ownCode(tx: Tx, actor: Actor, id: string, action: Action): Promise<OwnHandOut> {
  const own = await ownHandOut(tx, actor, id, action);
  if (own.row.channel !== 'code') throw new Refusal({ code: 'NOT_FOUND' });
  return own;
}

/** Where a hand-out's code leads. */
export const linkOf = ({ organisation_id, code }: Pick<HandOutRow, 'organisation_id' | 'code'>): string =>
  `${publicUrlOf(organisation_id)}/h/${code}`;

/** A name for files, of plain letters; empty where a name has none. */
export const plainName = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase()
    .slice(0, 40);
