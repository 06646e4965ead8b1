import { targetOf } from './target';

/** RFC 3986 5.4 (its examples of dot segments) and 6.2.2; the rest are spellings that a framework reads as the same address. */
test('a path has one form, whatever it is spelt like', () => {
  for (const [given, is] of [
    ['/c/odile', '/c/odile'],
    ['/./c/odile', '/c/odile'],
    ['/b/c/../../c/odile', '/c/odile'],
    ['/../../c/odile', '/c/odile'],
    ['//c//odile', '/c/odile'],
    ['/%63/%6fdile', '/c/odile'],
    ['/%2E%2e/c/odile%2Dclients?x=%2e', '/c/odile-clients?x=%2e'],
    ['/\\c%5codile', '/c/odile'],
    ['https://elsewhere.example/c/odile?q', '/c/odile?q'],
    ['/c/odile/', '/c/odile/'],
    ['/c/odile/.', '/c/odile/'],
    ['/', '/'],
    ['/%252e/c', '/%252e/c'],
    ['/c/%C3%A9', '/c/%C3%A9'],
  ])
    expect([given, targetOf('GET', given)]).toEqual([given, { ok: true, url: is }]);
});

test('what is no address of ours is refused', () => {
  expect(targetOf('TRACE', '/')).toEqual({ ok: false, status: 405 });
  expect(targetOf('CONNECT', 'host:1')).toEqual({ ok: false, status: 405 });
  for (const given of ['', '*', 'c/odile', 'ftp://x/c/y', '/%ff', '/%', '/a b', '/a\u0000', '/a#b'])
    expect([given, targetOf('GET', given)]).toEqual([given, { ok: false, status: 400 }]);
  expect(targetOf('GET', `/${'x'.repeat(8_001)}`)).toEqual({ ok: false, status: 414 });
});
