import ICAL from 'ical.js';
import { linesOn, squeeze, type ComposedLine, type Composition } from '@/core/card';
import { PROOF } from '@/core/messages';
import { shownValue, writtenName } from '@/core/record';
import { proofOf, type Check, type Proof } from './proof';

/**
 * The proof of a contact file: a reader that is not ours (ical.js) parses the bytes that are served; every line ticked for
 * the file must be found, and no value of `withheld` may appear in any property, in any spelling.
 */
export function proveContactFile(file: string, composition: Composition, withheld: string[]): Proof {
  const card = parse(file);
  if (!card) return proofOf([{ name: 'read back', passed: false, finding: PROOF.unreadable }]);
  const values = card
    .filter(([name]) => name !== 'photo')
    .flatMap(([name, , , ...rest]) =>
      rest.flat(2).map((value) => ({ name, value: squeeze(String(value).replace(/\\n/gi, '\n')) })),
    );
  const lines = linesOn(composition, 'file');
  const missing = lines.filter((line) => !arrived(line, values, card));
  const nameArrived = values.some(
    ({ name, value }) => name === 'fn' && value === squeeze(writtenName(composition.name)),
  );
  const all = values
    .filter(({ name }) => name !== 'prodid' && name !== 'uid' && name !== 'rev')
    .map(({ value }) => value)
    .join('\n');
  const leaked = withheld.filter((value) => all.includes(squeeze(value)));
  const checks: Check[] = [
    {
      name: 'ticked lines',
      passed: missing.length === 0 && nameArrived,
      finding: PROOF.tickedLines(lines.length + 1 - missing.length - (nameArrived ? 0 : 1), lines.length + 1),
    },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: leaked.length === 0 ? PROOF.noneOf(withheld.length) : PROOF.stillThere(leaked.length),
    },
    { name: 'size', passed: file.length < 100_000, finding: PROOF.bytes(file.length) },
  ];
  return proofOf(checks);
}

type Property = [name: string, params: object, type: string, ...values: unknown[]];

function parse(file: string): Property[] | null {
  try {
    const parsed = ICAL.parse(file) as unknown as [string, Property[]] | [string, Property[]][];
    const card = (typeof parsed[0] === 'string' ? parsed : parsed[0]) as [string, Property[]];
    return card[0] === 'vcard' ? card[1] : null;
  } catch {
    return null;
  }
}

function arrived(
  { detail, label }: ComposedLine,
  values: { name: string; value: string }[],
  card: Property[],
): boolean {
  const has = (property: string, text: string) =>
    values.some(({ name, value }) => name === property && value.includes(squeeze(text)));
  switch (detail.kind) {
    case 'phone':
      return has('tel', detail.number);
    case 'email':
      return has('email', detail.address);
    case 'link':
      return has('url', detail.url);
    case 'address':
      return [detail.street, detail.locality, detail.postcode].every((part) => !part || has('adr', part));
    case 'organisation':
      return has('org', detail.name);
    case 'title':
    case 'role':
    case 'nickname':
      return has(detail.kind, detail.text);
    case 'pronouns':
      return has('pronouns', detail.text) || has('note', detail.text);
    case 'birthday':
      return has('bday', detail.date) || has('note', detail.date);
    case 'photo':
      return card.some(([name]) => name === 'photo');
    default:
      return detail.kind === 'note'
        ? has('note', shownValue(detail))
        : has('note', (label ? `${label}: ` : '') + shownValue(detail));
  }
}
