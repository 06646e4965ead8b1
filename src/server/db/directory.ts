import type { Knex } from 'knex';

/** Where a public address or code leads, known before the tenant is. */
export type DirectoryEntry = { card_id: string; organisation_id: string; version: number; hand_out_id: string | null };

export const byAddress = async (db: Knex, name: string): Promise<DirectoryEntry | undefined> =>
  db('directory_addresses as a')
    .join('directory_cards as c', 'c.card_id', 'a.card_id')
    .where('a.name', name)
    .first('c.card_id', 'c.organisation_id', 'c.version', db.raw('NULL::uuid AS hand_out_id'));

export const byCode = async (db: Knex, code: string): Promise<DirectoryEntry | undefined> =>
  db('directory_codes as h')
    .join('directory_cards as c', 'c.card_id', 'h.card_id')
    .where('h.code', code)
    .first('c.card_id', 'c.organisation_id', 'c.version', 'h.hand_out_id');

export const directoryVersion = async (db: Knex, cardId: string): Promise<number | undefined> =>
  (await db('directory_cards').where({ card_id: cardId }).first('version'))?.version;

/** Enters a card into the directory, or counts its version up, so that every cache sees that it changed. */
export const touchCard = (db: Knex, cardId: string, organisationId: string) =>
  db('directory_cards')
    .insert({ card_id: cardId, organisation_id: organisationId })
    .onConflict('card_id')
    .merge({ version: db.raw('directory_cards.version + 1') });

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

export const addressOwner = async (
  db: Knex,
  name: string,
  skeleton: string,
): Promise<{ name: string; card_id: string } | undefined> =>
  db('directory_addresses')
    .where({ name })
    .orWhere({ skeleton })
    .orderByRaw('name = ? DESC', [name])
    .first('name', 'card_id');

/** Makes an address the card's current one; earlier ones keep leading to it. */
export async function setAddress(db: Knex, cardId: string, name: string, skeleton: string): Promise<void> {
  await db('directory_addresses').where({ card_id: cardId, is_current: true }).update({ is_current: false });
  const own = await db('directory_addresses').where({ card_id: cardId, name }).update({ is_current: true });
  if (own === 0) await db('directory_addresses').insert({ name, skeleton, card_id: cardId, is_current: true });
}

export const currentPrefix = async (db: Knex, organisationId: string): Promise<string | undefined> =>
  (await db('directory_prefixes').where({ organisation_id: organisationId, is_current: true }).first('prefix'))?.prefix;

/** Another organisation's prefix, of today or earlier, that an address would begin with. `start` is the address and a hyphen. */
export const otherPrefixOf = async (db: Knex, start: string, organisationId: string): Promise<string | undefined> =>
  (
    await db('directory_prefixes')
      .whereNot({ organisation_id: organisationId })
      .whereRaw(`starts_with(?, prefix || '-')`, [start])
      .first('prefix')
  )?.prefix;

/** Whether an address of another organisation begins with a prefix, or looks as if. */
export const otherAddressBeginsWith = async (
  db: Knex,
  prefix: string,
  skeleton: string,
  organisationId: string,
): Promise<boolean> =>
  (await db('directory_addresses as a')
    .join('directory_cards as c', 'c.card_id', 'a.card_id')
    .whereNot('c.organisation_id', organisationId)
    .whereRaw(`(starts_with(a.name || '-', ?) OR starts_with(a.skeleton || '-', ?))`, [`${prefix}-`, `${skeleton}-`])
    .first('a.name')) !== undefined;

/** Makes a prefix the organisation's current one, or leaves it with none; earlier ones stay its own. */
export async function setPrefix(db: Knex, organisationId: string, prefix: string | null): Promise<void> {
  await db('directory_prefixes')
    .where({ organisation_id: organisationId, is_current: true })
    .update({ is_current: false });
  if (!prefix) return;
  const own = await db('directory_prefixes')
    .where({ organisation_id: organisationId, prefix })
    .update({ is_current: true });
  if (own === 0) await db('directory_prefixes').insert({ prefix, organisation_id: organisationId, is_current: true });
}

export const insertCode = (db: Knex, code: string, cardId: string, handOutId: string) =>
  db('directory_codes').insert({ code, card_id: cardId, hand_out_id: handOutId });

/** A private address of a draft, by the hash of its secret. */
export const insertPreview = (
  db: Knex,
  row: { token_hash: Buffer; card_id: string; organisation_id: string; expires_at: Date },
) => db('directory_previews').insert(row);

export const previewBy = async (
  db: Knex,
  tokenHash: Buffer,
): Promise<{ card_id: string; organisation_id: string; expires_at: Date } | undefined> =>
  db('directory_previews').where({ token_hash: tokenHash }).first();

export const deletePreviewsOf = (db: Knex, cardId: string) =>
  db('directory_previews').where({ card_id: cardId }).delete();

/** Forgets previews that ended more than a week ago; until then their address says that they have. */
export const forgetEndedPreviews = (db: Knex, before: Date) =>
  db('directory_previews').where('expires_at', '<', before).delete();
