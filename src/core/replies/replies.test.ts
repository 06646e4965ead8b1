import fc from 'fast-check';
import { shownValue, writtenName } from '@/core/record';
import {
  contentOf,
  isConfirmingName,
  judgeReply,
  readReply,
  recordOfReply,
  ToldSchema,
  typedOf,
  withToldInstead,
} from './index';

const GB = { country: 'GB', question: 'Which day?' };
const typed = (fields: Record<string, string>) => typedOf((field) => fields[field] ?? null);
const told = (fields: Record<string, string>) => ToldSchema.parse(fields);

test('a name and one way to reach somebody are enough; a way is a mail address (RFC 5322) or a number (E.164), whichever was typed', () => {
  const read = readReply(
    typed({ name: '  Ines   Vael ', reach: '020 7946 0182', other: 'Ines@VAEL.example', answer: 'Tuesday' }),
    GB,
  );
  expect(read).toMatchObject({
    ...{ ok: true, email: 'Ines@vael.example' },
    told: { name: 'Ines Vael', reach: '020 7946 0182', question: 'Which day?', answer: 'Tuesday' },
  });
  const record = recordOfReply((read as { told: ReturnType<typeof told> }).told, 'GB');
  expect(record.details.map((detail) => [detail.kind, shownValue(detail)])).toEqual([
    ['phone', '+44 20 7946 0182'],
    ['email', 'Ines@vael.example'],
  ]);
  expect(readReply(typed({ name: '\u200b ', reach: 'x', note: 'y'.repeat(2_001) }), GB)).toMatchObject({
    wrong: { name: { why: 'missing' }, reach: { why: 'unreadable' }, note: { why: 'long', limit: 2_000 } },
  });
});

test('whatever was typed, a reply that is taken has no line breaks where a header could begin, and its record holds nothing else (property)', () => {
  const nasty = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 80 }),
    fc.constantFrom('a\r\nBcc: b@c.example', 'x'.repeat(10_000), '\u0000'),
  );
  fc.assert(
    fc.property(nasty, nasty, nasty, (name, note, firm) => {
      const read = readReply(typed({ name, reach: 'a@b.example', note, firm }), GB);
      if (!read.ok) return;
      expect(`${read.told.name}${read.told.firm}${read.told.reach}`).not.toMatch(/[\r\n\u0000]/);
      expect(writtenName(recordOfReply(read.told, 'GB').name).length).toBeLessThanOrEqual(200);
    }),
  );
});

test('what looks wrong is told by signs alone; a sign that nobody can read counts as one, none stays none', () => {
  const fine = {
    hidden: '',
    took: 5_000,
    sinceView: null,
    manyFromOne: false,
    manyToOne: false,
    words: 'https://a.example',
  };
  expect(judgeReply(fine)).toEqual([]);
  expect(judgeReply({ ...fine, took: Number('soon') })).toEqual(['too fast']);
  expect(judgeReply({ ...fine, took: null, sinceView: 2_999 })).toEqual(['too fast']);
  expect(judgeReply({ ...fine, took: null })).toEqual([]);
  const all = {
    hidden: 'x',
    took: 1,
    sinceView: null,
    manyFromOne: true,
    manyToOne: true,
    words: 'http://a http://b www.c',
  };
  expect(judgeReply(all)).toEqual(['hidden field', 'too fast', 'many from one', 'many to one', 'links']);
});

test('the name that was given opens what is held, however it is spelled, and no other does; an empty one opens nothing', () => {
  const ines = told({ name: 'Inès  van der Vael' });
  expect(
    ['inès van der vael', 'INÈS VAN-DER VAEL.', 'Ines van der Vael', '', ' '].map((name) =>
      isConfirmingName(ines, name),
    ),
  ).toEqual([...[true, true, false, false, false]]);
  expect(isConfirmingName(told({}), '')).toBe(false);
});

test('what was told anew takes the place of what was told before; what the holder has put there stays', () => {
  const before = told({ name: 'Ines Vael', reach: 'ines@vael.example', firm: 'Vael' });
  const record = recordOfReply(before, 'GB');
  const own = { kind: 'title' as const, id: 'reach', label: '', preferred: false, text: 'Rope buyer' };
  const kept = { ...record, details: [...record.details.map((detail) => ({ ...detail, id: `x${detail.id}` })), own] };
  const next = withToldInstead(kept, before, told({ name: 'Ines Ros', reach: '020 7946 0182' }), 'GB');
  expect([writtenName(next.name), next.details.map((detail) => [detail.kind, shownValue(detail)])]).toEqual([
    'Ines Ros',
    [
      ['phone', '+44 20 7946 0182'],
      ['title', 'Rope buyer'],
    ],
  ]);
  expect(new Set(next.details.map(({ id }) => id)).size).toBe(2);
  expect(contentOf(before)).not.toBe(contentOf(told({ name: 'Ines Vael', reach: 'ines@vael.example' })));
});
