// A stand-in for a phone with NFC and the tag that is held to it, for tests and the demo. It knows nothing of how we write tags: the tag's memory, its writing
// and its reading are done once more here (NFC Forum, Type 2 Tag 1.1 and NDEF 1.0; from memory).

type Init = { recordType: string; data?: string | Uint8Array; mediaType?: string; lang?: string };
type Read = { recordType: string; mediaType?: string; lang?: string; encoding?: string; data: DataView };

/** What a tag on the bench is like; `bytes` are those that its capability container offers. */
export type BenchTag = { bytes: number; locked: boolean; torn: boolean; other: boolean; memory: Uint8Array };

export const freshTag = (bytes: number): BenchTag => ({
  ...{ bytes, locked: false, torn: false, other: false },
  // An empty message, as tags come from the shop.
  memory: Uint8Array.from([3, 0, 254, ...new Array<number>(Math.max(0, bytes - 3)).fill(0)]),
});

const utf8 = (text: string) => [...new TextEncoder().encode(text)];
const STARTS: [string, number][] = [
  ['https://www.', 2],
  ['http://www.', 1],
  ['https://', 4],
  ['http://', 3],
  ['tel:', 5],
  ['mailto:', 6],
];

function payloadOf({ recordType, data = '', mediaType, lang = 'en' }: Init): {
  tnf: number;
  type: number[];
  load: number[];
} {
  if (recordType === 'url') {
    const [start, code] = STARTS.find(([each]) => String(data).startsWith(each)) ?? ['', 0];
    return { tnf: 1, type: utf8('U'), load: [code, ...utf8(String(data).slice(start.length))] };
  }
  if (recordType === 'text')
    return { tnf: 1, type: utf8('T'), load: [lang.length, ...utf8(lang), ...utf8(String(data))] };
  if (recordType === 'mime' && mediaType)
    return { tnf: 2, type: utf8(mediaType), load: typeof data === 'string' ? utf8(data) : [...data] };
  throw new TypeError(`a record of the type ${recordType}`);
}

function messageOf(records: Init[]): number[] {
  if (records.length === 0) throw new TypeError('a message without records');
  return records.flatMap((each, at) => {
    const { tnf, type, load } = payloadOf(each);
    const flags = (at === 0 ? 128 : 0) + (at === records.length - 1 ? 64 : 0);
    const long = load.length > 255;
    const size = long ? [0, 0, Math.floor(load.length / 256), load.length % 256] : [load.length];
    return [flags + (long ? 0 : 16) + tnf, type.length, ...size, ...type, ...load];
  });
}

const io = (why: string) => new DOMException(why, 'NetworkError');

/** Writes a message as a phone does: the length is nothing until all of it stands there, so that a tag that is torn away says nothing instead of half of it. */
export function writeOnto(tag: BenchTag, records: Init[]): void {
  const message = messageOf(records);
  if (tag.other) throw io('no Type 2 tag');
  if (tag.locked) throw io('read only');
  const head =
    message.length < 255 ? [3, message.length] : [3, 255, Math.floor(message.length / 256), message.length % 256];
  if (head.length + message.length > tag.bytes) throw io('too small');
  const whole = [...head, ...message, ...(head.length + message.length < tag.bytes ? [254] : [])];
  tag.memory.set(
    head.map((byte, at) => (at === 0 ? byte : 0)),
    0,
  );
  const written = tag.torn ? Math.floor(message.length / 2) : message.length;
  tag.memory.set(message.slice(0, written), head.length);
  if (tag.torn) throw io('it went away');
  tag.memory.set(whole, 0);
}

/** What a phone reads from the tag; null where there is nothing that it understands. */
export function readFrom({ memory, other }: BenchTag): Read[] | null {
  if (other || memory[0] !== 3) return null;
  const long = memory[1] === 255;
  const size = long ? memory[2]! * 256 + memory[3]! : memory[1]!;
  const from = long ? 4 : 2;
  if (size === 0 || from + size > memory.length) return null;
  const read: Read[] = [];
  let at = from;
  while (at < from + size) {
    const flags = memory[at]!;
    const short = flags % 32 >= 16;
    const typeSize = memory[at + 1]!;
    const load = short ? memory[at + 2]! : new DataView(memory.buffer, memory.byteOffset + at + 2, 4).getUint32(0);
    const typeAt = at + (short ? 3 : 6);
    const loadAt = typeAt + typeSize;
    if (loadAt + load > from + size) return null;
    const type = new TextDecoder().decode(memory.slice(typeAt, loadAt));
    read.push(recordOf(flags % 8, type, memory.slice(loadAt, loadAt + load)));
    at = loadAt + load;
  }
  return read;
}

const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

function recordOf(tnf: number, type: string, load: Uint8Array): Read {
  if (tnf === 1 && type === 'U') {
    const start = STARTS.find(([, code]) => code === load[0])?.[0] ?? '';
    return { recordType: 'url', data: view(Uint8Array.from([...utf8(start), ...load.slice(1)])) };
  }
  if (tnf === 1 && type === 'T') {
    const size = load[0]! % 64;
    const lang = new TextDecoder().decode(load.slice(1, 1 + size));
    return { recordType: 'text', lang, encoding: 'utf-8', data: view(load.slice(1 + size)) };
  }
  return tnf === 2
    ? { recordType: 'mime', mediaType: type, data: view(load) }
    : { recordType: 'unknown', data: view(load) };
}

/** A bench: `tag` lies beside it, and `hold` holds it to the phone. */
export class TagBench extends EventTarget {
  tag: BenchTag = freshTag(872);
  /** Another tag lies beside it. */
  lay(tag: BenchTag): void {
    this.tag = tag;
  }
  /** It is held to the phone. */
  hold(): void {
    this.dispatchEvent(new Event('held'));
  }
  /** How many acts wait for a tag. */
  waiting = 0;

  private held(signal: AbortSignal): Promise<void> {
    return new Promise((resolve, reject) => {
      this.waiting += 1;
      this.dispatchEvent(new Event('waits'));
      const over = () => {
        this.waiting -= 1;
        this.removeEventListener('held', yes);
        signal.removeEventListener('abort', no);
        this.dispatchEvent(new Event('waits'));
      };
      const yes = () => {
        over();
        resolve();
      };
      const no = () => {
        over();
        reject(new DOMException('stopped', 'AbortError'));
      };
      this.addEventListener('held', yes);
      signal.addEventListener('abort', no);
    });
  }

  /** A reader as browsers have it, whose tag is the bench's. */
  reader() {
    const reader = new EventTarget();
    return Object.assign(reader, {
      write: async ({ records }: { records: Init[] }, { signal }: { signal: AbortSignal }) => {
        await this.held(signal);
        writeOnto(this.tag, records);
      },
      scan: ({ signal }: { signal: AbortSignal }) => {
        void this.held(signal).then(
          () => {
            const records = readFrom(this.tag);
            const event = new Event(records ? 'reading' : 'readingerror');
            reader.dispatchEvent(records ? Object.assign(event, { message: { records } }) : event);
          },
          () => undefined,
        );
        return Promise.resolve();
      },
      makeReadOnly: async ({ signal }: { signal: AbortSignal }) => {
        await this.held(signal);
        if (this.tag.locked || this.tag.other) throw io('read only');
        this.tag.locked = true;
      },
    });
  }
}
