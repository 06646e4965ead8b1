import Link from 'next/link';
import { FRAME } from '@/core/words';

export default function NotFound() {
  return (
    <main className="lone">
      <h1>{FRAME.nowhereTitle}</h1>
      <p>{FRAME.nowhereText}</p>
      <p>
        <Link href="/people">{FRAME.toPeople}</Link>
      </p>
    </main>
  );
}
