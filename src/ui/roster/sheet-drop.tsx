'use client';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { Button, Spinner } from 'react-bootstrap';
import { ROSTER } from '@/core/words';
import { useStable } from '@/ui/studio/use-stable';

/** A place to drop a sheet of staff, or to choose one. */
export function SheetDrop({ busy, onFile }: { busy: string | null; onFile: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  // A file that was chosen before the page could hear of it is not lost.
  const readFirst = useStable(onFile);
  useEffect(() => {
    const early = input.current?.files?.[0];
    if (early) queueMicrotask(() => readFirst(early));
  }, [readFirst]);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) onFile(file);
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
      <p>{ROSTER.text}</p>
      <input
        ref={input}
        type="file"
        accept=".xlsx,.csv,.tsv,.txt,text/csv"
        className="visually-hidden"
        aria-label={ROSTER.file}
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
      <Button disabled={busy !== null} onClick={() => input.current?.click()}>
        {busy ? <Spinner size="sm" aria-hidden="true" /> : null} {busy ? ROSTER.reading(busy) : ROSTER.choose}
      </Button>
    </div>
  );
}
