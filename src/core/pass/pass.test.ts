import fc from 'fast-check';
import { composeDraft, linesOn, squeeze } from '@/core/card';
import { loadWords } from '@/core/messages';
import { shownValue, writtenName } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { passFields, textsOfPass, writePass } from './index';

beforeAll(() => loadWords('en'));

test('a pass says every line that is ticked for it once, on one side or the other, and in full what its front may cut short', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const composition = made.value;
      const fields = passFields(composition, 'en');
      const { primary, secondary, back } = fields;
      const all = [...primary, ...secondary, ...back];
      // Keys tell fields apart (the package format's published reference): none is used twice.
      expect(new Set(all.map(({ key }) => key)).size).toBe(all.length);
      const wanted = linesOn(composition, 'pass').filter(({ detail: { kind } }) => kind !== 'photo' && kind !== 'logo');
      const said = squeeze(textsOfPass(fields).join('\n'));
      expect(said).toContain(squeeze(writtenName(composition.name)));
      for (const { detail } of wanted) expect(said).toContain(squeeze(shownValue(detail)));
      expect(all.filter(({ key }) => !key.endsWith('-whole'))).toHaveLength(wanted.length + 1);
      for (const { value } of [...primary, ...secondary])
        if (Array.from(value).length > 28) expect(back.map((each) => each.value)).toContain(value);
      expect(secondary.length).toBeLessThanOrEqual(2);
    }),
    { numRuns: 80 },
  );
});

test('what is void shows no code; what is out shows its link, in letters that its encoding has', () => {
  fc.assert(
    fc.property(anyCard, fc.boolean(), ({ record, draft }, voided) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const link = 'https://cards.example/h/7K3M9QWD';
      const pass = writePass({
        ...{ composition: made.value, language: 'en', link, voided, serial: '7K3M9QWD', token: 't'.repeat(32) },
        ...{ passType: 'pass.example.card', team: 'TEAM', organisation: 'Tarnhope', description: 'Card' },
        service: 'https://studio.example/api/pass',
      });
      const code = { format: 'PKBarcodeFormatQR', message: link, messageEncoding: 'iso-8859-1' };
      expect(pass.barcodes).toEqual(voided ? undefined : [code]);
      expect(pass.voided).toBe(voided || undefined);
      for (const colour of ['backgroundColor', 'foregroundColor', 'labelColor'])
        expect(pass[colour]).toMatch(/^rgb\(\d{1,3}, \d{1,3}, \d{1,3}\)$/);
    }),
    { numRuns: 30 },
  );
});
