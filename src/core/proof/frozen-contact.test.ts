import fc from 'fast-check';
import { composeDraft } from '@/core/card';
import { CONTACT_FORMS, contactText, type ContactForm } from '@/core/code';
import { anyCard } from '../../../tests/fixtures/any-card';
import { proveFrozenContact } from './frozen-contact';

const LINK = 'https://cards.example/h/7QX2M9KD';
const READ_AS = { 'vCard 3.0': '3.0', 'vCard 4.0': '4.0', MeCard: 'MeCard' } as const;
const composed = ({ record, draft }: typeof anyCard extends fc.Arbitrary<infer T> ? T : never) => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};

test.each(CONTACT_FORMS)(
  '%s of any card reads as its lines say; a property less or more is found',
  (form: ContactForm) => {
    fc.assert(
      fc.property(anyCard, fc.nat(), (any, at) => {
        const composition = composed(any);
        const prove = (text: string) =>
          proveFrozenContact(text, composition, { channel: 'code', link: LINK, version: READ_AS[form] });
        const { text } = contactText(composition, form, LINK);
        expect(prove(text)).toEqual({ missing: [], more: [] });
        // Ofcom keeps this number for fiction; no card of these has it.
        const more =
          form === 'MeCard'
            ? text.replace(/;;$/, ';TEL:+443069990182;;')
            : text.replace(/END:/, 'TEL:+443069990182\r\nEND:');
        expect(prove(more)?.more).toEqual(['TEL']);
        const properties =
          form === 'MeCard'
            ? text.match(/;(?:TEL|EMAIL|URL):(?:\\.|[^;\\])*/g)!
            : unfolded(text).match(/^(?!BEGIN|END|VERSION).*\r\n/gm)!;
        const one = properties[at % properties.length]!;
        const without = form === 'MeCard' ? text.replace(one, '') : unfolded(text).replace(one, '');
        expect([one, prove(without)?.missing.length]).toEqual([one, 1]);
      }),
    );
  },
);

const unfolded = (text: string) => text.replace(/\r\n /g, '');

test('what is no contact is none', () => {
  const [any] = fc.sample(anyCard, 1);
  for (const version of ['3.0', '4.0', 'MeCard'] as const)
    expect(proveFrozenContact('BEGIN:VCARD', composed(any!), { channel: 'code', link: null, version })).toBeNull();
});
