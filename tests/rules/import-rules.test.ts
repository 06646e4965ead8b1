import { execFileSync } from 'node:child_process';

/**
 * The canary of the lint rules on imports and on words outside the catalogue: without its resolver or its three check options the linter passes everything in
 * silence, so snippets known to be bad must be refused and a good one must pass.
 */
const BAD: { path: string; code: string; rule: string }[] = [
  {
    path: 'src/core/card/canary.ts',
    code: "import { db } from '@/server/db/pool';\nexport const x = db;",
    rule: 'boundaries/dependencies',
  },
  {
    path: 'src/core/card/canary.ts',
    code: "import fs from 'node:fs';\nexport const x = fs;",
    rule: 'boundaries/dependencies',
  },
  {
    path: 'src/core/card/canary.ts',
    code: "import sharp from 'sharp';\nexport const x = sharp;",
    rule: 'boundaries/dependencies',
  },
  { path: 'src/core/card/canary.ts', code: 'export const x = Date.now();', rule: 'no-restricted-properties' },
  { path: 'src/core/card/canary.ts', code: 'export const x = new Date();', rule: 'no-restricted-syntax' },
  { path: 'src/core/card/canary.ts', code: "export const x = fetch('/');", rule: 'no-restricted-globals' },
  {
    path: 'src/core/look/canary.ts',
    code: "import { compose } from '@/core/card';\nexport const x = compose;",
    rule: 'no-restricted-imports',
  },
  {
    path: 'src/ui/card/canary.tsx',
    code: "import { compose } from '@/core/card/compose';\nexport const x = compose;",
    rule: 'no-restricted-imports',
  },
  { path: 'src/core/canaries/canary.ts', code: 'export const x = 1;', rule: 'no-restricted-syntax' },
  {
    path: 'src/ui/card/canary.tsx',
    code: "import { signIn } from '@/server/services/accounts/sign-in';\nexport const x = signIn;",
    rule: 'boundaries/dependencies',
  },
  {
    path: 'src/ui/card/canary.tsx',
    code: "import knex from 'knex';\nexport const x = knex;",
    rule: 'boundaries/dependencies',
  },
  {
    path: 'src/app/canary.ts',
    code: "import { card } from '@/server/db/cards/cards';\nexport const x = card;",
    rule: 'boundaries/dependencies',
  },
  {
    path: 'src/recipient/canary.ts',
    code: "import next from 'next';\nexport const x = next;",
    rule: 'boundaries/dependencies',
  },
  { path: 'src/server/services/canary.ts', code: 'export const x = process.env.HOME;', rule: 'no-restricted-syntax' },
  { path: 'src/ui/card/canary.tsx', code: 'export const X = () => <p>Words</p>;', rule: 'no-restricted-syntax' },
  {
    path: 'src/ui/card/canary.tsx',
    code: 'export const X = ({ on }: { on: boolean }) => <p title="Words">{on ? "Words" : null}</p>;',
    rule: 'no-restricted-syntax',
  },
  { path: 'src/app/canary.tsx', code: "export const metadata = { title: 'Words' };", rule: 'no-restricted-syntax' },
  { path: 'src/elsewhere/canary.ts', code: 'export const x = 1;', rule: 'boundaries/no-unknown-files' },
];
const GOOD = [
  {
    path: 'src/server/services/canary.ts',
    code: "import { card } from '@/server/db/cards/cards';\nexport const x = card;",
  },
  {
    path: 'src/ui/card/canary.tsx',
    code: 'import { FRAME } from \'@/core/messages\';\nexport const X = () => <p className="a b">{FRAME.undo} ●</p>;',
  },
];

test('every forbidden import, call and literal text is refused, allowed ones are not', () => {
  const output = execFileSync(process.execPath, ['tests/rules/lint-snippets.mjs'], {
    input: JSON.stringify([...BAD, ...GOOD]),
    encoding: 'utf8',
  });
  const answers = JSON.parse(output) as string[][];
  const missed = BAD.filter(({ rule }, at) => !answers[at]!.includes(rule));
  expect(missed).toEqual([]);
  expect(answers.slice(BAD.length)).toEqual(GOOD.map(() => []));
}, 60_000);
