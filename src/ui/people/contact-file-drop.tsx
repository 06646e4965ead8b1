'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { Button, Spinner } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { PEOPLE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { useStable } from '@/ui/studio/use-stable';

/** A place to drop a contact file, or to choose one. One new contact opens at once, anything else goes to review. */
export function ContactFileDrop() {
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [reading, setReading] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);

  async function read(file: File | undefined) {
    if (!file) return;
    setProblem(null);
    // Beyond this the server refuses; saying so first spares the upload.
    const limitBytes = LIMITS.contactFileBytes;
    if (file.size > limitBytes) return setProblem({ code: 'FILE_TOO_LARGE', limitBytes });
    setReading(file.name);
    const answer = await call<{ imported: { cardId: string } } | { import: string }>(
      `/api/records/import?name=${encodeURIComponent(file.name)}`,
      { bytes: file },
    );
    if (!answer.ok) {
      setReading(null);
      return setProblem(answer.problem);
    }
    router.push(
      'imported' in answer.value ? `/cards/${answer.value.imported.cardId}` : `/imports/${answer.value.import}`,
    );
  }

  // A file that was chosen before the page could hear of it is not lost.
  const readFirst = useStable(read);
  useEffect(() => {
    const early = input.current?.files?.[0];
    if (early) queueMicrotask(() => void readFirst(early));
  }, [readFirst]);

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void read(event.dataTransfer.files[0]);
  };
  return (
    <div
      className={`drop${over ? ' over' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <h2 className="caps">{PEOPLE.fromFile}</h2>
      <p>{PEOPLE.fromFileText}</p>
      <input
        ref={input}
        type="file"
        accept=".vcf,.vcard,.json,.txt,text/vcard,text/x-vcard,application/vcard+json"
        className="visually-hidden"
        aria-label={PEOPLE.contactFile}
        tabIndex={-1}
        onChange={(event) => {
          void read(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      <Button variant="quiet" disabled={reading !== null} onClick={() => input.current?.click()}>
        {reading ? <Spinner size="sm" aria-hidden="true" /> : null}{' '}
        {reading ? PEOPLE.reading(reading) : PEOPLE.chooseFile}
      </Button>
      <ProblemNote problem={problem} />
    </div>
  );
}
