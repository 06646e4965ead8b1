'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import type { Composition } from '@/core/card';
import type { Change } from '@/core/revisions';
import type { CardOnTable } from '@/ui/card/card-on-table';
import type { CardDraft } from '@/ui/card/draft/use-card-draft';

// It comes when it is first opened.
const PublishDialog = dynamic(() => import('./publish-dialog').then((made) => made.PublishDialog));

/** Publishing what stands on a table, whichever turn of it is shown. */
export function PublishFromTable({
  card,
  table,
  composition,
  zone,
  changes,
  onClose,
}: {
  card: CardOnTable;
  table: CardDraft;
  composition: Composition;
  zone: string;
  changes: Change[];
  onClose: () => void;
}) {
  const router = useRouter();
  return (
    <PublishDialog
      card={card}
      table={table}
      composition={composition}
      zone={zone}
      changes={changes}
      onClose={(published) => {
        onClose();
        if (published) router.refresh();
      }}
    />
  );
}
