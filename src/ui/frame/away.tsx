'use client';
import { useRouter } from 'next/navigation';
import { startTransition, useEffect } from 'react';
import { Button } from 'react-bootstrap';

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
      <h1>One moment</h1>
      <p>
        The database does not answer just now. Nothing that was saved is lost, and cards go on being shown to
        recipients. This page comes back by itself.
      </p>
      <Button
        onClick={() =>
          startTransition(() => {
            router.refresh();
            retry();
          })
        }
      >
        Try now
      </Button>
    </main>
  );
}
