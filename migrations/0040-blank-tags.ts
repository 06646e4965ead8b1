import type { Knex } from 'knex';

/**
 * Codes that are made in advance are numbered, as they are told apart in a box, and may be tags; the number stays with the hand-out that one becomes
 * and is never given again. Tags of one placement are found together. What was passed on of a contact is known later.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE organisations ADD COLUMN last_number integer NOT NULL DEFAULT 0;
    ALTER TABLE spare_codes ADD COLUMN number integer,
      ADD COLUMN channel text NOT NULL DEFAULT 'code' CHECK (channel IN ('code', 'tag'));
    UPDATE spare_codes s SET number = n.number
      FROM (SELECT code, row_number() OVER (PARTITION BY organisation_id ORDER BY made_at, code) AS number FROM spare_codes) n
      WHERE n.code = s.code;
    UPDATE organisations o SET last_number = n.number
      FROM (SELECT organisation_id, max(number) AS number FROM spare_codes GROUP BY organisation_id) n WHERE n.organisation_id = o.id;
    ALTER TABLE spare_codes ALTER COLUMN number SET NOT NULL;
    CREATE UNIQUE INDEX spare_codes_number ON spare_codes (organisation_id, number);
    ALTER TABLE hand_outs ADD COLUMN number integer;
    CREATE UNIQUE INDEX hand_outs_number ON hand_outs (organisation_id, number) WHERE number IS NOT NULL;
    -- What went along with a contact that was passed on, value by value.
    ALTER TABLE referrals ADD COLUMN carried jsonb NOT NULL DEFAULT '[]';
    CREATE INDEX hand_outs_tags ON hand_outs (organisation_id, placement_id) WHERE channel = 'tag';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP INDEX hand_outs_tags;
    ALTER TABLE referrals DROP COLUMN carried;
    ALTER TABLE hand_outs DROP COLUMN number;
    ALTER TABLE spare_codes DROP COLUMN number, DROP COLUMN channel;
    ALTER TABLE organisations DROP COLUMN last_number;
  `);
}
