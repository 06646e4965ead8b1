'use client';
import { ROSTER } from '@/core/words';
import { FileDrop } from '@/ui/studio/file-drop';

/** A place to drop a sheet of staff, or to choose one. */
export const SheetDrop = ({ busy, onFile }: { busy: string | null; onFile: (file: File) => void }) => (
  <FileDrop
    label={ROSTER.file}
    accept=".xlsx,.csv,.tsv,.txt,text/csv"
    button={busy ? ROSTER.reading(busy) : ROSTER.choose}
    busy={busy !== null}
    onFile={onFile}
  >
    <p>{ROSTER.text}</p>
  </FileDrop>
);
