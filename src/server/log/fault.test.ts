import fc from 'fast-check';
import { Refusal } from '@/core/errors';
import { codeOfError, framesOf } from './fault';

const SECRET = 'ilse@tarnhope.example';

test('of an error its code is told and where it came from, and never a word of its message', () => {
  const words = fc.oneof(
    fc.string({ maxLength: 60 }),
    // Words that look like a frame.
    fc.constantFrom(
      `${SECRET}\n    at ${SECRET} (/home/ilse/secret.ts:1:1)`,
      `\n    at async x (file:///tmp/${SECRET}:1:1)`,
      `    at node:${SECRET}:1:1`,
    ),
  );
  fc.assert(
    fc.property(words, (message) => {
      const error = new Error(`${SECRET} ${message}`);
      const told = JSON.stringify([codeOfError(error), framesOf(error)]);
      expect(told).not.toContain('tarnhope');
      expect(framesOf(error)[0]).toMatch(/src\/server\/log\/fault\.test\.ts:\d+$/);
      for (const frame of framesOf(error))
        expect(frame).toMatch(/^(?:[^/]* )?(?:src|node_modules|tests|node:)[\w/:.@+-]*:\d+$/);
    }),
  );
});

test('a problem is told by its code, the database’s and the system’s errors by theirs, and what is no error by nothing of itself', () => {
  expect(codeOfError(new Refusal({ code: 'NOT_FOUND' }))).toBe('NOT_FOUND');
  expect(codeOfError(Object.assign(new Error(SECRET), { code: '40P01' }))).toBe('40P01');
  expect(codeOfError(Object.assign(new Error(SECRET), { code: 7 }))).toBe('Error');
  expect([codeOfError(null), codeOfError(SECRET), codeOfError(new TypeError(SECRET))]).toEqual([
    'unknown',
    'unknown',
    'TypeError',
  ]);
  expect(codeOfError({ code: 'x'.repeat(200) })).toHaveLength(60);
  expect([framesOf(SECRET), framesOf(null), framesOf(Object.assign(new Error(), { stack: 7 }))]).toEqual([[], [], []]);
});
