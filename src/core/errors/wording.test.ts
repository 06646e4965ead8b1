import { readFileSync } from 'node:fs';
import { isTransient, statusOf, wordingOf, type Problem } from './index';

/** Data of each kind that a problem carries, by its type as the source writes it. */
const SAMPLES: Record<string, unknown> = {
  string: 'zqsample.',
  number: 7,
  Finding: { code: 'UNTICKED', still: 1, of: 9 },
  PasswordWeakness: 'short',
};

/** Every problem of the catalogue with made-up data, as the union in the source lists them. */
const ALL: Problem[] = [
  ...readFileSync('src/core/errors/problems.ts', 'utf8').matchAll(/^ {2}\| \{ code: '(\w+)'(.*?) \}/gm),
].map(
  ([, code, fields]) =>
    ({
      code,
      ...Object.fromEntries(
        [...fields!.matchAll(/(\w+): (\w+)/g)].map(([, name, type]) => {
          if (!(type! in SAMPLES)) throw new Error(`The type ${type} of a problem has no sample.`);
          return [name, SAMPLES[type!]];
        }),
      ),
    }) as Problem,
);

test('every problem is said in whole sentences that hold its figures, without a word of the machine', () => {
  expect(ALL.length).toBeGreaterThan(100);
  for (const problem of ALL) {
    const said = wordingOf(problem);
    expect([problem.code, /^[\p{Lu}“\d]/u.test(said), /[.!?”]$/u.test(said)]).toEqual([problem.code, true, true]);
    expect([
      problem.code,
      /undefined|NaN|\[object|null|true|false|  |\.\.\.|[a-z]'[a-z]/.exec(said)?.[0] ?? null,
    ]).toEqual([problem.code, null]);
    // A code is for programs.
    expect([problem.code, said.includes(problem.code)]).toEqual([problem.code, false]);
  }
});

// RFC 9110 15: what a client did is 4xx; what passes by itself, or never should have been, is 5xx.
test('every problem has a status of its kind; what passes by itself is asked for again', () => {
  for (const problem of ALL) {
    const status = statusOf(problem);
    expect([problem.code, status >= 400 && status < 600]).toEqual([problem.code, true]);
    if (isTransient(problem)) expect([problem.code, status]).toEqual([problem.code, 503]);
  }
  const of = (code: Problem['code']) => statusOf(ALL.find((each) => each.code === code)!);
  expect(
    ['NOT_FOUND', 'NOT_ALLOWED', 'SIGNED_OUT', 'TOO_MANY_REQUESTS', 'UNEXPECTED', 'CARD_CHANGED'].map((code) =>
      of(code as 'INPUT'),
    ),
  ).toEqual([404, 403, 401, 429, 500, 409]);
});
