import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const secured = (table: string) => `
    ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`;

/**
 * Copies that are out: a frozen code or tag, a run of print, a picture that was taken, a contact that was saved; what each carries, value by value;
 * and what is public now. A copy is out of date when it carries what neither its card nor the house style gives out any more: a join of the two.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE print_runs ADD CONSTRAINT print_runs_own UNIQUE (organisation_id, id);
    CREATE TABLE copies (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      card_id uuid NOT NULL,
      hand_out_id uuid,
      run_id uuid,
      channel text NOT NULL CHECK (channel IN ('code', 'tag', 'print', 'backdrop', 'pass', 'signature', 'file', 'mail')),
      revision integer NOT NULL,
      -- How many there are, where they are counted here; runs of print and saved contacts are counted elsewhere.
      copies integer CHECK (copies > 0),
      made_at timestamptz NOT NULL,
      done_at timestamptz,
      CONSTRAINT copies_own UNIQUE (organisation_id, id),
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, run_id) REFERENCES print_runs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX copies_of_card ON copies (organisation_id, card_id);
    CREATE INDEX copies_of_hand_out ON copies (organisation_id, hand_out_id);
    CREATE UNIQUE INDEX copies_of_run ON copies (organisation_id, run_id);
    CREATE UNIQUE INDEX copies_by_revision ON copies (organisation_id, card_id, revision, channel) WHERE hand_out_id IS NULL;
    CREATE UNIQUE INDEX copies_by_hand_out ON copies (organisation_id, hand_out_id, revision, channel) WHERE run_id IS NULL;
    ${secured('copies')}
    CREATE TABLE carried (
      organisation_id uuid NOT NULL,
      copy_id uuid NOT NULL,
      line text NOT NULL,
      kind text NOT NULL,
      value text NOT NULL,
      source text NOT NULL CHECK (source IN ('card', 'house', 'typed', 'inside')),
      label text NOT NULL,
      detail jsonb NOT NULL,
      FOREIGN KEY (organisation_id, copy_id) REFERENCES copies (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX carried_by ON carried (organisation_id, copy_id);
    CREATE INDEX carried_value ON carried (organisation_id, md5(value));
    ${secured('carried')}
    CREATE TABLE published_values (
      organisation_id uuid NOT NULL REFERENCES organisations,
      -- None of the house style's.
      card_id uuid,
      line text NOT NULL,
      kind text NOT NULL,
      value text NOT NULL,
      source text NOT NULL CHECK (source IN ('card', 'house', 'inside')),
      label text NOT NULL,
      detail jsonb NOT NULL,
      channels text[] NOT NULL,
      -- Whether every card shows a line of the house style.
      locked boolean NOT NULL DEFAULT false,
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX published_values_of ON published_values (organisation_id, card_id);
    CREATE INDEX published_values_value ON published_values (organisation_id, md5(value));
    ${secured('published_values')}
    -- Lines of the house style that what is published leaves out.
    ALTER TABLE cards ADD COLUMN published_hides text[] NOT NULL DEFAULT '{}';
    GRANT UPDATE (published_hides) ON cards TO ${APP};
    CREATE INDEX events_saves ON events (organisation_id, card_id, revision) WHERE kind = 'save';
    ${rewriting('erase_organisation(uuid)', ERASING)}
  `);
  await fillCopies(knex);
}

const EMPTIED = 'DELETE FROM public.spare_codes WHERE organisation_id = wanted;';
/** What belongs to a card goes with it; what the house style gives out goes with its organisation. */
const ERASING: [string, string] = [
  EMPTIED,
  `${EMPTIED} DELETE FROM public.published_values WHERE organisation_id = wanted;`,
];

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${rewriting('erase_organisation(uuid)', [ERASING[1], ERASING[0]])}
    DROP INDEX events_saves;
    ALTER TABLE cards DROP COLUMN published_hides;
    DROP TABLE published_values, carried, copies;
    ALTER TABLE print_runs DROP CONSTRAINT print_runs_own;
  `);
}

type Detail = { kind: string; text?: string; number?: string; extension?: string; uses?: string[] } & Record<
  string,
  unknown
>;
type Line = { id: string; label: string; detail: Detail; on: string[] };
type Said = { name: Record<string, string>; lines: Line[] };
type Composition = Said & { further?: Record<string, Said>; look?: { hides?: string[] } };
type HouseLine = { id: string; label: string; detail: Detail; page: boolean; file: boolean };
type House = {
  organisation_id: string;
  saved_at: Date;
  style: { lines?: HouseLine[]; locks?: Record<string, string> };
};
type Value = { line: string; kind: string; value: string; source: string; label: string; detail: Detail };

const plain = (text: unknown): string =>
  String(text ?? '')
    .normalize('NFKC')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();
const joined = (parts: unknown[]): string => plain(parts.filter(Boolean).join(', '));

/** A value as the application compares it, of when this was written. */
function normalised(d: Detail): string {
  switch (d.kind) {
    case 'phone':
      return d.extension ? `${d.number};${d.extension}` : String(d.number);
    case 'email':
      return plain(d.address);
    case 'link':
      return String(d.url)
        .trim()
        .replace(/^https?:\/\//i, '')
        .replace(/\/$/, '');
    case 'address':
      return joined([d.poBox, d.extended, d.street, d.locality, d.region, d.postcode, d.country]);
    case 'organisation':
      return joined([d.name, ...((d.units as unknown[]) ?? [])]);
    case 'birthday':
      return String(d.date);
    case 'hours':
      return `${(d.days as { from: string; until: string }[][]).map((day) => day.map(({ from, until }) => `${from}-${until}`).join()).join(';')} ${String(d.zone)}`;
    default:
      return plain(d.text);
  }
}

function writtenName(name: Record<string, string>): string {
  const { written, prefix, given, additional, family, suffix } = name;
  return written || [prefix, given, additional, family].filter(Boolean).join(' ') + (suffix ? `, ${suffix}` : '');
}

const valueOf = (line: string, label: string, detail: Detail, source: string): Value => ({
  ...{ line, kind: detail.kind, value: normalised(detail), source, label, detail },
});
const nameOf = ({ name }: Said): Value => valueOf('name', '', { kind: 'name', text: writtenName(name) }, 'card');
const isRead = ({ detail }: { detail: Detail }) => detail.kind !== 'photo' && detail.kind !== 'logo';
const given = (values: Value[]) => values.filter(({ value }) => value !== '');

const SEEN = ['page', 'signature', 'print', 'pass'];
const shownBy = (house: House | undefined, { look }: Composition): HouseLine[] =>
  (house?.style.lines ?? []).filter(
    ({ id }) => house?.style.locks?.lines !== undefined || !(look?.hides ?? []).includes(id),
  );

/** What a copy on a channel carries, under the house style of its time. */
function carriedOn(composition: Composition, house: House | undefined, channel: string): Value[] {
  const shown = shownBy(house, composition);
  const houses = shown.filter(({ page, file }) => (SEEN.includes(channel) ? page : channel !== 'backdrop' && file));
  const replaced = shown.some(({ detail }) => detail.kind === 'organisation');
  const own = composition.lines.filter(
    (line) => isRead(line) && line.on.includes(channel) && !(replaced && line.detail.kind === 'organisation'),
  );
  return given([
    nameOf(composition),
    ...own.map(({ id, label, detail }) => valueOf(id, label, detail, 'card')),
    ...houses.filter(isRead).map(({ id, label, detail }) => valueOf(id, label, detail, 'house')),
  ]);
}

function publishedBy(composition: Composition): (Value & { channels: string[] })[] {
  const found = new Map<string, Value & { channels: string[] }>();
  for (const said of [composition, ...Object.values(composition.further ?? {})]) {
    const lines = said.lines.filter(isRead);
    const values = [nameOf(said), ...lines.map(({ id, label, detail }) => valueOf(id, label, detail, 'card'))];
    const on = new Map(lines.map((line) => [line.id, line.on]));
    for (const each of given(values))
      found.set(`${each.line} ${each.kind} ${each.value}`, {
        ...each,
        channels: on.get(each.line) ?? ['page', 'file'],
      });
  }
  return [...found.values()];
}

const AT_ONCE = 500;

/** Fills what is empty from the revisions, hand-outs and runs that there are. */
export async function fillCopies(knex: Knex): Promise<void> {
  const houses: House[] = await knex('house_styles').orderBy(['organisation_id', 'number']);
  const byOrganisation = new Map<string, House[]>();
  for (const each of houses)
    byOrganisation.set(each.organisation_id, [...(byOrganisation.get(each.organisation_id) ?? []), each]);
  const houseAt = (organisation: string, at: Date) =>
    (byOrganisation.get(organisation) ?? []).filter(({ saved_at }) => saved_at <= at).at(-1);

  for (const [organisation_id, all] of byOrganisation) {
    const { lines = [], locks } = all.at(-1)!.style;
    const rows = lines
      .filter((line) => isRead(line) && (line.page || line.file))
      .map(({ id, label, detail, page, file }) => ({
        ...{ organisation_id, card_id: null, locked: locks?.lines !== undefined },
        ...valueOf(id, label, detail, 'house'),
        channels: [...(page ? SEEN : []), ...(file ? ['file', 'code', 'tag'] : [])],
      }));
    if (rows.length > 0) await insert(knex, 'published_values', rows);
  }

  type Row = {
    id: string;
    organisation_id: string;
    card_id: string;
    number: number;
    composition: Composition;
    published_at: Date;
  };
  for (let after = ''; ;) {
    const cards: { id: string }[] = await knex('cards')
      .whereRaw(after ? 'id > ?' : 'true', after ? [after] : [])
      .orderBy('id')
      .limit(AT_ONCE)
      .select('id');
    if (cards.length === 0) break;
    after = cards.at(-1)!.id;
    const ids = cards.map(({ id }) => id);
    const revisions: Row[] = await knex('revisions').whereIn('card_id', ids).orderBy(['card_id', 'number']);
    const of = new Map(revisions.map((row) => [`${row.card_id} ${row.number}`, row]));
    const latest = new Map(revisions.map((row) => [row.card_id, row]));
    const values = [...latest.values()].flatMap(({ organisation_id, card_id, composition }) =>
      publishedBy(composition).map((each) => ({ organisation_id, card_id, ...each })),
    );
    await insert(knex, 'published_values', values);
    for (const { card_id, composition } of latest.values())
      if (composition.look?.hides?.length)
        await knex('cards').where({ id: card_id }).update({ published_hides: composition.look.hides });
    const copies: Record<string, unknown>[] = [];
    const carried: Record<string, unknown>[] = [];
    const keep = (
      copy: { organisation_id: string; card_id: string; channel: string; revision: number } & Record<string, unknown>,
      found: Value[],
    ) => {
      const id = crypto.randomUUID();
      copies.push({ id, ...copy });
      carried.push(...found.map((each) => ({ organisation_id: copy.organisation_id, copy_id: id, ...each })));
    };
    for (const { organisation_id, card_id, number, composition, published_at } of revisions)
      keep(
        { organisation_id, card_id, channel: 'file', revision: number, made_at: published_at },
        carriedOn(composition, undefined, 'file').filter(({ source }) => source === 'card'),
      );
    type HandOut = {
      id: string;
      organisation_id: string;
      card_id: string;
      channel: string;
      revision: number;
      content: { what: string; line?: string } | null;
      created_at: Date;
    };
    const frozen: HandOut[] = await knex('hand_outs')
      .whereIn('card_id', ids)
      .whereNotNull('frozen')
      .whereNotNull('revision');
    for (const { id, organisation_id, card_id, channel, revision, content, created_at } of frozen) {
      const { composition } = of.get(`${card_id} ${revision}`) ?? {};
      if (!composition) continue;
      const whole = content === null || content.what === 'contact';
      const line = composition.lines.find((each) => each.id === content?.line);
      keep(
        { organisation_id, card_id, hand_out_id: id, channel, revision, made_at: created_at },
        whole
          ? carriedOn(composition, houseAt(organisation_id, created_at), channel)
          : line && isRead(line)
            ? given([valueOf(line.id, line.label, line.detail, 'card')])
            : [],
      );
    }
    type Run = {
      id: string;
      organisation_id: string;
      hand_out_id: string;
      card_id: string;
      revision: number;
      created_at: Date;
    };
    const runs: Run[] = await knex('print_runs as r')
      .join('hand_outs as h', 'h.id', 'r.hand_out_id')
      .whereIn('h.card_id', ids)
      .select('r.id', 'r.organisation_id', 'r.hand_out_id', 'h.card_id', 'r.revision', 'r.created_at');
    for (const { id, organisation_id, hand_out_id, card_id, revision, created_at } of runs) {
      const { composition } = of.get(`${card_id} ${revision}`) ?? {};
      if (composition)
        keep(
          { organisation_id, card_id, hand_out_id, run_id: id, channel: 'print', revision, made_at: created_at },
          carriedOn(composition, houseAt(organisation_id, created_at), 'print'),
        );
    }
    await insert(knex, 'copies', copies);
    await insert(knex, 'carried', carried);
  }
}

async function insert(knex: Knex, table: string, rows: Record<string, unknown>[]): Promise<void> {
  const written = rows.map((row) => ({ ...row, ...('detail' in row ? { detail: JSON.stringify(row.detail) } : {}) }));
  for (let at = 0; at < written.length; at += AT_ONCE) await knex(table).insert(written.slice(at, at + AT_ONCE));
}
