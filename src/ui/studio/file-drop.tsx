'use client';
import { useEffect, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { Button, Spinner } from 'react-bootstrap';
import { useStable } from './use-stable';

type Props = {
  /** What its field is called, for whoever does not see it. */
  label: string;
  /** Endings and types that the browser offers. */
  accept: string;
  /** What its button says, and that something is being read. */
  button: string;
  busy: boolean;
  variant?: 'primary' | 'quiet';
  onFile: (file: File) => void;
  /** What stands above the button. */
  children: ReactNode;
  /** What stands below it. */
  below?: ReactNode;
};

/** A place to drop a file, or to choose one. */
export function FileDrop({ label, accept, button, busy, variant = 'primary', onFile, children, below }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  // A file that was chosen before the page could hear of it is not lost.
  const readFirst = useStable(onFile);
  useEffect(() => {
    const early = input.current?.files?.[0];
    if (early) queueMicrotask(() => readFirst(early));
  }, [readFirst]);
  const take = (file: File | undefined) => file && onFile(file);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files[0]);
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
      {children}
      <input
        ref={input}
        type="file"
        accept={accept}
        className="visually-hidden"
        aria-label={label}
        tabIndex={-1}
        onChange={({ target }) => {
          take(target.files?.[0]);
          target.value = '';
        }}
      />
      <Button variant={variant} disabled={busy} onClick={() => input.current?.click()}>
        {busy ? <Spinner size="sm" aria-hidden="true" /> : null} {button}
      </Button>
      {below}
    </div>
  );
}
