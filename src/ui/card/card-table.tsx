'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import {
  applyEdits,
  CHANNELS,
  channelsOf,
  composeDraft,
  detailOf,
  goesOut,
  type Channel,
  type ComposedLine,
  type Draft,
  type Edit,
} from '@/core/card';
import { wordingOf, type Problem } from '@/core/errors';
import { lineOwnedAs, ownersRefuse } from '@/core/house';
import { CARD, CARDS, FRAME } from '@/core/words';
import type { PersonRecord } from '@/core/record';
import { call } from '@/ui/studio/call';
import { OwnedProvider } from '@/ui/studio/owned';
import { useStable } from '@/ui/studio/use-stable';
import { AudienceName } from './audience-name';
import { BlockList } from './blocks/block-list';
import { CardHead } from './card-head';
import type { CardOnTable } from './card-on-table';
import { ClashNote } from './ledger/clash-note';
import { Languages } from './words/languages';
import { Ledger } from './ledger/ledger';
import { useChanges } from './draft/use-changes';
import { useUndoKeys } from './ledger/use-undo-keys';
import { useFrozenCosts } from './ledger/use-frozen-costs';
import { LiveSpecimen } from './specimen/live-specimen';
import { PublishFromTable } from './publishing/publish-from-table';
import { SavedNote } from './draft/saved-note';
import { useCardDraft } from './draft/use-card-draft';

// Dialogs come when they are first opened.
const PreviewDialog = dynamic(() => import('./publishing/preview-dialog').then((made) => made.PreviewDialog));
const RevisionsDialog = dynamic(() => import('./revisions/revisions-dialog').then((made) => made.RevisionsDialog));
const WhichForWork = dynamic(() => import('./ledger/which-for-work').then((made) => made.WhichForWork));
const DeleteDialog = dynamic(() => import('@/ui/deletion/delete-dialog').then((made) => made.DeleteDialog));
const StateDialog = dynamic(() => import('./publishing/state-dialog').then((made) => made.StateDialog));

const NO_LINES: ComposedLine[] = [];

/** Whether a card shows no phone, or no mail, of those that there are. */
const showsNoReach = (record: PersonRecord, lines: Draft['lines']): boolean =>
  (['phone', 'email'] as const).some((kind) => {
    const ways = lines.filter((line) => detailOf(line, record)?.kind === kind);
    return ways.length > 0 && !ways.some(goesOut);
  });

type Props = {
  card: CardOnTable;
  country: string;
  zone: string;
  /** Opens with the question whether it is published. */
  publishing: boolean;
  mayDelete: boolean;
};

