import { readFileSync } from 'node:fs';
import type { Finding } from './index';
import { sayFinding } from './index';

/** Data of findings by the type that the source writes: what is found for few and for many. */
const SAMPLES: Record<string, [few: unknown, many: unknown]> = {
  number: [1, 7_919],
  "'overlap' | 'beyond'": ['overlap', 'beyond'],
  boolean: [true, false],
  string: ['Zq', 'Zq and more'],
  'string[]': [['Zq'], ['Zq', 'Zr']],
  '(string | null)[]': [[], ['Zq', null]],
};

/** Every finding that the source lists, with either sample. */
const ALL: Finding[] = [
  ...readFileSync('src/core/findings/finding.ts', 'utf8')
    .split('export type Caution')[0]!
    .matchAll(/^ {2}\| \{ code: '(\w+)'(.*?) \};?$/gm),
].flatMap(([, code, fields]) =>
  [0, 1].map(
    (at) =>
      ({
        code,
        ...Object.fromEntries(
          [...fields!.matchAll(/; (\w+): ([^;]+?)(?=;|$)/g)].map(([, name, type]) => {
            const sample = SAMPLES[type!.trim()];
            if (!sample) throw new Error(`The type ${type} of a finding has no sample.`);
            return [name, sample[at]];
          }),
        ),
      }) as Finding,
  ),
);

test('every finding is a sentence that a person reads, without a code or a word of the machine', () => {
  expect(ALL.length).toBeGreaterThan(40);
  for (const finding of ALL) {
    if (finding.code === 'WORDED') continue;
    const said = sayFinding(finding);
    expect([finding.code, said, /^[\p{Lu}\d]/u.test(said), /[.!?]$/.test(said)]).toEqual([
      finding.code,
      said,
      true,
      true,
    ]);
    expect([finding.code, /undefined|NaN|\[object|null|  |[a-z]'[a-z]/.exec(said)?.[0] ?? null]).toEqual([
      finding.code,
      null,
    ]);
    expect([finding.code, said.includes(finding.code)]).toEqual([finding.code, false]);
  }
});

test('what was not found is named; a name that was not found is called so', () => {
  expect(sayFinding({ code: 'LINES_READ', read: 1, of: 3, missing: ['Desk', null] })).toBe(
    '1 of 3 ticked lines read back. Not found: Desk, Name.',
  );
  expect(sayFinding({ code: 'UNTICKED', still: 0, of: 9 })).not.toContain('still');
});
