import type { Knex } from 'knex';

/** Where a public address or code leads, known before the tenant is; a code that was made in advance leads to no card yet. */
export type DirectoryEntry = {
  card_id: string | null;
  organisation_id: string;
  version: number;
  hand_out_id: string | null;
};

const one = async <T>(found: Promise<{ rows: T[] }>): Promise<T | undefined> => (await found).rows[0];

export const byAddress = (db: Knex, name: string): Promise<DirectoryEntry | undefined> =>
  one(db.raw('SELECT * FROM find_address(?)', [name]));

export const byCode = (db: Knex, code: string): Promise<DirectoryEntry | undefined> =>
  one(db.raw('SELECT * FROM find_code(?)', [code]));

export const directoryVersion = async (db: Knex, cardId: string): Promise<number | undefined> =>
  (await one<{ version: number | null }>(db.raw('SELECT card_version(?) AS version', [cardId])))?.version ?? undefined;

/** Enters a card into the directory, or counts its version up, so that every cache sees that it changed. */
export const touchCard = (db: Knex, cardId: string, organisationId: string) =>
  publishInDirectory(db, [cardId], organisationId);

/** The same of several, from their first publishing on. */
export const publishInDirectory = (db: Knex, cardIds: string[], organisationId: string) =>
  db('directory_cards')
    .insert(cardIds.map((card_id) => ({ card_id, organisation_id: organisationId })))
    .onConflict('card_id')
    .merge({ version: db.raw('directory_cards.version + 1') });

/** Counts up these cards, of those that were ever public, and answers with how many there are. */
export const touchCards = (db: Knex, cardIds: string[]): Promise<number> =>
  db('directory_cards')
    .whereRaw('card_id = ANY (?::uuid[])', [cardIds])
    .update({ version: db.raw('version + 1') });

/** Counts up every card of an organisation, and answers with how many there are. */
export const touchAllCards = (db: Knex, organisationId: string): Promise<number> =>
  db('directory_cards')
    .where({ organisation_id: organisationId })
    .update({ version: db.raw('version + 1') });

export const currentAddress = async (db: Knex, cardId: string): Promise<string | undefined> =>
  (await db('directory_addresses').where({ card_id: cardId, is_current: true }).first('name'))?.name;

export const currentAddresses = async (db: Knex, cardIds: string[]): Promise<Map<string, string>> => {
  const rows: { card_id: string; name: string }[] = await db('directory_addresses')
    .whereIn('card_id', cardIds)
    .where({ is_current: true });
  return new Map(rows.map((row) => [row.card_id, row.name]));
};

/** Whose an address is, or one that looks the same; of whichever organisation. */
export const addressOwner = (
  db: Knex,
  name: string,
  skeleton: string,
): Promise<{ name: string; card_id: string } | undefined> =>
  one(db.raw('SELECT * FROM address_owner(?, ?)', [name, skeleton]));

export const countAddresses = async (db: Knex, cardId: string): Promise<number> =>
  Number(
    (await db('directory_addresses').where({ card_id: cardId }).count<{ count: string }[]>('* as count'))[0]!.count,
  );

/** Makes an address the card's current one; earlier ones keep leading to it. */
export async function setAddress(
  db: Knex,
  row: { organisation_id: string; card_id: string; name: string; skeleton: string },
): Promise<void> {
  const { card_id: cardId, name } = row;
  await db('directory_addresses').where({ card_id: cardId, is_current: true }).update({ is_current: false });
  const own = await db('directory_addresses').where({ card_id: cardId, name }).update({ is_current: true });
  if (own === 0) await db('directory_addresses').insert({ ...row, is_current: true });
}

export const currentPrefix = async (db: Knex, organisationId: string): Promise<string | undefined> =>
  (await db('directory_prefixes').where({ organisation_id: organisationId, is_current: true }).first('prefix'))?.prefix;

/** Another organisation's prefix, of today or earlier, that an address would begin with. `start` is the address and a hyphen. */
export const otherPrefixOf = async (db: Knex, start: string, organisationId: string): Promise<string | undefined> =>
  (await one<{ prefix: string | null }>(db.raw('SELECT other_prefix_of(?, ?) AS prefix', [start, organisationId])))
    ?.prefix ?? undefined;

export type PrefixRequestRow = { organisation_id: string; prefix: string; asked_by: string; asked_at: Date };

export const prefixRequest = async (tx: Knex): Promise<PrefixRequestRow | undefined> => tx('prefix_requests').first();

export const askForPrefix = (tx: Knex, row: PrefixRequestRow) =>
  tx('prefix_requests').insert(row).onConflict('organisation_id').merge();

export const withdrawPrefixRequest = (tx: Knex) => tx('prefix_requests').delete();

export const insertCode = (
  tx: Knex,
  row: { organisation_id: string; code: string; card_id: string; hand_out_id: string },
) => tx('directory_codes').insert(row);

/** Has a code lead to another card. */
export const moveCode = (tx: Knex, code: string, cardId: string) =>
  tx('directory_codes').where({ code }).update({ card_id: cardId });

/** A private address of a draft, by the hash of its secret. */
export const insertPreview = (
  db: Knex,
  row: { token_hash: Buffer; card_id: string; organisation_id: string; expires_at: Date },
) => db('directory_previews').insert(row);

export const previewBy = (
  db: Knex,
  tokenHash: Buffer,
): Promise<{ card_id: string; organisation_id: string; expires_at: Date } | undefined> =>
  one(db.raw('SELECT * FROM find_preview(?)', [tokenHash]));

export const deletePreviewsOf = (db: Knex, cardId: string) =>
  db('directory_previews').where({ card_id: cardId }).delete();

/** Forgets previews that ended more than a week ago; until then their address says that they have. */
export const forgetEndedPreviews = (db: Knex, before: Date) => db.raw('SELECT forget_ended_previews(?)', [before]);
