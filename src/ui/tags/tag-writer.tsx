'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { TAGS } from '@/core/words';
import type { TagDevice } from './device';
import { useWriting } from './use-writing';

type Props = { memory: Uint8Array; device: TagDevice; onWritten: (locked: boolean) => Promise<boolean> };

/** Writes the tag from here: each step in the words that somebody needs who holds a tag in the other hand. */
export function TagWriter({ memory, device, onWritten }: Props) {
  const [lock, setLock] = useState(false);
  const [sure, setSure] = useState(false);
  const { step, fault, begin, stop } = useWriting(device, memory, onWritten);
  const busy = step === 'writing' || step === 'reading' || step === 'locking';
  return (
    <div className="tag-writer">
      <p className="caps">{TAGS.write}</p>
      <p className="note">{TAGS.writeNote}</p>
      <Form.Check
        id="tag-lock"
        label={TAGS.lock}
        checked={lock}
        disabled={busy}
        onChange={({ target }) => {
          setLock(target.checked);
          setSure(false);
        }}
      />
      {lock && (
        <div className="attention">
          {TAGS.lockNote}
          <Form.Check
            id="tag-lock-sure"
            label={TAGS.lockSure}
            checked={sure}
            disabled={busy}
            onChange={({ target }) => setSure(target.checked)}
          />
        </div>
      )}
      <div className="pair">
        <Button disabled={busy || (lock && !sure)} onClick={() => void begin(lock)}>
          {step === 'done' || fault !== null ? TAGS.again : TAGS.begin}
        </Button>
        {busy && (
          <Button variant="quiet" onClick={stop}>
            {TAGS.stop}
          </Button>
        )}
      </div>
      <p role="status" className={fault ? 'failed' : step === 'done' || step === 'locked' ? 'passed' : 'tag-step'}>
        {fault ? `✕ ${TAGS.failed[fault]}` : step ? `${busy ? '' : '✓ '}${TAGS.step[step]}` : ''}
      </p>
    </div>
  );
}
