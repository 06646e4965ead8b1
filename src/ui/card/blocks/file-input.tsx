'use client';
import { useId, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Picture } from '@/core/record';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { BLOCK_FIELDS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { useStable } from '@/ui/studio/use-stable';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Gives a file to the organisation and hears what it is; too large a one is told before it is sent. */
export function FileInput<T>({
  word,
  accept,
  path,
  limitBytes,
  onGiven,
}: {
  word: string;
  accept: string;
  /** Where it is sent, or that for a file by its name. */
  path: string | ((name: string) => string);
  limitBytes: number;
  onGiven: (given: T) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const id = useId();
  // What is given arrives later; by then the block may have changed.
  const given = useStable(onGiven);
  async function give(file: File | undefined) {
    if (!file) return;
    if (file.size > limitBytes) return setProblem({ code: 'FILE_TOO_LARGE', limitBytes });
    setBusy(true);
    setProblem(null);
    const answer = await call<T>(typeof path === 'string' ? path : path(file.name), { bytes: file });
    setBusy(false);
    if (answer.ok) given(answer.value);
    else setProblem(answer.problem);
  }
  return (
    <span className="file-input">
      <input
        ref={input}
        type="file"
        id={id}
        className="visually-hidden"
        accept={accept}
        aria-label={word}
        tabIndex={-1}
        onChange={({ target }) => {
          void give(target.files?.[0]);
          target.value = '';
        }}
      />
      <Button variant="quiet" size="sm" disabled={busy} onClick={() => input.current?.click()}>
        {busy ? BLOCK_FIELDS.busy : word}
      </Button>
      <ProblemNote problem={problem} />
    </span>
  );
}

/** A picture of a block: chosen, shown small, taken out. */
export function PictureInput({
  picture,
  word = BLOCK_FIELDS.choosePicture,
  onPicture,
}: {
  picture: Picture | null;
  word?: string;
  onPicture: (picture: Picture | null) => void;
}) {
  return (
    <div className="picture-input">
      {picture && <img src={`/api/pictures/${picture.hash}?size=file`} alt="" />}
      <FileInput<{ picture: string; width: number; height: number }>
        word={picture ? BLOCK_FIELDS.otherPicture : word}
        accept="image/jpeg,image/png,image/webp,image/avif,image/gif,image/svg+xml,.heic"
        path="/api/block-pictures"
        limitBytes={LIMITS.photoBytes}
        onGiven={({ picture: hash, width, height }) => onPicture({ hash, width, height })}
      />
      {picture && (
        <button type="button" className="plain" onClick={() => onPicture(null)}>
          {BLOCK_FIELDS.removePicture}
        </button>
      )}
    </div>
  );
}
