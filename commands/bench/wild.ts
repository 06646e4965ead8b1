import { COUNTED } from '../../migrations/0039-privacy-map';
import { startApplication } from '../application';
import { freePort } from '../cluster/ports';
import { say } from '../stop';
import { newcomer, type Newcomer } from './account';
import { ground, percentile95, repeated, slowest as ms, timed } from './asked';
import { countOf, rowsOf } from './database';
import type { Figure } from './figure';
import { CARDS, crowd, type Ground } from './scale-rows';

/** Pieces that are out of each card. */
const PIECES = 10;
const TAGS = 500;
const TIMES = 40;
const OLD = '+442079460999';

/** What each card of a crowd gives out as the first one does, with a number of its own; of every third one number is private. */
const published = ({ organisation, card }: Ground) => `
  INSERT INTO published_values (organisation_id, card_id, line, kind, value, source, label, detail, channels, locked, privacy)
  SELECT '${organisation}', c.id, p.line, p.kind, replace(p.value, '2079460000', '20794' || (60000 + c.n)), p.source, p.label,
    replace(p.detail::text, '2079460000', '20794' || (60000 + c.n))::jsonb, p.channels, p.locked, CASE WHEN p.kind = 'phone' AND c.n % 3 = 0 THEN 'mobile' END
  FROM (SELECT id, row_number() OVER (ORDER BY id) AS n FROM cards WHERE organisation_id = '${organisation}' AND id <> '${card}') c
  JOIN published_values p ON p.card_id = '${card}'`;

/** Printed pieces of each card that carry what it gives out, the oldest of some with a number that is given out no more. */
const pieces = ({ organisation }: Ground) => `
  WITH made AS MATERIALIZED (
    SELECT gen_random_uuid() AS id, h.card_id, h.id AS hand_out, g AS revision, row_number() OVER () AS n
    FROM hand_outs h, generate_series(1, ${PIECES}) g WHERE h.organisation_id = '${organisation}' AND h.channel = 'code'
  ), kept AS (
    INSERT INTO copies (id, organisation_id, card_id, hand_out_id, channel, revision, copies, made_at)
    SELECT id, '${organisation}', card_id, hand_out, 'print', revision, 50, now() - n * interval '1 minute' FROM made RETURNING id
  )
  INSERT INTO carried (organisation_id, copy_id, line, kind, value, source, label, detail, privacy)
  SELECT '${organisation}', m.id, p.line, p.kind, CASE WHEN p.kind = 'phone' AND m.n % 20 = 0 THEN '${OLD}' ELSE p.value END, p.source, p.label, p.detail, p.privacy
  FROM made m JOIN published_values p ON p.card_id = m.card_id`;

/** How long saving a record takes with one field of it typed anew each time. */
async function savings(address: string, who: Newcomer, url: string, record: string): Promise<number[]> {
  const [row] = await rowsOf<{ body: { details: { kind: string; text?: string }[] }; version: number }>(
    url,
    'SELECT body, version FROM records WHERE id = $1',
    [record],
  );
  const { body, version } = row!;
  return repeated(TIMES, (at) => {
    const details = body.details.map((each) =>
      each.kind === 'title' ? { ...each, text: `Rope engineer ${at}` } : each,
    );
    return timed(address, who, `/api/records/${record}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ baseVersion: version + at, body: { ...body, details } }),
    });
  });
}

/** Tags for many, a number looked for among all that is out, the privacy map, and saving a record below all that: at five thousand people. */
export async function measureWild(environment: Record<string, string>): Promise<Figure[]> {
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const url = environment.DATABASE_URL!;
  const application = await startApplication(
    { ...environment, PORT: String(port), BASE_URL: address, PUBLIC_URL: address },
    { dev: false },
  );
  try {
    const who = await newcomer(address, 'Wild');
    const of = await ground(who, url, 'wild-first');
    say(`  filling ${CARDS.toLocaleString('en-GB')} people and ${(CARDS * PIECES).toLocaleString('en-GB')} pieces …`);
    await rowsOf(url, crowd(of.organisation, of.card, CARDS - 1, 'wild'));
    await rowsOf(url, published(of));
    await rowsOf(url, pieces(of));
    await rowsOf(url, COUNTED);
    await rowsOf(
      url,
      `UPDATE cards SET exposed = '{mobile/page,mobile/file,mobile/print}' WHERE id IN (SELECT card_id FROM published_values WHERE privacy IS NOT NULL)`,
    );
    await rowsOf(url, 'VACUUM ANALYZE');
    const out = await countOf(url, 'SELECT count(*) FROM copies WHERE organisation_id = $1', [of.organisation]);
    const people = (
      await rowsOf<{ id: string }>(url, 'SELECT record_id AS id FROM cards WHERE organisation_id = $1 ORDER BY id', [
        of.organisation,
      ])
    ).map(({ id }) => id);
    const plans = await repeated(5, (at) =>
      timed(address, who, '/api/tags', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ records: people.slice(0, TAGS), placement: `Badges ${at}`, what: 'card' }),
      }),
    );
    const asked = (path: (at: number) => string) => repeated(TIMES, (at) => timed(address, who, path(at)));
    const where = await asked((at) => `/api/copies?q=${encodeURIComponent(`020 794${60_100 + at * 7}`)}`);
    const common = await asked(() => `/api/copies?q=${encodeURIComponent(OLD)}`);
    const map = await asked(
      (at) => ['/api/privacy', '/api/privacy?kind=mobile&on=page', '/api/privacy?q=hilde'][at % 3]!,
    );
    const list = await asked(() => '/api/copies');
    const rows = await asked(() => '/people');
    // Somebody with pieces out, and somebody of whom nothing is public, in turn.
    const alone = await who.ask<{ recordId: string }>('POST', '/api/records', {
      ...{ name: 'Nobody Yet', title: 'Rope engineer', firm: 'Heath Works', phone: '020 7946 0000', email: '' },
    });
    await savings(address, who, url, people[7]!);
    const [withPieces, without] = [
      await savings(address, who, url, people[8]!),
      await savings(address, who, url, alone.recordId),
    ];
    const among = `${out.toLocaleString('en-GB')} pieces out, over loopback`;
    return [
      ms(`a plan for ${TAGS} tags`, plans, 2_000, `${TAGS} hand-outs with codes of their own, over loopback`),
      ms('“where is this number?”', where, 100, among),
      ms('the same of a number that 2,500 pieces carry', common, 200, among),
      ms(
        'the privacy map',
        map,
        300,
        `${people.length.toLocaleString('en-GB')} people, of a third a number is private; ${among}`,
      ),
      ms('copies out there', list, 300, among),
      ms('the first page of People above them', rows, 300, 'the whole page, with the count of all that is out of date'),
      {
        name: 'what saving a record takes longer for what is public of it, at the 95th percentile',
        value: percentile95(withPieces) - percentile95(without),
        unit: 'ms',
        must: { atMost: 20 },
        beside: `${percentile95(withPieces).toFixed(1)} ms with ${PIECES} pieces out, ${percentile95(without).toFixed(1)} ms of somebody of whom nothing is`,
      },
    ];
  } finally {
    await application.stop();
  }
}
