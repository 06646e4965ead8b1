import fc from 'fast-check';
import { manifestTable } from './manifest';
import { apart, NAME_PARTS, readPattern, stemBy, type NamePart } from './naming';

const said = (given: Partial<Record<NamePart, string>>): Record<NamePart, string> =>
  Object.fromEntries(NAME_PARTS.map((part) => [part, given[part] ?? ''])) as Record<NamePart, string>;
const stem = (pattern: string, given: Partial<Record<NamePart, string>>) => {
  const read = readPattern(pattern);
  return read.ok ? stemBy(read.value, said(given), 'their-card') : read.problem;
};

test.each<[string, Partial<Record<NamePart, string>>, string]>([
  ['{family}-{given}', { family: 'Varrow', given: 'Ilse' }, 'Varrow-Ilse'],
  ['{team}/{family}, {given}', { team: 'Ropes/Rescue', family: 'Varrow', given: 'Ilse' }, 'Ropes-Rescue/Varrow, Ilse'],
  ['{staff} {name}', { name: 'Øyvind Åse' }, 'Øyvind Åse'],
  ['{family}', { family: '../../etc/passwd' }, 'etc-passwd'],
  ['{family}', { family: '..' }, 'their-card'],
  ['{team}/{family}', { team: '..', family: 'Ros' }, 'Ros'],
  // Device names, by Microsoft, "Naming Files, Paths, and Namespaces".
  ['{family}', { family: 'Con' }, '_Con'],
  ['{family}', { family: 'aux.h' }, '_aux.h'],
  ['{family}', { family: 'Ros\u202Efdp.exe' }, 'Ros-fdp.exe'],
  ['/{family}/', { family: 'Ros' }, 'Ros/their-card'],
])('%s of %j is %s', (pattern, given, wanted) => expect(stem(pattern, given)).toBe(wanted));

test.each(['{salary}', '{family', 'a}b', '{{family}}'])('%s is no pattern', (pattern) =>
  expect(stem(pattern, {})).toMatchObject({ code: 'PATTERN_UNREADABLE' }),
);

test('whatever people are called, a name is one that every file system takes, below its folder, and nobody’s but theirs', () => {
  const text = fc.oneof(
    fc.string({ unit: 'binary', maxLength: 60 }),
    fc.constantFrom('..', '/', 'NUL', 'a/../b', ' .', 'COM¹', 'x'.repeat(400), 'é'.repeat(150), '\0', 'C:\\x'),
  );
  const person = fc.record(Object.fromEntries(NAME_PARTS.map((part) => [part, text])));
  const pattern = fc.constantFrom(
    '{family}-{given}',
    '{team}/{office}/{name}',
    '{staff}',
    '../{card}',
    '{title}.{family}',
  );
  fc.assert(
    fc.property(pattern, fc.array(person, { minLength: 1, maxLength: 6 }), (wanted, people) => {
      const used = new Set<string>();
      const names = people.map((each) => apart(stemBy(wanted, said(each), 'card'), used));
      for (const name of names)
        for (const part of name.split('/')) {
          expect(part).toMatch(/^[^<>:"\\|?*\p{Cc}\p{Cf}]+$/u);
          // ext4 and APFS: 255 bytes a name; endings and numbers come on top.
          expect(Buffer.byteLength(part)).toBeLessThanOrEqual(210);
          expect(part).not.toMatch(/^\.|[. ]$|^(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(?:\.|$)/i);
        }
      expect(new Set(names.map((name) => name.normalize('NFC').toLowerCase())).size).toBe(names.length);
    }),
    { numRuns: 400 },
  );
});

test('a manifest’s table holds no formula', () => {
  const file = {
    path: '=1+1.vcf',
    kind: 'code' as const,
    link: '-2',
    bytes: 1,
    sha256: 'f',
    proof: { passed: true, checks: [] },
  };
  const people = [{ person: '@SUM(A1)', staffNumber: '+1', files: [file] }];
  const table = manifestTable({ made: '', organisation: '', pattern: '', people, leftOut: [] });
  expect(table.split('\r\n')[1]).toBe(`"'@SUM(A1)","'+1","code","'=1+1.vcf","'-2","1","f","proven"`);
});
