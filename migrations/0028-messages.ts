import type { Knex } from 'knex';

/** A card may be sent as a message: one hand-out a card and occasion, whose link tells what came of it. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN ('code', 'tag', 'signature', 'message'));
    CREATE UNIQUE INDEX message_of_card ON hand_outs (organisation_id, card_id, coalesce(occasion_id, '00000000-0000-0000-0000-000000000000'))
      WHERE channel = 'message';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP INDEX message_of_card;
    DELETE FROM hand_outs WHERE channel = 'message';
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN ('code', 'tag', 'signature'));
  `);
}
