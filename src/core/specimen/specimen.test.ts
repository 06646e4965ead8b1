import fc from 'fast-check';
import { CHANNELS, NAME_LINE, type Channel, type Draft } from '@/core/card';
import { proveContactFile } from '@/core/proof/contact-file';
import { readPage } from '@/core/proof/parse-page';
import type { Proof } from '@/core/proof';
import type { PersonRecord } from '@/core/record';
import type { TagContent } from '@/core/code';
import { tagMemory } from '@/core/ndef';
import { writeContactFile, writeFrozenContact } from '@/core/vcard';
import { anyCard } from '../../../tests/fixtures/any-card';
import { specimenCode, specimenFile, specimenTag } from './carried';
import { languageOf, specimenPage, type SpecimenOf } from './index';
import { compressedSize, held, proveSpecimenPage, type Held } from './prove';
import { proveSpecimenCode, proveSpecimenTag } from './prove-code';
import { proveSpecimenFile } from './prove-file';
import { proveSpecimenPiece } from './prove-paper';
import { proveSpecimenSignature } from './prove-signature';
import { heldInTag, recordsIn } from './tag-held';

const NOW = Date.parse('2026-11-30T10:00:00Z');
const LINK = 'https://cards.example/h/7K3M9QWD';
const FROZEN = { hold: 'frozen', link: LINK } as const;
const specimen = (channel: Channel, more: Partial<SpecimenOf> = {}): SpecimenOf => ({
  ...{ channel, hold: 'live', link: LINK, drawn: null, house: null, language: null, now: NOW },
  file: {
    ...{ version: '4.0', uid: 'urn:uuid:1b671a64-40d5-491e-99b0-da01ff1f3341', revised: '2026-11-24T09:30:00Z' },
    ...{ source: 'https://cards.example/c/any', photo: null },
  },
  ...more,
});
const heldOf = (record: PersonRecord, draft: Draft, of: SpecimenOf): Held => {
  const draftHeld = held(record, draft, 'GB', of);
  if (!draftHeld.ok) throw new Error(draftHeld.problem.code);
  return draftHeld.value;
};
const prove = async (of: Held): Promise<Proof> => {
  const { channel } = of.of;
  if (channel === 'page') return proveSpecimenPage(of, compressedSize, readPage);
  if (channel === 'file') return proveSpecimenFile(of);
  if (channel === 'signature') return proveSpecimenSignature(of);
  if (channel === 'code') return proveSpecimenCode(of);
  return channel === 'tag' ? proveSpecimenTag(of) : proveSpecimenPiece(of, channel);
};
const passed = ({ checks }: Proof, code: string) =>
  checks.filter(({ finding }) => finding.code === code).map((check) => check.passed);

describe.each(CHANNELS)('on the channel “%s”', (channel) => {
  test('whatever a card says and ticks, its specimen says every ticked line and no other', async () => {
    await fc.assert(
      fc.asyncProperty(anyCard, async ({ record, draft }) => {
        const proof = await prove(heldOf(record, draft, specimen(channel)));
        // Whether it is small enough, or its colours read, is the draft's own matter.
        for (const code of [
          'UNTICKED',
          'LINES_READ',
          'ON_PAPER',
          'WITHOUT_PICTURES',
          'AS_TEXT',
          'CODE_READ',
          'TAG_READ',
        ])
          expect([code, passed(proof, code).includes(false)]).toEqual([code, false]);
        expect(passed(proof, 'UNTICKED').length).toBeGreaterThan(0);
      }),
      { numRuns: 25 },
    );
  });

  test('a specimen of another draft, which ticks one line more, does not pass for this one', async () => {
    await fc.assert(
      fc.asyncProperty(anyCard, fc.nat(), async ({ record, draft }, which) => {
        const more = draft.lines.filter(({ detail }) => detail !== NAME_LINE);
        const chosen = more[which % more.length]!.detail;
        const withTick = (on: boolean): Draft => ({
          ...draft,
          lines: draft.lines.map((line) =>
            line.detail === chosen ? { ...line, part: null, ticks: { ...line.ticks, [channel]: on } } : line,
          ),
        });
        const of = specimen(channel, FROZEN);
        const [with_, without] = [withTick(true), withTick(false)].map((each) => heldOf(record, each, of));
        // Its words elsewhere on the card are nothing that is withheld.
        fc.pre(without!.withheld.length > with_!.withheld.length);
        const proof = await prove({ ...without!, composition: with_!.composition });
        expect(passed(proof, 'UNTICKED')).toContain(false);
      }),
      { numRuns: 15 },
    );
  });
});

