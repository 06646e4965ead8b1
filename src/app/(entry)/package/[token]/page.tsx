import type { Metadata } from 'next';
import { opened } from '@/app/request/link';
import { DESIGNER, ENTRY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readPackage } from '@/server/services/pieces/designer';
import { PackageOffer } from '@/ui/entry/package-offer';

export const metadata: Metadata = { title: DESIGNER.title, referrer: 'no-referrer', robots: { index: false } };

export default async function PackagePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { held } = await opened(() => readPackage(token, systemClock));
  if (held) return <PackageOffer token={token} offer={held} />;
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.linkEnded}</h1>
      <p>{DESIGNER.ended}</p>
    </main>
  );
}
