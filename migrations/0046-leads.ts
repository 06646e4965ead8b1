import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const PERSON = `nullif(current_setting('heathland.user', true), '')::uuid`;

const asOwner = (head: string, returns: string, body: string, how: 'STABLE' | 'VOLATILE' = 'VOLATILE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE plpgsql ${how} SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

/** What is private to somebody is there for nobody else, whatever role they have. */
const SEEN = `organisation_id = ${TENANT} AND (NOT private OR user_id = ${PERSON})`;
/** What hangs on a contact is there for whoever sees the contact. */
const OF_SEEN = (table: string) =>
  `organisation_id = ${TENANT} AND EXISTS (SELECT 1 FROM contacts c WHERE c.organisation_id = ${table}.organisation_id AND c.id = ${table}.contact_id)`;

const policy = (table: string, seen: string) => `
    ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (${seen}) WITH CHECK (${seen});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`;

const contactKey =
  'FOREIGN KEY (organisation_id, contact_id) REFERENCES contacts (organisation_id, id) ON DELETE CASCADE';

/** Mails of a reply say what it says: they go with it. */
const ERASE_MAILS = `DELETE FROM public.outbox o USING public.replies r WHERE o.id = ANY (r.mails) AND o.organisation_id = r.organisation_id`;

/** What hangs on a lead, by table. */
const HANGING = ['replies', 'lead_entries', 'follow_ups', 'referrals'];

const OF_ORGANISATION = [
  'DELETE FROM public.contacts WHERE organisation_id = wanted;',
  'DELETE FROM public.replies WHERE organisation_id = wanted; DELETE FROM public.contacts WHERE organisation_id = wanted;',
] as const;
/** Replies to somebody who is erased keep their links, which open the card; what was told goes. */
const OF_MEMBER = [
  'DELETE FROM public.contacts WHERE user_id = wanted;',
  `${ERASE_MAILS} AND r.user_id = wanted;
   UPDATE public.replies SET contact_id = NULL, user_id = NULL, told = NULL, consent = NULL, address = NULL, mails = '{}', content_hash = '', erased_at = now() WHERE user_id = wanted;
   DELETE FROM public.lead_entries WHERE user_id = wanted AND private;
   DELETE FROM public.contacts WHERE user_id = wanted;`,
] as const;
const back = ([from, to]: readonly [string, string]) => [to, from] as const;

/**
 * A lead extends the record of a contact: its state, how it came, what was noted and what is to follow. What is private is its owner's alone, of contacts
 * as of notes; what recipients and leavers do goes through functions of the owner.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE contacts
      ADD COLUMN private boolean NOT NULL DEFAULT true,
      -- Null of who was noted to be referred and is no lead.
      ADD COLUMN state text CHECK (state IN ('new', 'in touch', 'later', 'done', 'not wanted')),
      ADD COLUMN came_at timestamptz,
      ADD COLUMN came_by text CHECK (came_by IN ('reply', 'handed', 'typed', 'file')),
      ADD COLUMN last_at timestamptz,
      ADD COLUMN card_id uuid,
      ADD COLUMN hand_out_id uuid,
      ADD COLUMN occasion_id uuid,
      ADD COLUMN due_on date,
      ADD COLUMN topics text[] NOT NULL DEFAULT '{}',
      -- By what somebody is known again, and what is searched.
      ADD COLUMN marks text[] NOT NULL DEFAULT '{}',
      ADD COLUMN first_mark text GENERATED ALWAYS AS (marks[1]) STORED,
      ADD COLUMN words text NOT NULL DEFAULT '',
      ADD CONSTRAINT contacts_lead CHECK ((state IS NULL) = (came_at IS NULL) AND (state IS NULL) = (last_at IS NULL) AND (state IS NULL) = (came_by IS NULL)),
      ADD FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE SET NULL (card_id),
      ADD FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE SET NULL (hand_out_id),
      ADD FOREIGN KEY (organisation_id, occasion_id) REFERENCES occasions (organisation_id, id) ON DELETE SET NULL (occasion_id);
    UPDATE contacts SET marks = ARRAY(SELECT 'mail ' || lower(d->>'address') FROM jsonb_array_elements(body->'details') d WHERE d->>'kind' = 'email'),
      words = searched(written_name, (SELECT string_agg(d->>'address', ' ') FROM jsonb_array_elements(body->'details') d WHERE d->>'kind' = 'email'));
    CREATE INDEX leads_of_user ON contacts (organisation_id, user_id, last_at DESC, id DESC) WHERE state IS NOT NULL;
    CREATE INDEX leads_by_last ON contacts (organisation_id, last_at DESC, id DESC) WHERE state IS NOT NULL;
    CREATE INDEX leads_due ON contacts (organisation_id, user_id, due_on) WHERE due_on IS NOT NULL;
    CREATE INDEX leads_by_state ON contacts (organisation_id, user_id, state, last_at DESC, id DESC) WHERE state IS NOT NULL;
    CREATE INDEX leads_at ON contacts (organisation_id, occasion_id) WHERE occasion_id IS NOT NULL;
    CREATE INDEX leads_of_card ON contacts (organisation_id, card_id) WHERE card_id IS NOT NULL;
    CREATE INDEX leads_of_hand_out ON contacts (organisation_id, hand_out_id) WHERE hand_out_id IS NOT NULL;
    CREATE INDEX contacts_words ON contacts USING gin (organisation_id, words heathland_extensions.gin_trgm_ops);
    CREATE INDEX contacts_marks ON contacts USING gin (organisation_id, marks);
    -- Looked at by every reply.
    CREATE INDEX contacts_first_mark ON contacts (organisation_id, user_id, first_mark);
    DROP POLICY tenant ON contacts;
    ${policy('contacts', SEEN)}
    DROP POLICY tenant ON referrals;
    ${policy('referrals', OF_SEEN('referrals'))}

    -- What is told of a lead: notes, meetings and calls by hand; what came of itself has no author.
    CREATE TABLE lead_entries (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      contact_id uuid NOT NULL,
      user_id uuid,
      kind text NOT NULL CHECK (kind IN ('note', 'meeting', 'call', 'mail', 'text', 'sent', 'view', 'corrected', 'handed over', 'merged')),
      at timestamptz NOT NULL,
      place text NOT NULL DEFAULT '',
      text text NOT NULL DEFAULT '',
      private boolean NOT NULL DEFAULT false,
      ${contactKey},
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE SET NULL (user_id)
    );
    CREATE INDEX lead_entries_of ON lead_entries (organisation_id, contact_id, at DESC);
    CREATE INDEX lead_entries_by ON lead_entries (organisation_id, user_id) WHERE user_id IS NOT NULL;
    ${policy('lead_entries', `${OF_SEEN('lead_entries')} AND (NOT private OR user_id = ${PERSON})`)}

    CREATE TABLE follow_ups (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      contact_id uuid NOT NULL,
      due_on date NOT NULL,
      what text NOT NULL,
      done_at timestamptz,
      ${contactKey}
    );
    CREATE INDEX follow_ups_of ON follow_ups (organisation_id, contact_id, due_on);
    ${policy('follow_ups', OF_SEEN('follow_ups'))}

    -- On which evenings somebody was told who came, so that they are told once.
    ALTER TABLE users ADD COLUMN evening_mail boolean NOT NULL DEFAULT true;
    GRANT UPDATE (evening_mail) ON users TO ${APP};
    CREATE TABLE evenings (
      organisation_id uuid NOT NULL,
      user_id uuid NOT NULL,
      day date NOT NULL,
      PRIMARY KEY (user_id, day),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX evenings_of ON evenings (organisation_id, user_id);
    CREATE INDEX leads_came ON contacts (came_at) WHERE state IS NOT NULL;
    ${policy('evenings', `organisation_id = ${TENANT}`)}
    CREATE FUNCTION due_evenings(now_at timestamptz, hour integer) RETURNS TABLE (organisation_id uuid, user_id uuid, day date)
      LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT DISTINCT c.organisation_id, c.user_id, (now_at AT TIME ZONE o.time_zone)::date FROM public.contacts c
      JOIN public.organisations o ON o.id = c.organisation_id JOIN public.users u ON u.id = c.user_id
      WHERE c.state IS NOT NULL AND c.came_at BETWEEN now_at - interval '24 hours' AND now_at AND o.deleted_at IS NULL
        AND u.evening_mail AND u.left_at IS NULL AND u.email_confirmed_at IS NOT NULL
        AND CASE WHEN public.knows_time_zone(o.time_zone) THEN extract(hour FROM now_at AT TIME ZONE o.time_zone) >= hour
          AND (c.came_at AT TIME ZONE o.time_zone)::date = (now_at AT TIME ZONE o.time_zone)::date
          AND NOT EXISTS (SELECT 1 FROM public.evenings e WHERE e.user_id = c.user_id AND e.day = (now_at AT TIME ZONE o.time_zone)::date) ELSE false END
      LIMIT 500
    $$;
    REVOKE ALL ON FUNCTION due_evenings(timestamptz, integer) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION due_evenings(timestamptz, integer) TO ${APP};

    -- Two records that were found to be one person's, and what there was before, so that it can be undone.
    CREATE TABLE lead_merges (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      contact_id uuid NOT NULL,
      user_id uuid NOT NULL,
      private boolean NOT NULL,
      at timestamptz NOT NULL,
      before jsonb NOT NULL,
      ${contactKey},
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX lead_merges_of ON lead_merges (organisation_id, contact_id, at DESC);
    CREATE INDEX lead_merges_by ON lead_merges (organisation_id, user_id);
    ${policy('lead_merges', `${OF_SEEN('lead_merges')} AND (NOT private OR user_id = ${PERSON})`)}

    -- What a recipient sent, with the sentence that they agreed to. What is erased keeps its links, which go on opening the card.
    CREATE TABLE replies (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      contact_id uuid,
      user_id uuid,
      card_id uuid NOT NULL,
      hand_out_id uuid,
      at timestamptz NOT NULL,
      told jsonb,
      consent jsonb,
      -- The mail address among what was told.
      address text,
      content_hash bytea NOT NULL,
      page_hash bytea NOT NULL UNIQUE,
      mail_hash bytea UNIQUE,
      mails uuid[] NOT NULL DEFAULT '{}',
      -- Whether it made its contact: one that was there before is not a stranger's to change, who only typed its address.
      made_contact boolean NOT NULL DEFAULT false,
      -- Whether the address is the one that its link was mailed to.
      is_mailed boolean NOT NULL DEFAULT true,
      -- When its link was followed from a mail, and when its sender agreed that later views are told.
      followed_at timestamptz,
      views_agreed_at timestamptz,
      -- Why it waits for a nod, and when it got one.
      looks_wrong jsonb,
      nodded_at timestamptz,
      erased_at timestamptz,
      ${contactKey.replace('ON DELETE CASCADE', 'ON DELETE SET NULL (contact_id)')},
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE SET NULL (user_id),
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE SET NULL (hand_out_id)
    );
    -- What waits is read once or twice: packing it tightly costs more than it saves.
    ALTER TABLE outbox ALTER COLUMN message SET STORAGE EXTERNAL;
    CREATE INDEX replies_of ON replies (organisation_id, contact_id) WHERE contact_id IS NOT NULL;
    CREATE INDEX replies_to ON replies (organisation_id, user_id) WHERE user_id IS NOT NULL;
    CREATE INDEX replies_of_card ON replies (organisation_id, card_id, content_hash, at);
    CREATE INDEX replies_of_hand_out ON replies (organisation_id, hand_out_id) WHERE hand_out_id IS NOT NULL;
    ${policy('replies', OF_SEEN('replies'))}

    -- Everything that is told of somebody, wherever it lies; what they were sent keeps its link.
    CREATE FUNCTION erase_lead(tenant uuid, wanted uuid, now_at timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    BEGIN
      ${ERASE_MAILS} AND r.contact_id = wanted AND r.organisation_id = tenant;
      UPDATE public.replies SET contact_id = NULL, user_id = NULL, told = NULL, consent = NULL, address = NULL, mails = '{}', content_hash = '', looks_wrong = NULL,
        views_agreed_at = NULL, erased_at = now_at WHERE contact_id = wanted AND organisation_id = tenant;
      DELETE FROM public.contacts WHERE id = wanted AND organisation_id = tenant;
    END $$;
    REVOKE ALL ON FUNCTION erase_lead(uuid, uuid, timestamptz) FROM PUBLIC;
    ${asOwner(
      'erase_own_lead(wanted uuid, now_at timestamptz)',
      'void',
      `
      DECLARE tenant uuid := ${TENANT};
      BEGIN
        PERFORM 1 FROM public.contacts c WHERE c.id = wanted AND c.organisation_id = tenant AND (NOT c.private OR c.user_id = ${PERSON});
        IF FOUND THEN PERFORM public.erase_lead(tenant, wanted, now_at); END IF;
      END`,
    )}
    -- The ids of the leads that somebody asks for, the latest first; the rows are read by whoever asks.
    ${asOwner(
      'find_leads(asked jsonb)',
      'TABLE (id uuid)',
      `
      DECLARE tenant uuid := ${TENANT}; me uuid := ${PERSON};
      BEGIN
        IF tenant IS NULL THEN RETURN; END IF;
        RETURN QUERY EXECUTE 'SELECT c.id FROM public.contacts c WHERE c.organisation_id = $1 AND c.state IS NOT NULL AND (NOT c.private OR c.user_id = $2)'
          || CASE WHEN asked->'users' = 'null' THEN '' ELSE ' AND c.user_id = ANY (ARRAY(SELECT jsonb_array_elements_text($3->''users'')::uuid))' END
          || CASE WHEN asked->>'state' IS NULL THEN '' ELSE ' AND c.state = $3->>''state''' END
          || CASE WHEN asked->>'topic' IS NULL THEN '' ELSE ' AND $3->>''topic'' = ANY (c.topics)' END
          || CASE WHEN asked->>'occasion' IS NULL THEN '' ELSE ' AND c.occasion_id = ($3->>''occasion'')::uuid' END
          || CASE WHEN asked->>'due' IS NULL THEN '' ELSE ' AND c.due_on <= ($3->>''due'')::date' END
          || CASE WHEN asked->>'afterAt' IS NULL THEN '' ELSE ' AND (c.last_at, c.id) < (($3->>''afterAt'')::timestamptz, ($3->>''afterId'')::uuid)' END
          || CASE WHEN asked->'words' = '[]' THEN '' ELSE ' AND ' || replace(public.find_condition(ARRAY(SELECT jsonb_array_elements_text(asked->'words'))), 'f.words', 'c.words') END
          || ' ORDER BY c.last_at DESC, c.id DESC LIMIT ($3->>''most'')::integer'
          USING tenant, me, asked;
      END`,
      'STABLE',
    )}
    ${asOwner(
      'replies_waiting(wanted uuid)',
      'integer',
      `BEGIN RETURN (SELECT count(*)::integer FROM public.replies r WHERE r.organisation_id = ${TENANT} AND r.card_id = wanted AND r.looks_wrong IS NOT NULL
         AND r.nodded_at IS NULL); END`,
      'STABLE',
    )}
    -- Overlap of arrays is not leakproof, so that a policy would read every row.
    ${asOwner(
      'doubles_of_lead(wanted uuid, most integer, users uuid[])',
      'TABLE (id uuid, name text, private boolean)',
      `
      DECLARE tenant uuid := ${TENANT}; me uuid := ${PERSON}; hit text[];
      BEGIN
        SELECT c.marks INTO hit FROM public.contacts c WHERE c.id = wanted AND c.organisation_id = tenant AND (NOT c.private OR c.user_id = me);
        IF hit IS NULL OR hit = '{}' THEN RETURN; END IF;
        RETURN QUERY SELECT c.id, c.written_name, c.private FROM public.contacts c WHERE c.organisation_id = tenant AND c.marks && hit AND c.id <> wanted
          AND c.state IS NOT NULL AND (NOT c.private OR c.user_id = me) AND (users IS NULL OR c.user_id = ANY (users)) ORDER BY c.last_at DESC LIMIT most;
      END`,
      'STABLE',
    )}
    -- A leaver's shared leads go to somebody else; private ones stay closed until their account is erased, and go with it.
    ${asOwner(
      'pass_leads(leaver uuid, heir uuid)',
      'void',
      `
      DECLARE tenant uuid := ${TENANT};
      BEGIN
        PERFORM 1 FROM public.users u WHERE u.id = heir AND u.organisation_id = tenant AND u.left_at IS NULL;
        IF NOT FOUND OR heir = leaver THEN RETURN; END IF;
        UPDATE public.replies r SET user_id = heir FROM public.contacts c
          WHERE r.organisation_id = tenant AND c.id = r.contact_id AND c.user_id = leaver AND NOT c.private;
        UPDATE public.contacts SET user_id = heir WHERE organisation_id = tenant AND user_id = leaver AND NOT private;
      END`,
    )}
    -- A private lead becomes a colleague's, as its owner wishes.
    ${asOwner(
      'hand_over_lead(wanted uuid, heir uuid)',
      'boolean',
      `
      DECLARE tenant uuid := ${TENANT}; owned uuid;
      BEGIN
        PERFORM 1 FROM public.users u WHERE u.id = heir AND u.organisation_id = tenant AND u.left_at IS NULL AND u.role <> 'analyst';
        IF NOT FOUND THEN RETURN false; END IF;
        SELECT c.user_id INTO owned FROM public.contacts c WHERE c.id = wanted AND c.organisation_id = tenant;
        UPDATE public.contacts c SET user_id = heir WHERE c.id = wanted AND c.organisation_id = tenant AND (NOT c.private OR c.user_id = ${PERSON});
        IF NOT FOUND THEN RETURN false; END IF;
        UPDATE public.replies r SET user_id = heir WHERE r.contact_id = wanted AND r.organisation_id = tenant;
        DELETE FROM public.lead_entries e WHERE e.contact_id = wanted AND e.organisation_id = tenant AND e.private AND e.user_id <> heir
          AND e.user_id IN (owned, ${PERSON});
        RETURN true;
      END`,
    )}
    -- Hangs on one lead what hangs on another, what others keep private included, and tells what it was. What hangs on a private one is its authors' alone
    -- on one that is shared.
    ${asOwner(
      'merge_hanging(kept uuid, gone uuid)',
      'jsonb',
      `
      DECLARE tenant uuid := ${TENANT}; me uuid := ${PERSON}; seen integer; hide boolean; moved jsonb; hidden jsonb := '[]';
      BEGIN
        SELECT count(*), bool_or(c.id = gone AND c.private) AND bool_or(c.id = kept AND NOT c.private) INTO seen, hide
          FROM public.contacts c WHERE c.id IN (kept, gone) AND c.organisation_id = tenant AND (NOT c.private OR c.user_id = me);
        IF seen <> 2 THEN RAISE EXCEPTION 'a lead is not there to be merged' USING ERRCODE = 'no_data_found'; END IF;
        moved := jsonb_build_object(${HANGING.map((table) => `'${table}', '[]'::jsonb`).join(', ')});
        ${HANGING.map(
          (
            table,
          ) => `WITH m AS (UPDATE public.${table} SET contact_id = kept WHERE contact_id = gone AND organisation_id = tenant RETURNING id)
          SELECT moved || jsonb_build_object('${table}', coalesce(jsonb_agg(m.id), '[]')) INTO moved FROM m;`,
        ).join('\n        ')}
        IF hide THEN
          WITH h AS (UPDATE public.lead_entries SET private = true WHERE contact_id = kept AND organisation_id = tenant AND NOT private AND user_id IS NOT NULL
            AND id IN (SELECT jsonb_array_elements_text(moved->'lead_entries')::uuid) RETURNING id)
          SELECT coalesce(jsonb_agg(h.id), '[]') INTO hidden FROM h;
        END IF;
        -- Earlier merges into the one that goes cannot be undone any more.
        DELETE FROM public.lead_merges WHERE contact_id = gone AND organisation_id = tenant;
        RETURN jsonb_build_object('moved', moved, 'madePrivate', hidden);
      END`,
    )}
    -- The way back, to whoever may see the merge: what was moved and is still there hangs on its own lead again, as it was.
    ${asOwner(
      'part_hanging(wanted uuid)',
      'void',
      `
      DECLARE tenant uuid := ${TENANT}; me uuid := ${PERSON}; it record; gone uuid;
      BEGIN
        SELECT m.contact_id, m.before INTO it FROM public.lead_merges m JOIN public.contacts c ON c.id = m.contact_id
          WHERE m.id = wanted AND m.organisation_id = tenant AND (NOT m.private OR m.user_id = me) AND (NOT c.private OR c.user_id = me);
        gone := (it.before->'gone'->>'id')::uuid;
        ${HANGING.map(
          (
            table,
          ) => `UPDATE public.${table} SET contact_id = gone WHERE contact_id = it.contact_id AND organisation_id = tenant
          AND id IN (SELECT jsonb_array_elements_text(it.before->'moved'->'${table}')::uuid);`,
        ).join('\n        ')}
        UPDATE public.lead_entries SET private = false WHERE contact_id = gone AND organisation_id = tenant
          AND id IN (SELECT jsonb_array_elements_text(it.before->'madePrivate')::uuid);
      END`,
    )}
    -- What nobody has touched for as long as its organisation keeps leads, and for which nothing is to follow.
    ${asOwner(
      'forget_leads(now_at timestamptz, first_months integer)',
      'integer',
      `
      DECLARE each record; count integer := 0;
      BEGIN
        FOR each IN SELECT c.organisation_id, c.id FROM public.contacts c JOIN public.organisations o ON o.id = c.organisation_id
          WHERE c.state IS NOT NULL AND c.due_on IS NULL
            AND c.last_at < now_at - make_interval(months => CASE WHEN jsonb_typeof(o.defaults->'leads'->'months') = 'number'
                THEN least(greatest((o.defaults->'leads'->>'months')::numeric, 1), 120)::integer ELSE first_months END) LIMIT 500 LOOP
          PERFORM public.erase_lead(each.organisation_id, each.id, now_at);
          count := count + 1;
        END LOOP;
        DELETE FROM public.evenings WHERE day < now_at - interval '7 days';
        DELETE FROM public.lead_merges WHERE at < now_at - interval '30 days';
        RETURN count;
      END`,
    )}
    ${rewriting('erase_organisation(uuid)', OF_ORGANISATION)}
    ${rewriting('erase_member(uuid)', OF_MEMBER)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${rewriting('erase_member(uuid)', back(OF_MEMBER))}
    ${rewriting('erase_organisation(uuid)', back(OF_ORGANISATION))}
    DROP FUNCTION forget_leads(timestamptz, integer);
    DROP FUNCTION part_hanging(uuid);
    DROP FUNCTION merge_hanging(uuid, uuid);
    DROP FUNCTION hand_over_lead(uuid, uuid);
    DROP FUNCTION pass_leads(uuid, uuid);
    DROP FUNCTION doubles_of_lead(uuid, integer, uuid[]);
    DROP FUNCTION replies_waiting(uuid);
    DROP FUNCTION find_leads(jsonb);
    DROP FUNCTION erase_own_lead(uuid, timestamptz);
    DROP FUNCTION erase_lead(uuid, uuid, timestamptz);
    ALTER TABLE outbox ALTER COLUMN message SET STORAGE EXTENDED;
    DROP FUNCTION due_evenings(timestamptz, integer);
    ALTER TABLE users DROP COLUMN evening_mail;
    DROP TABLE evenings, replies, lead_merges, follow_ups, lead_entries;
    DROP POLICY tenant ON referrals;
    CREATE POLICY tenant ON referrals USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    DROP POLICY tenant ON contacts;
    CREATE POLICY tenant ON contacts USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    DELETE FROM contacts WHERE state IS NOT NULL;
    ALTER TABLE contacts DROP COLUMN private, DROP COLUMN state, DROP COLUMN came_at, DROP COLUMN came_by, DROP COLUMN last_at, DROP COLUMN card_id,
      DROP COLUMN hand_out_id, DROP COLUMN occasion_id, DROP COLUMN due_on, DROP COLUMN topics, DROP COLUMN first_mark, DROP COLUMN marks, DROP COLUMN words;
  `);
}
