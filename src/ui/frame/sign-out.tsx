'use client';
import { useRouter } from 'next/navigation';
import { FRAME } from '@/core/words';
import { forgetCards } from '@/ui/card/draft/draft-memory';
import { call } from '@/ui/studio/call';

export function SignOut() {
  const router = useRouter();
  const leave = async () => {
    // The cards that this phone kept to hold up go with who signs out.
    await globalThis.caches?.delete('hand-over').catch(() => false);
    await call('/api/sign-out', { method: 'POST' });
    forgetCards();
    router.replace('/sign-in');
    router.refresh();
  };
  return (
    <button type="button" className="plain" onClick={leave}>
      {FRAME.signOut}
    </button>
  );
}
