import fc from 'fast-check';
import type { BarButton } from '@/core/card';
import type { Detail } from '@/core/record';
import { barHref, placed } from './bar';

const button = (act: BarButton['act'], text = '', subject = ''): BarButton => ({
  id: 'b',
  act,
  line: null,
  text,
  subject,
});
const mail: Detail = {
  kind: 'email',
  id: 'm',
  label: '',
  preferred: false,
  address: 'ilse+fair@tarnhope.example',
  uses: [],
};
const phone: Detail = { kind: 'phone', id: 'p', label: '', preferred: false, number: '+447700900182', uses: ['text'] };
const words = fc.string({ unit: 'grapheme', maxLength: 60 }).filter((text) => !text.includes('{placement}'));

/** The fields of a mailto URI as RFC 6068 2 has them: `hfname=hfvalue`, percent-encoded, joined by `&`; `+` is a plus. */
function fieldsOf(uri: string): Record<string, string> {
  const [, query = ''] = uri.split('?');
  return Object.fromEntries(
    query
      .split('&')
      .filter(Boolean)
      .map((field) => field.split('=').map(decodeURIComponent) as [string, string]),
  );
}

test('a mail opens with its very subject and body, breaks as CRLF (RFC 6068 2 and 5)', () => {
  fc.assert(
    fc.property(words, words, (subject, text) => {
      const uri = barHref(button('mail', text, subject), mail, null)!;
      const wanted = { subject: placed(subject, null), body: placed(text, null) };
      const fields = fieldsOf(uri);
      expect(fields.subject ?? '').toBe(wanted.subject);
      expect(fields.body ?? '').toBe(wanted.body.replace(/\r?\n/g, '\r\n'));
      expect(decodeURIComponent(uri.slice('mailto:'.length).split('?')[0]!)).toBe('ilse+fair@tarnhope.example');
    }),
  );
  // RFC 6068 6.1's own example of a body of two lines.
  expect(barHref(button('mail', 'send current-issue\nsend index'), mail, null)).toContain(
    'body=send%20current-issue%0D%0Asend%20index',
  );
});

test('a text carries its body (RFC 5724 2.2), a chat its words as `text`, whatever the link had before', () => {
  expect(barHref(button('text', 'On my way & soon'), phone, null)).toBe(
    'sms:+447700900182?body=On%20my%20way%20%26%20soon',
  );
  fc.assert(
    fc.property(words, (text) => {
      const chat: Detail = {
        kind: 'link',
        id: 'l',
        label: '',
        preferred: false,
        url: 'https://chat.example/ilse?from=card&text=old',
        uses: [],
      };
      const opened = new URL(barHref(button('chat', text), chat, null)!);
      expect(opened.searchParams.get('from')).toBe('card');
      expect(opened.searchParams.get('text')).toBe(placed(text, null) || 'old');
    }),
  );
});

test('where it was handed out stands where it is asked for, and leaves no hole where nobody knows it', () => {
  expect(placed('Hello from {placement}, stand 4', 'Cable Days')).toBe('Hello from Cable Days, stand 4');
  expect(placed('We met ({placement}) today', null)).toBe('We met today');
  expect(placed('{placement}', null)).toBe('');
  // What a placement is called is no instruction of its own.
  expect(placed('At {placement}', '{placement} $& $1')).toBe('At {placement} $& $1');
});
