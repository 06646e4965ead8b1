'use client';
import { useRouter } from 'next/navigation';
import { startTransition, useEffect } from 'react';
import { Button } from 'react-bootstrap';
import { FRAME } from '@/core/words';

const RETRY_MS = 4_000;

/** What stands in for a page that cannot be made now. It tries again by itself. */
export function Away({ retry }: { retry: () => void }) {
  const router = useRouter();
  useEffect(() => {
    const again = () =>
      startTransition(() => {
        router.refresh();
        retry();
      });
    const timer = setInterval(async () => {
      const ready = await fetch('/readyz').then(
        (answer) => answer.ok,
        () => false,
      );
      if (ready) again();
    }, RETRY_MS);
    return () => clearInterval(timer);
  }, [retry, router]);
  return (
    <main className="lone" role="alert">
      <h1>{FRAME.awayTitle}</h1>
      <p>{FRAME.awayText}</p>
      <Button
        onClick={() =>
          startTransition(() => {
            router.refresh();
            retry();
          })
        }
      >
        {FRAME.tryNow}
      </Button>
    </main>
  );
}
