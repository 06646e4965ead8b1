'use client';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { FRAME } from '@/core/words';

/** Copies a text and says so for a moment. */
export function CopyButton({
  text,
  children,
  variant = 'quiet',
}: {
  text: string;
  children: string;
  variant?: string;
}) {
  const [done, setDone] = useState<'copied' | 'failed' | null>(null);
  const copy = async () => {
    const worked = await navigator.clipboard.writeText(text).then(
      () => true,
      () => false,
    );
    setDone(worked ? 'copied' : 'failed');
    setTimeout(() => setDone(null), 1_800);
  };
  return (
    <Button variant={variant} onClick={copy} aria-live="polite">
      {done === 'copied' ? FRAME.copied : done === 'failed' ? FRAME.copyFailed : children}
    </Button>
  );
}
