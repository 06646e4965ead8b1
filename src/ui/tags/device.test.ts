import fc from 'fast-check';
import { saysTheSame, seenRecord, tagRecords, webRecords, type ReadByWeb } from '@/core/ndef';
import { bytesOf, deviceOver, faultOf, webReader, type WebReader } from './device';

/** A browser's reader as W3C Web NFC has it (8.1, NDEFReader): a tag is held to it when the test says so. */
class Reader extends EventTarget implements WebReader {
  scanning: AbortSignal | null = null;
  refuses: DOMException | null = null;
  locked = 0;
  written: unknown[] = [];
  async write(...given: Parameters<WebReader['write']>) {
    if (this.refuses) throw this.refuses;
    this.written.push(given);
  }
  async scan({ signal }: { signal: AbortSignal }) {
    if (this.refuses) throw this.refuses;
    this.scanning = signal;
  }
  async makeReadOnly({ signal }: { signal: AbortSignal }) {
    signal.throwIfAborted();
    this.locked += 1;
  }
  hold(records: ReadByWeb[]) {
    this.dispatchEvent(Object.assign(new Event('reading'), { message: { records } }));
  }
}
const open = (change: Partial<Reader> = {}) => {
  const reader = Object.assign(new Reader(), change);
  return { reader, device: deviceOver(() => reader), stop: new AbortController() };
};
const nameOf = async (promise: Promise<unknown>): Promise<string> =>
  promise.then(
    () => 'none',
    (error: Error) => error.name,
  );
const data = (text: string) => new DataView(new TextEncoder().encode(text).buffer);
const LINK: ReadByWeb = { recordType: 'url', data: data('https://cards.example/h/7K3M9QWD') };
const turn = () => new Promise<void>((resolve) => setImmediate(resolve));

test('what is read is told once, and nobody listens any more', async () => {
  const { reader, device, stop } = open();
  const read = device.read(stop.signal);
  reader.hold([LINK, { recordType: 'text', lang: 'de', encoding: 'utf-8', data: data('Grüße') }]);
  expect(await read).toEqual([
    { kind: 'link', uri: 'https://cards.example/h/7K3M9QWD' },
    { kind: 'text', text: 'Grüße', language: 'de' },
  ]);
  await turn();
  expect(reader.scanning!.aborted).toBe(true);
  // A second tag, and somebody who stops now, change nothing.
  reader.hold([]);
  stop.abort();
  expect(await read).toHaveLength(2);
});

test('whoever stops waits for nothing; a tag that cannot be read, a reader that is off and one that is not there are told apart', async () => {
  const stopped = open();
  const waiting = nameOf(stopped.device.read(stopped.stop.signal));
  stopped.stop.abort();
  expect([await waiting, stopped.reader.scanning!.aborted]).toEqual(['AbortError', true]);
  const spoilt = open();
  const unreadable = nameOf(spoilt.device.read(spoilt.stop.signal));
  spoilt.reader.dispatchEvent(new Event('readingerror'));
  expect(await unreadable).toBe('DataError');
  for (const name of ['NotAllowedError', 'NotReadableError']) {
    const { device, stop } = open({ refuses: new DOMException('', name) });
    expect(await nameOf(device.read(stop.signal))).toBe(name);
    expect(await nameOf(device.write([], stop.signal))).toBe(name);
  }
});

test('a tag is written over what stood in it, and locked where the browser can', async () => {
  const { reader, device, stop } = open();
  const records = webRecords(tagRecords({ link: 'https://cards.example/', words: { text: 'Grüße', language: 'de' } }));
  await device.write(records, stop.signal);
  expect(reader.written).toEqual([[{ records }, { overwrite: true, signal: stop.signal }]]);
  await device.lock(stop.signal);
  expect(reader.locked).toBe(1);
  const without = open({ makeReadOnly: undefined } as unknown as Partial<Reader>);
  expect(await nameOf(without.device.lock(without.stop.signal))).toBe('NotSupportedError');
  stop.abort();
  expect(await nameOf(device.lock(stop.signal))).toBe('AbortError');
});

// W3C Web NFC, 9.5 and 10.3; Web IDL, 2.8.1 (from memory).
test.each([
  ['AbortError', 'stopped'],
  ['NotAllowedError', 'refused'],
  ['SecurityError', 'refused'],
  ['NotReadableError', 'off'],
  ['NotSupportedError', 'none'],
  ['NetworkError', 'io'],
  ['InvalidStateError', 'io'],
  ['DataError', 'unreadable'],
  ['TypeError', 'unknown'],
])('a %s means “%s” to whoever holds the tag', (name, fault) => {
  expect(faultOf(new DOMException('', name))).toBe(fault);
});

test('what is no error at all is not known; without a reader there is none', () => {
  expect([null, undefined, 'no', {}].map(faultOf)).toEqual(['unknown', 'unknown', 'unknown', 'unknown']);
  expect(webReader()).toBeNull();
  Object.assign(globalThis, { NDEFReader: Reader });
  expect(webReader()!()).toBeInstanceOf(Reader);
  Reflect.deleteProperty(globalThis, 'NDEFReader');
});

test('what was written is what is read, record by record, whatever it says; anything more, less or otherwise is told (property)', () => {
  const words = fc.tuple(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.constantFrom('de', 'en', 'pt-BR'));
  fc.assert(
    fc.property(fc.webUrl(), words, (uri, [text, language]) => {
      const records = tagRecords({ link: uri, words: { text, language } });
      const written = records.map(seenRecord);
      const read = webRecords(records).map((record) =>
        record.recordType === 'url'
          ? ({ kind: 'link', uri: record.data } as const)
          : ({ kind: 'text', text: String(record.data), language: 'lang' in record ? record.lang : '' } as const),
      );
      expect(saysTheSame(read, written)).toBe(true);
      expect(saysTheSame(read.slice(1), written)).toBe(false);
      expect(saysTheSame([...read, read[0]!], written)).toBe(false);
      expect(saysTheSame([{ kind: 'link', uri: `${uri}x` }, ...read.slice(1)], written)).toBe(false);
    }),
  );
});

test('bytes come out of base64 as they went in (RFC 4648, 4)', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
      expect(bytesOf(Buffer.from(bytes).toString('base64'))).toEqual(bytes);
    }),
  );
});
