import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const FOUND = 'AFTER INSERT OR DELETE OR UPDATE OF';

/** A hand-out rests or is retired by itself, gets another placement, or opens another card; which ones it opened before is kept. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE hand_outs
      ADD COLUMN state text NOT NULL DEFAULT 'out' CHECK (state IN ('out', 'resting', 'retired')),
      ADD COLUMN notice text NOT NULL DEFAULT '' CHECK (length(notice) <= 1000),
      ADD CONSTRAINT hand_outs_own UNIQUE (organisation_id, id);
    GRANT UPDATE (placement, placement_id, occasion_id, state, notice, card_id) ON hand_outs TO ${APP};
    GRANT UPDATE (card_id) ON directory_codes TO ${APP};
    DROP TRIGGER find_made ON hand_outs;
    CREATE TRIGGER find_made ${FOUND} placement, card_id ON hand_outs FOR EACH ROW EXECUTE FUNCTION find_hand_out_again();
    CREATE TABLE hand_out_moves (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      organisation_id uuid NOT NULL,
      hand_out_id uuid NOT NULL,
      -- Cards that may be erased by now.
      from_card uuid NOT NULL,
      to_card uuid NOT NULL,
      at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX hand_out_moves_of_hand_out ON hand_out_moves (organisation_id, hand_out_id, at);
    ALTER TABLE hand_out_moves ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON hand_out_moves USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT ON hand_out_moves TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE hand_out_moves;
    DROP TRIGGER find_made ON hand_outs;
    CREATE TRIGGER find_made ${FOUND} placement ON hand_outs FOR EACH ROW EXECUTE FUNCTION find_hand_out_again();
    REVOKE UPDATE (card_id) ON directory_codes FROM ${APP};
    REVOKE UPDATE (placement, placement_id, occasion_id, state, notice, card_id) ON hand_outs FROM ${APP};
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_own, DROP COLUMN notice, DROP COLUMN state;
  `);
}
