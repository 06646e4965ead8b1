import { rowsOf } from './database';

export const CARDS = 5_000;
export const EVENTS = 500_000;
export const ENTRIES = 300_000;
export const ORGANISATIONS = 200;
const CARDS_OF_ANOTHER = 20;
/** People of the organisation with the long imports: each is named by some entries. */
const KNOWN = 2_000;
const EVENTS_OF_ANOTHER = 20_000;
const AUDIT_LINES = 40_000;
/** Events lie in the days that a report of ninety days looks at and holds against. */
const DAYS = 180;

const list = (words: string) =>
  `(ARRAY[${words
    .split(' ')
    .map((word) => `'${word}'`)
    .join(',')}])`;
const GIVEN = list('Ada Bran Cora Dunstan Edda Fenna Garrick Hilde Ivo Jorunn Kester Linnea Merrick Nia Orla Piers');
const FAMILY = list(
  'Aldercott Brackenfell Cotterdale Dunmoor Eskrigg Fellbarrow Gorsedd Heathcote Ingleby Kelmarsh Langrigg Mossdale Netherby Oxenholme',
);
/** The n-th of a list, so that names come in every pairing. */
const pick = (words: string, length: number, by: string) => `${words}[1 + (${by}) % ${length}]`;

/** People with a published card, a code and a tag each, made from one card by the database itself, in an organisation. */
export const crowd = (organisation: string, from: string, count: number, prefix: string) => `
  WITH made AS MATERIALIZED (
    SELECT n, gen_random_uuid() AS record, gen_random_uuid() AS card, gen_random_uuid() AS code, gen_random_uuid() AS tag,
      ${pick(GIVEN, 16, 'n')} AS given, ${pick(FAMILY, 14, 'n / 16')} || ' ' || n AS family
    FROM generate_series(1, ${count}) n
  ), source AS MATERIALIZED (
    SELECT c.id AS card, c.record_id AS record, r.body FROM cards c JOIN records r ON r.id = c.record_id WHERE c.id = '${from}'
  ), records_made AS (
    INSERT INTO records (id, organisation_id, written_name, body)
    SELECT m.record, '${organisation}', m.given || ' ' || m.family, jsonb_set(
      replace(replace(s.body::text, 'first@crowd.example', '${prefix}' || m.n || '@crowd.example'), '2079460000', '20794' || (60000 + m.n))::jsonb,
      '{name}', jsonb_build_object('given', m.given, 'family', m.family)) FROM made m, source s
  ), cards_made AS (
    INSERT INTO cards (id, organisation_id, record_id, audience, is_private, state, lines, blocks, opens, words, look)
    SELECT m.card, '${organisation}', m.record, c.audience, c.is_private, c.state, c.lines, c.blocks, c.opens, c.words, c.look FROM made m, cards c WHERE c.id = '${from}'
  ), revisions_made AS (
    INSERT INTO revisions (id, organisation_id, card_id, number, composition, published_by, published_at, note, draft)
    SELECT gen_random_uuid(), '${organisation}', m.card, v.number, v.composition, coalesce(u.id, v.published_by), v.published_at, v.note, v.draft
    FROM made m, revisions v LEFT JOIN users u ON u.organisation_id = '${organisation}' WHERE v.card_id = '${from}' AND v.number = 1
  ), directory_made AS (
    INSERT INTO directory_cards (card_id, organisation_id) SELECT card, '${organisation}' FROM made
  ), addresses_made AS (
    INSERT INTO directory_addresses (name, skeleton, card_id, organisation_id, is_current)
    SELECT '${prefix}-' || n, '${prefix}-' || n, card, '${organisation}', true FROM made
  )
  INSERT INTO hand_outs (id, organisation_id, card_id, code, placement, created_at, channel)
  SELECT code, '${organisation}'::uuid, card, substr(md5('code ${prefix} ' || n), 1, 8), 'Badge of ' || given || ' ' || family, now(), 'code' FROM made
  UNION ALL SELECT tag, '${organisation}'::uuid, card, substr(md5('tag ${prefix} ' || n), 1, 8), 'Door ' || n, now(), 'tag' FROM made WHERE n % 2 = 0`;

