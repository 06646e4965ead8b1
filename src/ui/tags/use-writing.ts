import { useCallback, useEffect, useRef, useState } from 'react';
import { decodeMessage, messageInMemory, saysTheSame, seenRecord, webRecords, type NdefRecord } from '@/core/ndef';
import { faultOf, type TagDevice, type TagFault } from './device';

export type WritingStep = 'writing' | 'reading' | 'locking' | 'done' | 'locked';
export type WritingFault = Exclude<TagFault, 'stopped'> | 'other' | 'lock';
type Writing = { step: WritingStep | null; fault: WritingFault | null };

function recordsOf(memory: Uint8Array): NdefRecord[] {
  const message = messageInMemory(memory);
  const records = message.ok ? decodeMessage(message.value) : message;
  return records.ok ? records.value : [];
}

/** A browser that stops on the way asks nobody. */
const STILL: Writing = { step: null, fault: null };

/**
 * Writing a tag: it is written, read back and compared, and locked where that is wanted; each step waits for a tap. What was written and read back is
 * told to `onWritten`, whatever becomes of the lock.
 */
export function useWriting(device: TagDevice, memory: Uint8Array, onWritten: (locked: boolean) => Promise<boolean>) {
  const [writing, setWriting] = useState<Writing>(STILL);
  const stopping = useRef<AbortController | null>(null);
  useEffect(() => () => stopping.current?.abort(), []);
  const stop = useCallback(() => {
    stopping.current?.abort();
    setWriting(STILL);
  }, []);
  async function begin(lock: boolean) {
    stopping.current?.abort();
    const { signal } = (stopping.current = new AbortController());
    const wanted = recordsOf(memory);
    let step = null as WritingStep | null;
    const at = (next: WritingStep) => {
      step = next;
      setWriting({ step, fault: null });
    };
    try {
      at('writing');
      await device.write(webRecords(wanted), signal);
      at('reading');
      const read = await device.read(signal);
      if (!saysTheSame(read, wanted.map(seenRecord))) return setWriting({ step: null, fault: 'other' });
      if (lock) {
        at('locking');
        await device.lock(signal);
      }
      await onWritten(lock);
      at(lock ? 'locked' : 'done');
    } catch (error) {
      const fault = faultOf(error);
      if (step === 'locking') await onWritten(false);
      if (fault === 'stopped') return setWriting(STILL);
      setWriting({ step: null, fault: step === 'locking' ? 'lock' : fault });
    }
  }
  return { ...writing, begin, stop };
}
