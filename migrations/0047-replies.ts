import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const asOwner = (head: string, returns: string, body: string, how: 'STABLE' | 'VOLATILE' = 'VOLATILE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE plpgsql ${how} SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

/** Mails of a reply say what it says: they go with it. */
const ERASE_MAILS = `DELETE FROM public.outbox o USING public.replies r WHERE o.id = ANY (r.mails) AND o.organisation_id = r.organisation_id`;

/** All that recipients may do: they are nobody of the organisation, and what they tell may be its holder's alone. */
export const up = (knex: Knex): Promise<void> =>
  knex.raw(`
  -- How often it was asked by these askers, and who takes a card's replies: the member whose record it is, else an owner.
  ${asOwner(
    'begin_reply(wanted uuid, asked jsonb)',
    'TABLE (counts integer[], id uuid, name text, email text, confirmed boolean, own boolean)',
    `
    DECLARE counted integer[] := '{}'; each jsonb;
    BEGIN
      FOR each IN SELECT jsonb_array_elements(asked) LOOP
        counted := counted || public.count_request(decode(each->>'key', 'hex'), (each->>'ends')::timestamptz)::integer;
      END LOOP;
      RETURN QUERY SELECT counted, u.id, u.name, u.email, u.email_confirmed_at IS NOT NULL,
          coalesce(u.own_record = c.record_id, false) OR u.name = r.written_name
        FROM public.cards c JOIN public.records r ON r.id = c.record_id
          JOIN public.users u ON u.organisation_id = c.organisation_id AND u.left_at IS NULL AND u.name <> ''
            AND (u.own_record = c.record_id OR u.role = 'owner')
        WHERE c.id = wanted AND c.organisation_id = ${TENANT}
        ORDER BY (u.own_record = c.record_id) IS TRUE DESC, u.name = r.written_name DESC, u.id LIMIT 1;
    END`,
  )}
  ${asOwner(
    'take_reply(given jsonb)',
    'TABLE (reply uuid, contact uuid, again boolean)',
    `
    DECLARE
      tenant uuid := ${TENANT};
      holder uuid := (given->>'user')::uuid;
      hidden boolean := (given->>'private')::boolean;
      now_at timestamptz := (given->>'at')::timestamptz;
      made boolean := false;
      hit record;
    BEGIN
      IF tenant IS NULL THEN RETURN; END IF;
      -- The same words of the same day are the same reply, however often they are sent.
      PERFORM pg_advisory_xact_lock(hashtextextended(given->>'content', 0));
      SELECT r.id, r.contact_id INTO hit FROM public.replies r
        WHERE r.organisation_id = tenant AND r.card_id = (given->>'card')::uuid AND r.content_hash = decode(given->>'content', 'hex')
          AND r.at > now_at - interval '1 day' ORDER BY r.at DESC LIMIT 1;
      IF FOUND THEN RETURN QUERY SELECT hit.id, hit.contact_id, true; RETURN; END IF;
      -- Two replies of one person that come at once find the same record.
      PERFORM pg_advisory_xact_lock(hashtextextended(concat(given->>'user', given->'marks'->>0), 0));
      -- One person is one record among what its owner has; private and shared ones stay apart.
      SELECT c.id, c.state INTO hit FROM public.contacts c
        WHERE c.organisation_id = tenant AND c.user_id = holder AND c.first_mark = given->'marks'->>0
          AND c.private = hidden ORDER BY c.state IS NULL, c.last_at DESC LIMIT 1 FOR UPDATE;
      IF FOUND THEN
        UPDATE public.contacts c SET last_at = now_at, came_at = coalesce(c.came_at, now_at), came_by = coalesce(c.came_by, given->>'by'),
          state = CASE WHEN c.state IS NULL OR c.state = 'done' THEN 'new' ELSE c.state END,
          card_id = coalesce(c.card_id, (given->>'card')::uuid), hand_out_id = coalesce(c.hand_out_id, (given->>'handOut')::uuid),
          occasion_id = coalesce(c.occasion_id, (given->>'occasion')::uuid)
          WHERE c.id = hit.id;
      ELSE
        made := true;
        INSERT INTO public.contacts (id, organisation_id, user_id, written_name, body, lines, updated_at, private, state, came_at, came_by, last_at,
          card_id, hand_out_id, occasion_id, marks, words)
          VALUES ((given->>'contact')::uuid, tenant, holder, given->>'name', given->'body', given->'lines', now_at, hidden, 'new', now_at, given->>'by', now_at,
            (given->>'card')::uuid, (given->>'handOut')::uuid, (given->>'occasion')::uuid,
            ARRAY(SELECT jsonb_array_elements_text(given->'marks')), public.searched(given->>'words'))
          RETURNING id, state INTO hit;
      END IF;
      INSERT INTO public.replies (id, organisation_id, contact_id, user_id, card_id, hand_out_id, at, told, consent, address, content_hash,
          page_hash, mail_hash, mails, made_contact, looks_wrong)
        VALUES ((given->>'reply')::uuid, tenant, hit.id, holder, (given->>'card')::uuid, (given->>'handOut')::uuid, now_at, given->'told',
          given->'consent', given->>'address', decode(given->>'content', 'hex'), decode(given->>'pageHash', 'hex'),
          decode(given->>'mailHash', 'hex'), ARRAY(SELECT jsonb_array_elements_text(given->'mails')::uuid), made, CASE WHEN given->'wrong' = '[]' THEN NULL ELSE given->'wrong' END);
      RETURN QUERY SELECT (given->>'reply')::uuid, hit.id, false;
    END`,
  )}
  -- What a link of a referral shows, to whoever has the link.
  ${asOwner(
    'shown_referral(wanted uuid)',
    'TABLE (contact_id uuid, at timestamptz, composition jsonb)',
    `BEGIN RETURN QUERY SELECT r.contact_id, r.at, r.composition FROM public.referrals r WHERE r.id = wanted AND r.organisation_id = ${TENANT}; END`,
    'STABLE',
  )}
  ${asOwner(
    'mails_of_reply(wanted uuid, ids uuid[])',
    'void',
    `BEGIN UPDATE public.replies SET mails = mails || ids WHERE id = wanted AND organisation_id = ${TENANT}; END`,
  )}
  ${asOwner(
    'find_reply(wanted bytea)',
    'TABLE (id uuid, organisation_id uuid, by_mail boolean)',
    `BEGIN RETURN QUERY SELECT r.id, r.organisation_id, r.mail_hash = wanted FROM public.replies r JOIN public.organisations o ON o.id = r.organisation_id
       WHERE (r.page_hash = wanted OR r.mail_hash = wanted) AND o.deleted_at IS NULL; END`,
    'STABLE',
  )}
  ${asOwner(
    'reply_of(wanted uuid)',
    'TABLE (card_id uuid, hand_out_id uuid, at timestamptz, told jsonb, consent jsonb, address text, followed_at timestamptz, views_agreed_at timestamptz, body jsonb, contact_id uuid)',
    `BEGIN RETURN QUERY SELECT r.card_id, r.hand_out_id, r.at, r.told, r.consent, r.address, r.followed_at, r.views_agreed_at, c.body, c.id
       FROM public.replies r LEFT JOIN public.contacts c ON c.id = r.contact_id
       WHERE r.id = wanted AND r.organisation_id = ${TENANT}; END`,
    'STABLE',
  )}
  ${asOwner(
    'follow_reply(wanted uuid, now_at timestamptz)',
    'void',
    `
    DECLARE hit record;
    BEGIN
      UPDATE public.replies SET followed_at = coalesce(followed_at, CASE WHEN is_mailed THEN now_at END) WHERE id = wanted AND organisation_id = ${TENANT} AND erased_at IS NULL
        RETURNING contact_id, organisation_id, views_agreed_at INTO hit;
      IF hit.views_agreed_at IS NOT NULL AND hit.contact_id IS NOT NULL THEN
        INSERT INTO public.lead_entries (id, organisation_id, contact_id, kind, at) VALUES (gen_random_uuid(), hit.organisation_id, hit.contact_id, 'view', now_at);
        UPDATE public.contacts SET last_at = greatest(last_at, now_at) WHERE id = hit.contact_id;
      END IF;
    END`,
  )}
  ${asOwner(
    'agree_to_views(wanted uuid, agreed boolean, now_at timestamptz)',
    'void',
    `BEGIN
       UPDATE public.replies SET views_agreed_at = CASE WHEN agreed THEN coalesce(views_agreed_at, now_at) END
         WHERE id = wanted AND organisation_id = ${TENANT} AND erased_at IS NULL AND (followed_at IS NOT NULL OR NOT agreed);
     END`,
  )}
  -- Whether all that is known of a contact came by this reply: anybody can type the address of somebody who is known already.
  ${asOwner(
    'is_of_reply(wanted uuid)',
    'boolean',
    `BEGIN RETURN EXISTS (SELECT 1 FROM public.replies r WHERE r.id = wanted AND r.organisation_id = ${TENANT} AND r.made_contact
       AND NOT EXISTS (SELECT 1 FROM public.replies o WHERE o.contact_id = r.contact_id AND o.id <> r.id)); END`,
    'STABLE',
  )}
  ${asOwner(
    'correct_reply(wanted uuid, given jsonb, proven boolean)',
    'void',
    `
    DECLARE hit record; now_at timestamptz := (given->>'at')::timestamptz;
    BEGIN
      ${ERASE_MAILS} AND r.id = wanted AND r.organisation_id = ${TENANT};
      UPDATE public.replies SET told = given->'told', address = given->>'address', mails = '{}', is_mailed = is_mailed AND address IS NOT DISTINCT FROM given->>'address',
        followed_at = CASE WHEN address IS NOT DISTINCT FROM given->>'address' THEN followed_at END,
        views_agreed_at = CASE WHEN address IS NOT DISTINCT FROM given->>'address' THEN views_agreed_at END
        WHERE id = wanted AND organisation_id = ${TENANT} AND erased_at IS NULL RETURNING contact_id, organisation_id INTO hit;
      IF hit.contact_id IS NULL THEN RETURN; END IF;
      IF proven OR public.is_of_reply(wanted) THEN UPDATE public.contacts SET body = given->'body', lines = given->'lines', written_name = given->>'name', words = public.searched(given->>'words'),
        marks = ARRAY(SELECT jsonb_array_elements_text(given->'marks')), version = version + 1, updated_at = now_at, last_at = now_at
        WHERE id = hit.contact_id AND organisation_id = ${TENANT}; END IF;
      INSERT INTO public.lead_entries (id, organisation_id, contact_id, kind, at) VALUES (gen_random_uuid(), hit.organisation_id, hit.contact_id, 'corrected', now_at);
    END`,
  )}
  ${asOwner(
    'erase_reply(wanted uuid, proven boolean, now_at timestamptz)',
    'uuid',
    `
    DECLARE tenant uuid := ${TENANT}; gone uuid;
    BEGIN
      SELECT contact_id INTO gone FROM public.replies WHERE id = wanted AND organisation_id = tenant;
      IF gone IS NULL THEN RETURN NULL; END IF;
      IF proven OR public.is_of_reply(wanted) THEN
        PERFORM public.erase_lead(tenant, gone, now_at);
      ELSE
        ${ERASE_MAILS} AND r.id = wanted AND r.organisation_id = tenant;
        UPDATE public.replies SET contact_id = NULL, user_id = NULL, told = NULL, consent = NULL, address = NULL, mails = '{}', content_hash = '',
          looks_wrong = NULL, views_agreed_at = NULL, erased_at = now_at WHERE id = wanted AND organisation_id = tenant;
      END IF;
      RETURN gone;
    END`,
  )}`);

export const down = (knex: Knex): Promise<void> =>
  knex.raw(`
    DROP FUNCTION erase_reply(uuid, boolean, timestamptz);
    DROP FUNCTION correct_reply(uuid, jsonb, boolean);
    DROP FUNCTION is_of_reply(uuid);
    DROP FUNCTION agree_to_views(uuid, boolean, timestamptz);
    DROP FUNCTION follow_reply(uuid, timestamptz);
    DROP FUNCTION reply_of(uuid);
    DROP FUNCTION find_reply(bytea);
    DROP FUNCTION mails_of_reply(uuid, uuid[]);
    DROP FUNCTION shown_referral(uuid);
    DROP FUNCTION take_reply(jsonb);
    DROP FUNCTION begin_reply(uuid, jsonb);
  `);
