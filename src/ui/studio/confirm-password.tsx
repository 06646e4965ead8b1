'use client';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import { confirmWith } from './call';

/** Comes when it is needed for the first time. */
const ConfirmDialog = dynamic(() => import('./confirm-dialog').then((made) => made.ConfirmDialog));

/** Has the password typed once more where something wants it fresh. */
export function ConfirmPassword() {
  const [open, setOpen] = useState(false);
  const answer = useRef<(confirmed: boolean) => void>(null);
  useEffect(
    () =>
      confirmWith(
        () =>
          new Promise((resolve) => {
            answer.current = resolve;
            setOpen(true);
          }),
      ),
    [],
  );
  function close(confirmed: boolean) {
    setOpen(false);
    answer.current?.(confirmed);
  }
  return open ? <ConfirmDialog onClose={close} /> : null;
}
