/** Properties whose names are short forms (RFC 6350 6). */
const NAMED: Record<string, string> = {
  adr: 'Address',
  bday: 'Birthday',
  email: 'E-mail',
  fburl: 'Free and busy times',
  impp: 'Chat',
  lang: 'Language',
  org: 'Firm',
  tel: 'Phone',
  tz: 'Time zone',
  url: 'Link',
};

/**
 * A kept content line (RFC 6350 3.3) as people read it: `item1.X-SERVICE-RANK;TYPE=x:2` is "Service rank" and "2". Parameters and
 * groups are left out.
 */
export function keptInWords(property: string): { name: string; value: string } {
  const head = /^(?:"[^"]*"|[^":])*/.exec(property)![0];
  const name = head
    .split(';')[0]!
    .replace(/^[^.]*\./, '')
    .replace(/^x-/i, '')
    .replace(/[-_]+/g, ' ')
    .trim()
    .toLowerCase();
  const value = property
    .slice(head.length + 1)
    .replace(/\\n/gi, ' ')
    .replace(/\\([\\,;])/g, '$1')
    .trim();
  return { name: NAMED[name] ?? name.charAt(0).toUpperCase() + name.slice(1), value };
}
