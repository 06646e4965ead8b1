import {
  cleanText,
  internationalForm,
  nationalForm,
  readDetail,
  readEmail,
  readLink,
  readPhone,
  recognise,
  RecordSchema,
  saidParts,
  saidWhole,
  splitName,
  telUri,
  writtenName,
} from './index';

describe('phones', () => {
  // Numbers of the ranges reserved for drama: Ofcom, and 555-0100 to 0199 of the North American plan.
  test.each([
    ['020 7946 0182', 'GB', '+442079460182'],
    ['+44 (0)20 7946 0182', 'US', '+442079460182'],
    ['07700 900123', 'GB', '+447700900123'],
    ['0044 1632 960123', 'GB', '+441632960123'],
    ['tel:+1-212-555-0123', 'GB', '+12125550123'],
    ['112', 'GB', '112'],
  ])('%s in %s is %s', (typed, country, number) => {
    expect(readPhone(typed, country)).toEqual({ ok: true, value: { number } });
  });

  test('E.164 takes at most 15 digits (ITU-T E.164, 6.1)', () => {
    expect(readPhone('+44 2079 460182 99999999', 'GB').ok).toBe(false);
  });

  test('an extension goes into the tel URI as RFC 3966 5.1.1 says', () => {
    const read = readPhone('020 7946 0182 ext. 12', 'GB');
    expect(read.ok && telUri(read.value)).toBe('tel:+442079460182;ext=12');
    expect(read.ok && internationalForm(read.value)).toBe('+44 20 7946 0182 ext. 12');
  });

  test('both forms are shown', () => {
    expect(nationalForm({ number: '+442079460182' }, 'GB')).toBe('020 7946 0182');
    expect(nationalForm({ number: '+442079460182' }, 'US')).toBe('+44 20 7946 0182');
  });
});

describe('links and mail', () => {
  // WHATWG URL: leading space and tabs within are dropped by the parser, so these would run.
  test.each([
    'javascript:alert(1)',
    ' JavaScript:alert(1)',
    'java\tscript:alert(1)',
    'data:text/html,x',
    'vbscript:x',
    'file:///etc/passwd',
    'blob:https://a.example/x',
  ])('%s is refused', (url) => {
    expect(readLink(url).ok).toBe(false);
  });

  test('a link without scheme gets https and says so', () => {
    expect(readLink('tarnhope.example/visit')).toEqual({
      ok: true,
      value: { url: 'https://tarnhope.example/visit', schemeAdded: true },
    });
    expect(readLink('localhost.example:8080/x')).toMatchObject({ ok: true });
  });

  test('an address of mail has one host with a dot', () => {
    expect(readEmail('Odile@Brandreth.EXAMPLE')).toEqual({ ok: true, value: 'Odile@brandreth.example' });
    for (const wrong of ['odile', 'odile@', 'a b@c.example', 'a@b@c.example', '"<script>"@x.example'])
      expect(readEmail(wrong).ok).toBe(false);
  });

  test('what is typed is recognised', () => {
    expect(recognise('020 7946 0182', 'GB')).toBe('phone');
    expect(recognise('odile@brandreth.example', 'GB')).toBe('email');
    expect(recognise('brandreth.example/listen', 'GB')).toBe('link');
    expect(recognise('Ropeway inspector', 'GB')).toBeNull();
  });
});

test('overrides of the writing direction and control characters are taken out (UAX #9), right-to-left letters stay', () => {
  expect(cleanText('a\u202Eb\u2066c\u0000d\u0007')).toEqual({ text: 'abcd', removed: true });
  expect(cleanText('שלום\u200F')).toMatchObject({ removed: false });
});

test('names are split as N wants them (RFC 6350 6.2.2) and stay as written', () => {
  expect(splitName('Dr. Inês van der Vael, PhD')).toMatchObject({
    prefix: 'Dr.',
    given: 'Inês',
    family: 'van der Vael',
    suffix: 'PhD',
  });
  expect(splitName('Madonna')).toMatchObject({ given: 'Madonna', family: '' });
  expect(writtenName(splitName('Ilse  Varrow'))).toBe('Ilse Varrow');
});

test('how a name is said is parted as the name itself is, in the order in which it is written (from memory of phones’ address books)', () => {
  expect(saidParts('IN-esh fan der VAHL', splitName('Inês van der Vael'))).toEqual({
    given: 'IN-esh',
    family: 'fan der VAHL',
  });
  const lin = { ...splitName('Lin Mei Hua'), family: 'Lin', given: 'Mei Hua', additional: '' };
  expect(saidParts('LEEN may hwah', lin)).toEqual({ given: 'may hwah', family: 'LEEN' });
  expect(saidWhole({ given: 'may hwah', family: 'LEEN' }, lin)).toBe('LEEN may hwah');
  expect(saidParts('mah-DON-ah', splitName('Madonna'))).toEqual({ given: 'mah-DON-ah', family: '' });
  const before = {
    name: { ...splitName('Odile Brandreth'), phoneticGiven: 'OH-deel', phoneticFamily: 'BRAN-dreth' },
    details: [],
  };
  expect(RecordSchema.parse(before)).toMatchObject({ details: [{ kind: 'said', text: 'OH-deel BRAN-dreth' }] });
});

test('a text longer than its limit is refused, not cut', () => {
  expect(readDetail('title', 'x'.repeat(1_001), { id: 'd1', country: 'GB' })).toEqual({
    ok: false,
    problem: { code: 'TEXT_TOO_LONG', limit: 1_000 },
  });
});
