import { createHash } from 'node:crypto';
import { mayReach } from '@/core/access';
import { isTransient, orRefuse, Refusal, wordingOf } from '@/core/errors';
import { sayFinding, type Finding } from '@/core/findings';
import {
  apart,
  manifestTable,
  readPattern,
  stemBy,
  type Manifest,
  type NamePart,
  type PackFile,
  type PackKind,
  type PackPerson,
  type PackWanted,
} from '@/core/pack';
import { writtenName } from '@/core/record';
import type { VcardVersion } from '@/core/vcard';
import { PACK } from '@/core/words';
import type { Clock } from '@/server/clock';
import { firstPublished } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { recordNames } from '@/server/db/cards/records';
import { keepMadeFile, keepMadeParts, type LeftOutRow } from '@/server/db/jobs/made-files';
import { inTenant } from '@/server/db/pool';
import { staffById } from '@/server/db/roster/staff';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { refuseStale } from '@/server/services/accounts/fresh';
import { askForJob } from '@/server/services/jobs/jobs';
import { inLanes } from '@/server/services/jobs/lanes';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { loadPublished } from '@/server/services/publishing/load-published';
import { WITHOUT_PASSWORD } from '@/server/services/records/export-contacts';
import { makeKind, type MadeKind } from './pack-person';
import { zipToStore, type ZipToStore } from './zip-to-store';

/** People whose files are made at once: while one is printed, another's are named and zipped. */
const SIDE_BY_SIDE = 3;

/**
 * Asks for one ZIP of the files of many people, of each their first published card. Errors: NOT_ALLOWED, NOT_FOUND, PATTERN_UNREADABLE,
 * PASSWORD_STALE of more than a few, TOO_MANY_JOBS.
 */
export async function askPack(actor: Actor, wanted: PackWanted, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'hand-out.make');
  const pattern = orRefuse(readPattern(wanted.pattern));
  const records = [...new Set(wanted.records)];
  if (records.length > WITHOUT_PASSWORD) refuseStale(actor, clock);
  for (const id of records) authoriseFor(actor, 'hand-out.make', id);
  const { version } = wanted;
  const input = { records: records.join(','), kinds: [...new Set(wanted.kinds)].join(','), pattern, version };
  const job = await inTenant(actor, async (tx) => {
    if ((await recordNames(tx, records)).length < records.length) throw new Refusal({ code: 'NOT_FOUND' });
    const asked = await askForJob(tx, actor, { task: 'pack-files', input, total: records.length }, clock);
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'pack.asked', subject, clock, { people: records.length });
    return asked;
  });
  return { job };
}

/** Somebody's first published card, and what a name of files may say of them. */
async function named(actor: Actor, recordId: string) {
  return inTenant(actor, async (tx) => {
    const person = await staffById(tx, recordId);
    if (!person || person.deleted_at) return null;
    const cardId = (await firstPublished(tx, [recordId])).get(recordId) ?? null;
    const address = cardId === null ? null : ((await currentAddress(tx, cardId)) ?? null);
    const { name, details } = person.body;
    const title = details.find(({ kind }) => kind === 'title');
    const said: Record<NamePart, string> = {
      ...{ family: name.family, given: name.given, name: writtenName(name), staff: person.staff_number ?? '' },
      title: title?.kind === 'title' ? title.text : '',
      ...{ team: person.teams[0] ?? '', office: person.office ?? '', card: address ?? '' },
    };
    return { person: writtenName(name), staffNumber: person.staff_number, address, said };
  });
}

