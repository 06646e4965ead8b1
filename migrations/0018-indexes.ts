import type { Knex } from 'knex';

/**
 * One index led by the organisation for each table of theirs, since row-level security asks for it in every query; one behind each foreign
 * key, or removing what it points to reads the whole table; partial ones for what falls due. By name: table, columns, condition.
 */
const INDEXES: Record<string, [string, string, string?]> = {
  users_own_record_of: ['users', 'organisation_id, own_record'],
  sessions_of_user: ['sessions', 'organisation_id, user_id'],
  sessions_expire: ['sessions', 'expires_at'],
  known_devices_of_user: ['known_devices', 'organisation_id, user_id'],
  recovery_codes_of_user: ['recovery_codes', 'organisation_id, user_id'],
  pictures_by: ['pictures', 'organisation_id, added_by'],
  films_by: ['films', 'organisation_id, added_by'],
  cards_of_record: ['cards', 'organisation_id, record_id'],
  cards_instead: ['cards', 'organisation_id, instead', 'instead IS NOT NULL'],
  revisions_of_card: ['revisions', 'organisation_id, card_id, number'],
  revisions_by: ['revisions', 'organisation_id, published_by'],
  hand_outs_of_card: ['hand_outs', 'organisation_id, card_id'],
  plans_of_card: ['plans', 'organisation_id, card_id'],
  plans_by: ['plans', 'organisation_id, planned_by'],
  plans_begin: ['plans', 'publish_at', 'publish_at IS NOT NULL'],
  plans_end: ['plans', 'ends_at', 'ends_at IS NOT NULL'],
  house_styles_by: ['house_styles', 'organisation_id, saved_by'],
  looks_of_user: ['looks', 'organisation_id, user_id'],
  failing_proofs_of_card: ['failing_proofs', 'organisation_id, card_id'],
  directory_addresses_of_card: ['directory_addresses', 'organisation_id, card_id'],
  directory_codes_of_card: ['directory_codes', 'organisation_id, card_id'],
  directory_prefixes_of: ['directory_prefixes', 'organisation_id'],
  directory_previews_of_card: ['directory_previews', 'organisation_id, card_id'],
  directory_previews_expire: ['directory_previews', 'expires_at'],
  prefix_requests_by: ['prefix_requests', 'organisation_id, asked_by'],
  audit_trail_by: ['audit_trail', 'organisation_id, user_id'],
  jobs_by: ['jobs', 'organisation_id, user_id'],
  imports_by: ['imports', 'organisation_id, user_id'],
  imports_with_file: ['imports', 'created_at', 'file IS NOT NULL'],
  import_entries_of: ['import_entries', 'organisation_id, import_id'],
  import_entries_made: ['import_entries', 'organisation_id, record_id', 'record_id IS NOT NULL'],
  events_of: ['events', 'organisation_id, occurred_at'],
  rate_counts_end: ['rate_counts', 'ends_at'],
};

export const up = (knex: Knex): Promise<void> =>
  knex.raw(
    Object.entries(INDEXES)
      .map(
        ([name, [table, columns, where]]) =>
          `CREATE INDEX ${name} ON ${table} (${columns})${where ? ` WHERE ${where}` : ''};`,
      )
      .join('\n'),
  );

export const down = (knex: Knex): Promise<void> => knex.raw(`DROP INDEX ${Object.keys(INDEXES).join(', ')}`);
