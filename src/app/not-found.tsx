import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="lone">
      <h1>Nothing here</h1>
      <p>The address leads nowhere, or to something that is not yours to see.</p>
      <p>
        <Link href="/people">To the people</Link>
      </p>
    </main>
  );
}
