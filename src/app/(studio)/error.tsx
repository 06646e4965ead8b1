'use client';
import { Away } from '@/ui/frame/away';

/** Shown when a page cannot be made, most often because the database does not answer. */
export default function PageError({ reset }: { error: Error; reset: () => void }) {
  return <Away retry={reset} />;
}
