import type { Knex } from 'knex';

const replaceForget = (alsoPlans: boolean) => `
  CREATE OR REPLACE FUNCTION forget_unnamed_files(before timestamptz) RETURNS TABLE (organisation_id uuid, code text)
  LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
  #variable_conflict use_column
  DECLARE one record;
  BEGIN
    FOR one IN SELECT o.id FROM public.organisations o LOOP
      BEGIN
        WITH texts AS (
          SELECT body::text AS t FROM public.records r WHERE r.organisation_id = one.id
          UNION ALL SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look) FROM public.cards c WHERE c.organisation_id = one.id
          UNION ALL SELECT concat(v.composition, v.draft) FROM public.revisions v WHERE v.organisation_id = one.id
          ${alsoPlans ? 'UNION ALL SELECT concat(p.composition, p.draft) FROM public.plans p WHERE p.organisation_id = one.id' : ''}
          UNION ALL SELECT h.style::text FROM public.house_styles h WHERE h.organisation_id = one.id
          UNION ALL SELECT l.look::text FROM public.looks l WHERE l.organisation_id = one.id
          UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id = one.id
        ), named AS MATERIALIZED (
          SELECT DISTINCT m[1] AS hash FROM texts, regexp_matches(t, '[0-9a-f]{64}', 'g') m
        ), pictures_gone AS (
          DELETE FROM public.pictures p WHERE p.organisation_id = one.id AND p.created_at < before
            AND NOT EXISTS (SELECT FROM named n WHERE n.hash = p.hash)
        )
        DELETE FROM public.films f WHERE f.organisation_id = one.id AND f.created_at < before
          AND NOT EXISTS (SELECT FROM named n WHERE n.hash = f.hash);
        DELETE FROM public.faults f WHERE f.organisation_id = one.id AND f.sweep = 'files';
      EXCEPTION WHEN OTHERS THEN
        INSERT INTO public.faults (organisation_id, sweep, code) VALUES (one.id, 'files', SQLSTATE)
          ON CONFLICT (organisation_id, sweep, subject)
          DO UPDATE SET count = faults.count + 1, last_at = now(), code = excluded.code;
        organisation_id := one.id;
        code := SQLSTATE;
        RETURN NEXT;
      END;
    END LOOP;
  END $$;`;

/** A plan keeps what was shown to whoever planned it; plans from before publish the draft as it stands at their time. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE plans ADD COLUMN composition jsonb, ADD COLUMN draft jsonb;
    ${replaceForget(true)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${replaceForget(false)}
    ALTER TABLE plans DROP COLUMN composition, DROP COLUMN draft;
  `);
}
