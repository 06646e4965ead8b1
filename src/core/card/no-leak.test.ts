import fc from 'fast-check';
import { faceContent } from '@/core/face';
import { tagMemory } from '@/core/ndef';
import { renderPage } from '@/core/page';
import { OUR_LANGUAGES } from '@/core/language';
import { passFields } from '@/core/pass';
import type { PersonRecord } from '@/core/record';
import { VERSIONS, writeCardAsMeCard, writeContactFile, writeFrozenContact, writeJcard } from '@/core/vcard';
import { anyCard, marksOf, searched } from '../../../tests/fixtures/any-card';
import { writeSignature } from '@/core/signature';
import { CHANNELS, composeDraft, NAME_LINE, type Channel, type Composition } from './index';

const composed = (record: PersonRecord, draft: Parameters<typeof composeDraft>[1]) => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};

const file = (version: (typeof VERSIONS)[number]) => ({
  version,
  uid: 'urn:uuid:0',
  revised: '2026-11-26T00:00:00Z',
  source: 'https://cards.example/c/any',
  photo: null,
});

const NO_PICTURES = { photo: null, logo: null };

/** Everything that leaves on a channel. */
function outputsOf(composition: Composition, channel: Channel): string[] {
  if (channel === 'page')
    return OUR_LANGUAGES.map((language) =>
      renderPage(composition, {
        contactFile: '/c/any.vcf',
        taps: '/c/any/tap',
        photo: null,
        logo: null,
        canonical: 'https://cards.example/c/any',
        drawn: { picture: (format) => `/c/any/picture.${format}`, link: '/c/any/link.jpg' },
        language,
      }),
    );
  if (channel === 'file')
    return [
      ...VERSIONS.map((version) => writeContactFile(composition, file(version))),
      JSON.stringify(writeJcard(composition, file('4.0'))),
      writeCardAsMeCard(composition, file('4.0')).text,
    ];
  if (channel === 'signature') {
    const context = { language: 'en', link: 'https://cards.example/h/0', photo: null, logo: null };
    return (['beside', 'below'] as const).flatMap((layout) =>
      Object.values(
        writeSignature(composition, { layout, parts: { picture: true, link: true, contact: true } }, context),
      ),
    );
  }
  const language = composition.language ?? 'en';
  if (channel === 'print' || channel === 'backdrop')
    return [JSON.stringify(faceContent(composition, language, NO_PICTURES, 'lines', channel))];
  if (channel === 'pass') return [JSON.stringify(passFields(composition, language))];
  const contact = writeFrozenContact(composition, channel);
  return channel === 'tag'
    ? [Buffer.from(tagMemory({ link: 'https://cards.example/h/0', contact })).toString('utf8')]
    : [contact];
}

test('no output carries a value that is not ticked for its channel, in any spelling; what is ticked stands in the page and the file', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const made = composed(record, draft);
      for (const channel of CHANNELS) {
        const carried = draft.lines.filter((line) => line.ticks[channel]).map((line) => line.detail);
        const own = (id: string) => record.details.find((detail) => detail.id === id)!;
        const shown = new Set(carried.filter((id) => id !== NAME_LINE).flatMap((id) => marksOf(own(id))));
        for (const output of outputsOf(made, channel)) {
          const found = searched(output);
          for (const detail of record.details)
            for (const mark of marksOf(detail))
              if (!shown.has(mark)) expect([channel, mark, found.includes(mark)]).toEqual([channel, mark, false]);
        }
        if (channel === 'code' || channel === 'tag') continue;
        // A whole line stands in the first of its outputs with all of its marks.
        const [first] = outputsOf(made, channel);
        const found = searched(first!);
        for (const line of draft.lines)
          if (line.detail !== NAME_LINE && line.ticks[channel] && line.part === null)
            for (const mark of marksOf(own(line.detail)))
              expect([channel, mark, found.includes(mark)]).toEqual([channel, mark, true]);
      }
    }),
    { numRuns: 60 },
  );
});

test('of an address cut to its town, and a name cut to initials, nothing else leaves on any channel', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const made = composed(record, draft);
      for (const line of draft.lines) {
        if (line.part === null) continue;
        const cut: string[] = [];
        const detail = record.details.find(({ id }) => id === line.detail);
        if (detail?.kind === 'address') cut.push(...marksOf({ ...detail, locality: '', label: '' }));
        if (detail?.kind === 'organisation') cut.push(...detail.units);
        if (line.detail === NAME_LINE && line.part !== 'given') cut.push(record.name.given);
        if (line.detail === NAME_LINE && line.part === 'initials') cut.push(record.name.family);
        if (line.detail === NAME_LINE && line.part === 'given') cut.push(record.name.family);
        for (const channel of CHANNELS)
          for (const output of outputsOf(made, channel))
            for (const mark of cut) expect([line.part, searched(output).includes(mark)]).toEqual([line.part, false]);
      }
    }),
    { numRuns: 60 },
  );
});
