import { FRAME } from '@/core/words';
import { AskAgain } from '@/ui/account/ask-again';

/** A line above every screen while the address of an account waits to be confirmed; nothing else waits for it but mail to others. */
export function Unconfirmed({ email }: { email: string }) {
  return (
    <aside className="unconfirmed" aria-label={FRAME.unconfirmedName}>
      <span>{FRAME.unconfirmed(email)}</span> <AskAgain />
    </aside>
  );
}
