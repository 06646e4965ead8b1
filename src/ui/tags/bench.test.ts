import fc from 'fast-check';
import { decodeMessage, messageInMemory, seenRecord, seenByWeb, tagRecords, webRecords } from '@/core/ndef';
import { freshTag, readFrom, TagBench, writeOnto } from './bench';
import { deviceOver, faultOf, type WebReader } from './device';

const LINK = 'https://c.example/h/7K3M9QWD';
const CONTACT = 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ilse Varrow\r\nEND:VCARD\r\n';

test('what the bench lays into a tag our reader reads, and it reads the same itself, whatever stands in it (property)', () => {
  fc.assert(
    fc.property(
      fc.record({ link: fc.webUrl(), contact: fc.option(fc.string({ maxLength: 500, unit: 'grapheme' })) }),
      ({ link, contact }) => {
        const records = tagRecords({ link, contact });
        const tag = freshTag(4_000);
        writeOnto(tag, webRecords(records));
        const wanted = records.map(seenRecord);
        const message = messageInMemory(tag.memory);
        const read = message.ok ? decodeMessage(message.value) : message;
        expect(read.ok && read.value.map(seenRecord)).toEqual(wanted);
        expect(readFrom(tag)!.map(seenByWeb)).toEqual(wanted);
      },
    ),
    { numRuns: 200 },
  );
});

const held = async (bench: TagBench) => {
  while (bench.waiting === 0) await new Promise((resolve) => setTimeout(resolve, 1));
  bench.hold();
};
const records = webRecords(tagRecords({ link: LINK, contact: CONTACT }));

test.each([
  ['too small', { ...freshTag(48) }],
  ['locked already', { ...freshTag(496), locked: true }],
  ['torn away', { ...freshTag(496), torn: true }],
  ['of another kind', { ...freshTag(496), other: true }],
])('a tag that is %s is told, and says nothing instead of half of it', async (_, tag) => {
  const bench = new TagBench();
  bench.lay(tag);
  const device = deviceOver(() => bench.reader() as unknown as WebReader);
  const { signal } = new AbortController();
  const writing = device.write(records, signal).catch(faultOf);
  await held(bench);
  expect(await writing).toBe('io');
  const reading = device.read(signal).catch(faultOf);
  await held(bench);
  expect(await reading).toBe('unreadable');
});

test('a tag is written, read back and locked; nothing is written on it any more; whoever stops waits for nothing', async () => {
  const bench = new TagBench();
  const device = deviceOver(() => bench.reader() as unknown as WebReader);
  const { signal } = new AbortController();
  for (const act of [() => device.write(records, signal), () => device.lock(signal)]) {
    const acting = act();
    await held(bench);
    await acting;
  }
  const again = device.write(records, signal).catch(faultOf);
  await held(bench);
  expect(await again).toBe('io');
  const stopping = new AbortController();
  const stopped = device.read(stopping.signal).catch(faultOf);
  stopping.abort();
  expect(await stopped).toBe('stopped');
});