/** What recipients did in an organisation over half a year: few cards much, many a little; the same visitor again now and then. */
const events = (organisation: string, count: number, now: Date) => `
  INSERT INTO events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
  SELECT '${organisation}', c.card, CASE WHEN n % 3 = 0 THEN c.out END,
    CASE WHEN n % 20 < 12 THEN 'view' WHEN n % 20 < 15 THEN 'save' WHEN n % 20 < 19 THEN 'tap' ELSE 'bot' END, CASE WHEN n % 20 BETWEEN 15 AND 18 THEN 'd1' END,
    CASE WHEN n % 50 = 0 THEN NULL ELSE decode(md5((n % ${DAYS})::text || ' ' || (n / ${DAYS} / 4)), 'hex') END,
    timestamptz '${now.toISOString()}' - (n % ${DAYS}) * interval '1 day' - (n % 7919) * interval '2 seconds'
  FROM generate_series(1, ${count}) n
  JOIN (SELECT o.card_id AS card, min(o.id::text)::uuid AS out, row_number() OVER (ORDER BY o.card_id) AS at FROM hand_outs o
    WHERE o.organisation_id = '${organisation}' GROUP BY 1) c ON c.at = 1 + floor(${CARDS} * power((n::bigint * 7919 % 100003) / 100003.0, 3))::int`;

const entries = (organisation: string, user: string) => `
  WITH made AS (
    INSERT INTO imports (id, organisation_id, user_id, file_name, state, created_at, updated_at)
    SELECT gen_random_uuid(), '${organisation}', '${user}', 'contacts-' || n || '.vcf', 'taken', now() - n * interval '1 day', now() FROM generate_series(1, 12) n RETURNING id
  ), numbered AS (SELECT id, row_number() OVER () AS at FROM made), records AS (
    SELECT id, row_number() OVER () AS at FROM records WHERE organisation_id = '${organisation}'
  )
  INSERT INTO import_entries (organisation_id, import_id, at, line, name, verdict, record_id, body, has_photo, take)
  SELECT '${organisation}', i.id, n, n * 9, 'Contact ' || n, CASE WHEN n % 9 = 0 THEN 'differs' ELSE 'new' END,
    CASE WHEN n % 9 = 0 THEN r.id END, $1::jsonb, false, true
  FROM numbered i, generate_series(1, ${ENTRIES / 12}) n LEFT JOIN records r ON r.at = 1 + n / 9 % ${KNOWN}`;

const audit = (organisation: string, user: string) => `
  INSERT INTO audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id)
  SELECT '${organisation}', now() - n * interval '1 minute', '${user}', CASE WHEN n % 50 = 0 THEN 'card.published' ELSE 'card.changed' END, 'card', c.id::text
  FROM generate_series(1, ${AUDIT_LINES}) n
  JOIN (SELECT id, row_number() OVER () AS at FROM cards WHERE organisation_id = '${organisation}') c ON c.at = 1 + n % ${CARDS}`;

export type Ground = { organisation: string; user: string; card: string };

/** Fills a database: one organisation with thousands of cards and their response, one with a long import, two hundred in all. */
export async function fillDatabase(url: string, big: Ground, imports: Ground, now: Date): Promise<void> {
  await rowsOf(url, crowd(big.organisation, big.card, CARDS - 1, 'big'));
  await rowsOf(url, events(big.organisation, EVENTS, now));
  await rowsOf(url, audit(big.organisation, big.user));
  await rowsOf(url, crowd(imports.organisation, imports.card, KNOWN, 'kept'));
  const [body] = await rowsOf<{ body: object }>(
    url,
    'SELECT body FROM records WHERE id = (SELECT record_id FROM cards WHERE id = $1)',
    [imports.card],
  );
  await rowsOf(url, entries(imports.organisation, imports.user), [JSON.stringify(body!.body)]);
  await rowsOf(url, events(imports.organisation, EVENTS_OF_ANOTHER, now));
  const others = await rowsOf<{ id: string }>(
    url,
    `INSERT INTO organisations (id, name, country, time_zone)
     SELECT gen_random_uuid(), 'Organisation ' || n, 'GB', 'Europe/London' FROM generate_series(3, ${ORGANISATIONS}) n RETURNING id`,
  );
  for (const [at, { id }] of others.entries()) {
    await rowsOf(
      url,
      `INSERT INTO users (id, organisation_id, email, password_hash, name, role) VALUES (gen_random_uuid(), $1, $2, '!', 'Somebody', 'owner')`,
      [id, `owner-${at}@scale.example`],
    );
    await rowsOf(url, crowd(id, big.card, CARDS_OF_ANOTHER, `org${at}`));
  }
  // As it would have been done over the days in which all this came.
  await rowsOf(url, 'VACUUM ANALYZE');
}