test('a card of several languages is held against what it says in the one that is shown', async () => {
  const record: PersonRecord = {
    name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
    details: [
      { kind: 'title', id: 't', label: '', preferred: false, text: 'Rope inspector', further: { de: 'Seilprüferin' } },
    ],
    kept: [],
  };
  const [{ draft }] = fc.sample(anyCard, { numRuns: 1, seed: 7 }) as unknown as [{ draft: Draft }];
  const name = draft.lines.find(({ detail }) => detail === NAME_LINE)!;
  const both: Draft = {
    ...draft,
    ...{ language: 'en', words: { de: {} } },
    lines: [
      { ...name, part: null },
      { ...name, detail: 't', part: null, label: null },
    ],
  };
  const shown = (language: string | null, channel: Channel = 'page') =>
    heldOf(record, both, specimen(channel, { language }));
  const page = (of: Held) => Object.values(specimenPage(of.composition, of.of)).join(' ');
  expect(page(shown('de'))).toContain('Seilprüferin');
  expect(page(shown(null))).toContain('Rope inspector');
  expect([
    languageOf(shown('de').composition, { language: 'de' }),
    languageOf(shown(null).composition, { language: null }),
  ]).toEqual(['de', 'en']);
  for (const language of ['de', 'en', null]) expect(passed(await prove(shown(language)), 'LINES_READ')).toEqual([true]);
  // The contact file says all of them, so that neither is told as withheld.
  expect(passed(await prove(shown('de', 'file')), 'UNTICKED')).toEqual([true]);
});

test('a live code holds its link and nothing of the card; a frozen one, and one without a link yet, the contact', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const { composition } = heldOf(record, draft, specimen('code'));
      const contact = writeFrozenContact(composition, 'code');
      expect(specimenCode(composition, { hold: 'live', link: LINK }).toUpperCase()).toBe(LINK.toUpperCase());
      expect(specimenCode(composition, FROZEN)).toBe(contact);
      expect(specimenCode(composition, { hold: 'live', link: null })).toBe(contact);
      const tags = [specimenTag(composition, { hold: 'live', link: LINK }), specimenTag(composition, FROZEN)];
      expect(tags.map(({ memory }) => recordsIn(memory).map(({ kind }) => kind))).toEqual([
        ['link'],
        ['link', 'contact'],
      ]);
      expect(tags[0]!.contact).toBeNull();
    }),
    { numRuns: 30 },
  );
});

test('the file of a specimen is the file that recipients get: read back it is the card’s', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const { composition, withheld, of } = heldOf(record, draft, specimen('file'));
      const file = specimenFile(composition, of);
      expect(file).toBe(writeContactFile(composition, of.file));
      expect(passed(proveContactFile(file, composition, withheld, of.file), 'LINES_READ')).toEqual([true]);
    }),
    { numRuns: 20 },
  );
});

test('gzip’s size is that of a server’s at its usual level', async () => {
  const { gzipSync } = await import('node:zlib');
  for (const text of ['', 'x', 'Tarnhope Cableways '.repeat(500), '🐑'.repeat(99)])
    expect(await compressedSize(text)).toBe(gzipSync(text, { level: 6 }).length);
});

describe('what a tag is held against, by what it is to do', () => {
  const contact = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Varrow;Ilse;;;\r\nEND:VCARD\r\n';
  const line = (what: 'call' | 'write' | 'text' | 'link'): TagContent => ({ what, line: 'p' });
  test.each<[string, TagContent, Parameters<typeof tagMemory>[0], object]>([
    ['opens the card', { what: 'card' }, { link: LINK }, { link: LINK, contact: null }],
    ['saves at once', { what: 'save' }, { link: `${LINK}.vcf` }, { link: `${LINK}.vcf`, contact: null }],
    [
      'carries the contact',
      { what: 'contact', form: 'vCard 3.0', link: true },
      { link: LINK, contact },
      { link: LINK, contact },
    ],
    // RFC 2426, 2.4.2: a contact ends with END:VCARD.
    [
      'carries half of one',
      { what: 'contact', form: 'vCard 3.0', link: true },
      { link: LINK, contact: contact.slice(0, -6) },
      { contact: '' },
    ],
    ['carries none', { what: 'contact', form: 'vCard 3.0', link: true }, { link: LINK }, { contact: '' }],
    [
      'says words',
      { what: 'words', text: 'Grüße' },
      { link: LINK, words: { text: 'Grüße', language: 'de' } },
      { link: LINK, words: { text: 'Grüße', language: 'de' } },
    ],
    ['says none', { what: 'words', text: 'Hello' }, { link: LINK }, { words: { text: '', language: '' } }],
    // RFC 3966, RFC 6068, RFC 5724.
    ['calls', line('call'), { link: 'tel:+442079460182' }, { link: 'tel:+442079460182' }],
    ['writes', line('write'), { link: 'mailto:ilse@tarnhope.example' }, { link: 'mailto:ilse@tarnhope.example' }],
    ['texts', line('text'), { link: 'sms:+447700900182' }, { link: 'sms:+447700900182' }],
    ['calls what is a page', line('call'), { link: 'https://tarnhope.example/' }, { link: '' }],
    ['opens a link', line('link'), { link: 'https://tarnhope.example/' }, { link: 'https://tarnhope.example/' }],
  ])('one that %s', (_, content, inside, wanted) => {
    expect(heldInTag(tagMemory(inside), content, LINK)).toMatchObject(wanted);
  });

  test('whatever bytes lie in a tag, it is told what they say or that they say nothing', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (memory) => {
        expect(recordsIn(memory).every(({ kind }) => typeof kind === 'string')).toBe(true);
        expect(heldInTag(memory, { what: 'contact', form: 'vCard 3.0', link: true }, LINK).link).toBe(LINK);
      }),
    );
  });
});
