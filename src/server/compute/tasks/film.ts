import {
  ALL_FORMATS,
  BufferSource,
  BufferTarget,
  Conversion,
  Input,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny';
import { Refusal } from '@/core/errors';

export type Film = {
  hash: string;
  type: 'video/mp4' | 'video/webm';
  width: number;
  height: number;
  seconds: number;
  bytes: number;
};

/** MP4 or WebM by their first bytes: the file type box (ISO/IEC 14496-12 4.3), the EBML header with its document type (from memory). */
function typeOf(bytes: Buffer): Film['type'] | null {
  if (bytes.subarray(4, 8).toString('latin1') === 'ftyp') return 'video/mp4';
  const ebml = bytes.readUInt32BE(0) === 0x1a45dfa3 && bytes.subarray(0, 64).includes('webm', 0, 'latin1');
  return ebml ? 'video/webm' : null;
}

/** What a film tells of itself, read by a library that takes it apart. Error: FILM_UNREADABLE. */
async function readFilm(bytes: Buffer): Promise<Film> {
  const type = bytes.length > 64 ? typeOf(bytes) : null;
  if (!type) throw new Refusal({ code: 'FILM_UNREADABLE' });
  const input = new Input({ source: new BufferSource(new Uint8Array(bytes)), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack();
    const seconds = track && (await input.computeDuration());
    if (!track || !track.codec || !(track.displayWidth > 0) || !(track.displayHeight > 0) || !Number.isFinite(seconds))
      throw new Refusal({ code: 'FILM_UNREADABLE' });
    const { displayWidth: width, displayHeight: height } = track;
    return { hash: '', type, width, height, seconds: Math.max(0, seconds!), bytes: bytes.length };
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal({ code: 'FILM_UNREADABLE' });
  } finally {
    input.dispose();
  }
}

/**
 * A film packed anew without what it tells of itself: cameras write down where and when it was taken. Picture and sound are copied
 * as they are, nothing is encoded. Error: FILM_UNREADABLE.
 */
async function withoutMetadata(bytes: Buffer, type: Film['type']): Promise<Buffer> {
  const input = new Input({ source: new BufferSource(new Uint8Array(bytes)), formats: ALL_FORMATS });
  const target = new BufferTarget();
  const format = type === 'video/mp4' ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat();
  try {
    const conversion = await Conversion.init({ input, output: new Output({ format, target }), tags: {} });
    if (!conversion.isValid || !conversion.utilizedTracks.some((track) => track.isVideoTrack()))
      throw new Refusal({ code: 'FILM_UNREADABLE' });
    await conversion.execute();
    return Buffer.from(target.buffer!);
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal({ code: 'FILM_UNREADABLE' });
  } finally {
    input.dispose();
  }
}

/** A film as it is kept, and what it tells of itself. Error: FILM_UNREADABLE. */
export async function packFilm({ bytes }: { bytes: Buffer }): Promise<{ film: Film; packed: Buffer }> {
  const given = await readFilm(bytes);
  const packed = await withoutMetadata(bytes, given.type);
  return { film: { ...given, bytes: packed.length }, packed };
}