const fileOf = (path: string, kind: PackKind, bytes: Buffer, { checks, link }: MadeKind): PackFile => ({
  ...{ path, kind, link, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') },
  proof: {
    passed: checks.every(({ passed }) => passed),
    checks: checks.map(({ name, passed, finding }) => ({ check: name, passed, says: sayFinding(finding) })),
  },
});

type LeftOut = { record: string; person: string; kind: PackKind | null; finding: Finding | null };
type Packing = {
  actor: Actor;
  clock: Clock;
  zip: ZipToStore;
  used: Set<string>;
  kinds: PackKind[];
  pattern: string;
  version: VcardVersion;
  people: PackPerson[];
  leftOut: LeftOut[];
};

/** One person's files, each proven by itself; what fails its proof is left out, and told. */
async function packPerson(packing: Packing, record: string): Promise<void> {
  const { actor, clock, zip, version, leftOut } = packing;
  const of = await named(actor, record);
  if (!of) return;
  const out = (kind: PackKind | null, finding: Finding | null) =>
    leftOut.push({ record, person: of.person, kind, finding });
  const served = of.address === null ? null : await loadPublished({ address: of.address }, clock);
  if (served?.state !== 'published') return void out(null, null);
  const stem = apart(stemBy(packing.pattern, of.said, of.address!), packing.used);
  const files: PackFile[] = [];
  for (const kind of packing.kinds)
    try {
      const made = await makeKind[kind]({ actor, served, version, clock });
      const failing = made.checks.find(({ passed }) => !passed);
      if (failing) out(kind, failing.finding);
      else {
        for (const { ending, bytes, compress } of made.files) {
          await zip.add(stem + ending, bytes, { compress });
          files.push(fileOf(stem + ending, kind, bytes, made));
        }
      }
    } catch (error) {
      if (!(error instanceof Refusal) || (isTransient(error.problem) && error.problem.code !== 'TOO_LABORIOUS'))
        throw error;
      out(kind, { code: 'WORDED', sentence: wordingOf(error.problem) });
    }
  if (files.length > 0) packing.people.push({ person: of.person, staffNumber: of.staffNumber, files });
}

/** Makes the ZIP that somebody asked for, person by person, into the store as it grows; its manifest last. A second try starts anew. */
export async function packFiles(running: RunningJob): Promise<Record<string, number>> {
  const { id, actor, input, clock, progress } = running;
  authorise(actor, 'hand-out.make');
  const records = String(input.records)
    .split(',')
    .filter((record) => mayReach(actor, 'hand-out.make', record));
  const packing: Packing = {
    ...{ actor, clock, zip: zipToStore(clock.now()), used: new Set(PACK.ownFiles), people: [], leftOut: [] },
    ...{ kinds: String(input.kinds).split(',') as PackKind[], pattern: String(input.pattern) },
    version: String(input.version) as VcardVersion,
  };
  await inLanes(records, { lanes: SIDE_BY_SIDE, progress }, (record) => packPerson(packing, record));
  const people = packing.people.sort((a, b) => a.person.localeCompare(b.person));
  const manifest: Manifest = {
    ...{ made: new Date(clock.now()).toISOString(), organisation: actor.organisation.name },
    ...{ pattern: packing.pattern, people },
    leftOut: packing.leftOut.map(({ person, kind, finding }) => ({
      ...{ person, kind },
      reason: finding ? sayFinding(finding) : PACK.noCard,
    })),
  };
  const [json, csv] = PACK.ownFiles as [string, string];
  await packing.zip.add(json, Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`), { compress: true });
  await packing.zip.add(csv, Buffer.from(manifestTable(manifest)), { compress: true });
  const parts = await packing.zip.end();
  await inTenant(actor, async (tx) => {
    const own = { job_id: id, organisation_id: actor.organisationId };
    const bytes = parts.reduce((sum, part) => sum + part.bytes, 0);
    const left_out: LeftOutRow[] = packing.leftOut.map(({ record, finding }) => ({ record, finding }));
    const row = { ...own, file: null, name: PACK.fileName(people.length), bytes, left_out, records };
    await keepMadeFile(tx, { ...row, created_at: new Date(clock.now()) });
    await keepMadeParts(tx, own, parts);
  });
  return { people: people.length, files: people.reduce((sum, { files }) => sum + files.length, 0) };
}