/** The working table of a card: the ledger on the left, what the recipient of one channel gets on the right. */
export function CardTable({ card: opened, country, zone, publishing, mayDelete }: Props) {
  const router = useRouter();
  const table = useCardDraft(opened);
  const { now: draft, record, problem } = table;
  const [channel, setChannel] = useState<Channel>('page');
  /** Columns that somebody asked for. */
  const [wanted, setWanted] = useState<readonly Channel[]>([]);
  const shown = [...new Set([...channelsOf(draft.lines, opened.handOuts), ...wanted])].join();
  const card = useMemo(
    () => ({ ...opened, channels: CHANNELS.filter((each) => shown.split(',').includes(each)) }),
    [opened, shown],
  );
  const [dialog, setDialog] = useState<'publish' | 'preview' | 'state' | 'revisions' | 'delete' | null>(
    publishing ? 'publish' : null,
  );
  const [told, setTold] = useState<Problem | 'adopted' | null>(null);

  const composed = useMemo(
    () => composeDraft(record, draft, country),
    // The internal name goes nowhere.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [record, draft.lines, country, draft.language, draft.blocks, draft.opens, draft.words, draft.look],
  );
  const { changes, notPlanned } = useChanges(card, composed);
  const costs = useFrozenCosts(composed, card.channels, card.house);

  useUndoKeys(table);

  // From what stood here when the hand moved: what others did meanwhile stays.
  const locks = card.house?.locks ?? {};
  const refuses = (to: Draft): boolean => {
    const refused = ownersRefuse({ record, card: draft }, { record, card: to }, card.owned, locks);
    if (refused) setTold(refused);
    return refused !== null;
  };
  const change = useStable((to: Draft) => void (refuses(to) || table.change(draft, to)));
  const edit = useStable((edits: Edit[]) => void (refuses(applyEdits(draft, edits).draft) || table.edit(edits)));
  const adopt = useStable(async (line: string) => {
    const baseVersion = await table.flush();
    // Why it could not be saved is told above the table.
    if (baseVersion === null) return;
    const answer = await call(`/api/cards/${card.id}/adopt`, { json: { baseVersion, line } });
    setTold(answer.ok ? 'adopted' : answer.problem);
    await table.merge();
  });
  const lost = table.clashes.filter(
    (clash) => clash.edit === 'cell' && !draft.lines.some(({ detail }) => detail === clash.line),
  );

  return (
    <div className="card-table">
      <CardHead
        card={{ ...card, audience: draft.audience }}
        turn="lines"
        audience={
          <AudienceName audience={draft.audience} onChange={(audience) => table.editCard('audience', audience)} />
        }
        note={<SavedNote table={table} changes={changes.length} plan={card.plan} notPlanned={notPlanned} zone={zone} />}
        onRevisions={card.revision ? () => setDialog('revisions') : null}
        onDelete={mayDelete ? () => setDialog('delete') : null}
        onState={card.state === 'draft' ? null : () => setDialog('state')}
        publish={
          <>
            <Button variant="quiet" onClick={() => setDialog('preview')}>
              {CARDS.preview}
            </Button>
            <Button onClick={() => setDialog('publish')} disabled={!composed.ok || table.gone}>
              {CARD.publish}
            </Button>
          </>
        }
      />
      {table.gone && (
        <div className="banner" role="alert">
          <p>{CARD.gone}</p>
        </div>
      )}
      {problem && !table.gone && (
        <div className="banner" role="alert">
          <p>{wordingOf(problem)}</p>
          <Button variant="quiet" onClick={() => void table.flush()}>
            {FRAME.tryAgain}
          </Button>
        </div>
      )}
      {card.pictures === null && (
        <div className="banner" role="status">
          <p>{CARD.noPictures}</p>
          {/* A picture that failed is asked for again with the whole screen only. */}
          <Button variant="quiet" onClick={() => void table.flush().then(() => location.reload())}>
            {FRAME.tryAgain}
          </Button>
        </div>
      )}
      {lost.length > 0 && (
        <div className="banner" role="alert">
          {lost.map((clash, at) => (
            <ClashNote key={at} clash={clash} line={null} onSettle={table.settle} />
          ))}
        </div>
      )}
      {told && (
        <div className="banner told" role="status">
          <p>{told === 'adopted' ? CARD.adopted : wordingOf(told)}</p>
          <Button variant="quiet" onClick={() => setTold(null)}>
            {CARD.close}
          </Button>
        </div>
      )}
      {card.state === 'draft' && showsNoReach(record, draft.lines) && (
        <WhichForWork
          recordId={card.recordId}
          lines={draft.lines}
          record={record}
          onEdit={table.edit}
          onMarked={() => void table.flush().then(table.merge)}
        />
      )}
      <div className="two">
        <div className="left-half">
          <OwnedProvider value={card.owned}>
            <Ledger
              card={card}
              record={record}
              lines={draft.lines}
              look={draft.look}
              country={country}
              zone={zone}
              channel={channel}
              costs={costs}
              left={table.left}
              clashes={table.clashes}
              onChannel={setChannel}
              onWanted={(more) => (setWanted([...wanted, more]), setChannel(more))}
              onEdit={edit}
              onBackToLayout={(lines) => change({ ...draft, lines })}
              onTyping={table.typing.set}
              onAdopt={adopt}
              onSettle={table.settle}
            />
          </OwnedProvider>
          <BlockList
            blocks={draft.blocks}
            opens={draft.opens}
            lines={composed.ok ? composed.value.lines : NO_LINES}
            clashes={table.clashes}
            onBlocks={(blocks) => change({ ...draft, blocks })}
            onOpens={(opens) => table.editCard('opens', opens)}
            onSettle={table.settle}
          />
          <Languages draft={draft} record={record} onDraft={change} clashes={table.clashes} onSettle={table.settle} />
        </div>
        <LiveSpecimen
          channel={channel}
          draft={draft}
          composed={composed}
          record={record}
          country={country}
          card={card}
          saved={table.version}
          typing={table.typing}
        />
      </div>
      {dialog === 'publish' && composed.ok && (
        <PublishFromTable
          card={card}
          table={table}
          composition={composed.value}
          zone={zone}
          changes={changes}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'preview' && <PreviewDialog card={card.id} flush={table.flush} onClose={() => setDialog(null)} />}
      {dialog === 'revisions' && (
        <RevisionsDialog
          card={card.id}
          draft={draft}
          composition={composed.ok ? composed.value : null}
          record={record}
          country={country}
          zone={zone}
          closed={(line) => lineOwnedAs(line, record, card.owned) !== null}
          onRestore={change}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'delete' && (
        <DeleteDialog
          what="card"
          id={card.id}
          name={`${card.person} · ${draft.audience}`}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'state' && (
        <StateDialog
          card={card}
          onClose={(changed) => {
            setDialog(null);
            if (changed) router.refresh();
          }}
        />
      )}
    </div>
  );
}
