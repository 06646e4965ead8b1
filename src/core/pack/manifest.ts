import { csvOf } from '@/core/sheet';

/** What a pack may hold of each person. */
export const PACK_KINDS = ['contact file', 'code', 'signature', 'print'] as const;
export type PackKind = (typeof PACK_KINDS)[number];

/** A file of somebody in a pack, with the proof that it was held against. */
export type PackFile = {
  path: string;
  kind: PackKind;
  /** Where the code or link in it leads; null of a contact file, which has no link of its own. */
  link: string | null;
  bytes: number;
  /** SHA-256 in hexadecimal. */
  sha256: string;
  proof: { passed: boolean; checks: { check: string; passed: boolean; says: string }[] };
};

/** Somebody in a pack, and their files. */
export type PackPerson = { person: string; staffNumber: string | null; files: PackFile[] };

export type Manifest = {
  made: string;
  organisation: string;
  pattern: string;
  people: PackPerson[];
  leftOut: { person: string; kind: PackKind | null; reason: string }[];
};

/** The files of a manifest as a table, a row each. */
export function manifestTable({ people }: Manifest): string {
  const rows = people.flatMap(({ person, staffNumber, files }) =>
    files.map(({ path, kind, link, bytes, sha256, proof }) => [
      ...[person, staffNumber ?? '', kind, path, link ?? '', String(bytes), sha256],
      proof.passed ? 'proven' : 'not proven',
    ]),
  );
  return csvOf([['person', 'staff number', 'kind', 'file', 'link', 'bytes', 'sha-256', 'proof'], ...rows]);
}
