import { compose } from '@/core/card';
import { writtenName } from '@/core/record';
import type { Line } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { leaveOutFor, tagOf } from './in-tag';

const LINK = 'https://c.example/h/7K3M9QWD';
const common = { label: '', preferred: false };
const record: PersonRecord = {
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  kept: [],
  details: [
    { kind: 'phone', id: 'work', ...common, number: '+442079460182', uses: ['work'] },
    { kind: 'email', id: 'mail', ...common, address: 'ilse@tarnhope.example', uses: ['work'] },
    { kind: 'note', id: 'note', ...common, text: 'Inspects ropes, splices and clamps. '.repeat(8) },
  ],
};
const ticks = {
  page: true,
  file: true,
  code: false,
  tag: true,
  signature: false,
  print: false,
  backdrop: false,
  pass: false,
};
const lines = ['name', ...record.details.map(({ id }) => id)].map((detail): Line => ({
  ...{ detail, label: null, wording: null, part: null, emphasis: 'plain', gap: false, own: null, ticks },
}));

test('of a contact that is too large the one line is named that is just large enough, else the last ones; without those it fits', () => {
  const composed = compose(record, lines, 'GB');
  if (!composed.ok) throw new Error(writtenName(record.name));
  const whole = tagOf({ what: 'contact', form: 'vCard 3.0', link: true }, composed.value, { link: LINK });
  const bytes = whole.ok ? whole.value.length : 0;
  const at = (room: number) => leaveOutFor(composed.value, { link: LINK }, room);
  expect(at(bytes)).toEqual([]);
  // The number is the smallest line that makes room for one byte; the note alone makes room for more.
  expect(at(bytes - 1)).toEqual(['Phone, work']);
  expect(at(bytes - 60)).toEqual(['Note']);
  expect(at(180)).toEqual(['E-mail, work', 'Note']);
  expect(at(40)).toBeNull();
});
