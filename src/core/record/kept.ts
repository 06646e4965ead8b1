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
  return { name: name.charAt(0).toUpperCase() + name.slice(1), value };
}
