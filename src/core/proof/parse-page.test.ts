import { readPage } from './parse-page';

test('what a reader finds: the page’s language, code only within style and script, addresses as they read', () => {
  const read = (page: string) => readPage(page);
  expect(read('<html lang="de"><p lang="fr">x</p></html>').language).toBe('de');
  expect(read('<p lang="fr">x</p>').language).toBe('');
  expect(read('<style>p{}</style><p>"no code" //x.example</p>').pieces).toContain('"no code" //x.example');
  expect(read('"first"<p>').pieces[0]).toBe('"first"');
  expect(read('<p class="secret">a</p>').pieces).toEqual(['a']);
  expect(read('<a href="/x?b=%2B44+20">y</a>').pieces).toEqual(['/x?b=%2B44+20', 'y', '/x?b=+44 20']);
  for (const loads of [
    '<link rel=stylesheet href=//x.example>',
    '<form action="https://x.example">',
    '<p style="background:url(//x.example)">',
  ])
    expect([loads, read(loads).outside.length]).toEqual([loads, 1]);
  for (const names of [
    '<a href=//x.example>',
    '<link rel=me href=//x.example>',
    '<link title=//x.example rel=icon href=/i>',
    '<style>a{}</style><p>url(//x.example)',
  ])
    expect([names, read(names).outside]).toEqual([names, []]);
});
