'use client';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { composeDraft } from '@/core/card';
import { wordingOf } from '@/core/errors';
import { FACE_NAMES, type FaceName } from '@/core/face';
import { applyHouseStyle, PART_FIELDS, inheritedLook, takesFromHouse } from '@/core/house';
import type { Look, LookPart } from '@/core/look';
import { CARD, CARDS, FRAME, LOOK } from '@/core/words';
import { areasOf } from '@/core/page';
import { CardHead } from '@/ui/card/card-head';
import type { CardOnTable } from '@/ui/card/card-on-table';
import { PublishFromTable } from '@/ui/card/publishing/publish-from-table';
import { SavedNote } from '@/ui/card/draft/saved-note';
import { Specimen } from '@/ui/card/specimen/specimen';
import { useCardDraft } from '@/ui/card/draft/use-card-draft';
import { useChanges } from '@/ui/card/draft/use-changes';
import { useUndoKeys } from '@/ui/card/ledger/use-undo-keys';
import { byNight } from './by-night';
import { FaceView } from './face-view';
import { HouseShown } from '@/ui/house/house-shown';
import { KeptLooks, type KeptLook } from './kept-looks';
import { LineLooks } from './line-looks';
import { LookFields } from './look-fields';
import { PartState } from './part-state';

const PreviewDialog = dynamic(() => import('@/ui/card/publishing/preview-dialog').then((made) => made.PreviewDialog));

type Props = { card: CardOnTable; country: string; zone: string; kept: KeptLook[] };
type View = 'page' | 'broad' | 'night' | FaceName;
const VIEWS: readonly View[] = ['page', 'broad', 'night', ...FACE_NAMES];

/** A look with the fields of one part taken from another. */
const withPart = (look: Look, from: Look, part: LookPart): Look => ({
  ...look,
  ...Object.fromEntries(PART_FIELDS[part].map((field) => [field, from[field]])),
});

/** How a card is dressed: the parts of its look on the left, what wears them on the right. */
export function LookTable({ card, country, zone, kept }: Props) {
  const table = useCardDraft(card);
  const { now: draft, record, problem } = table;
  const [view, setView] = useState<View>('page');
  const [previewing, setPreviewing] = useState(false);
  const [publishing, setPublishing] = useState(false);
  useUndoKeys(table);
  const composed = useMemo(() => composeDraft(record, draft, country), [record, draft, country]);
  const { changes, notPlanned } = useChanges(card, composed);
  const own = draft.look;
  const { house } = card;
  const worn = composed.ok ? applyHouseStyle(composed.value, house) : null;
  const shown = worn?.look ?? own;
  // As chosen, before what does not read on the house's colours gives way.
  const chosen = house ? inheritedLook(own, house) : own;
  // Whose look can be set is what stands in the list.
  const lines = composed.ok ? areasOf(composed.value).lines : [];
  const setLook = (look: Look) => table.editCard('look', look);
  const logo = worn?.lines.find(({ detail }) => detail.kind === 'logo')?.detail;
  const locked = (part: LookPart) => house !== null && takesFromHouse(own, house, part);
  return (
    <div className="card-table look-table">
      <CardHead
        card={{ ...card, audience: draft.audience }}
        turn="look"
        note={<SavedNote table={table} changes={changes.length} plan={card.plan} notPlanned={notPlanned} zone={zone} />}
        publish={
          <>
            <Button variant="quiet" onClick={() => setPreviewing(true)}>
              {CARDS.preview}
            </Button>
            <Button onClick={() => setPublishing(true)} disabled={!composed.ok || table.gone}>
              {CARD.publish}
            </Button>
          </>
        }
      />
      {problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(problem)}</p>
          <Button variant="quiet" onClick={() => void table.flush()}>
            {FRAME.tryAgain}
          </Button>
        </div>
      )}
      {previewing && <PreviewDialog card={card.id} flush={table.flush} onClose={() => setPreviewing(false)} />}
      {publishing && composed.ok && (
        <PublishFromTable
          card={card}
          table={table}
          composition={composed.value}
          zone={zone}
          changes={changes}
          onClose={() => setPublishing(false)}
        />
      )}
      <div className="two">
        <div className="left-half look-half" aria-label={LOOK.half} role="region">
          <LookFields
            look={chosen}
            worn={shown}
            sample={card.person}
            logo={logo && 'picture' in logo ? logo.picture : null}
            kept={locked}
            beside={(part) =>
              house &&
              card.hasHouse && (
                <PartState part={part} look={own} house={house} mayOverride={card.mayOverride} onLook={setLook} />
              )
            }
            faceOf={(layout) => (
              <img
                src={`/api/cards/${card.id}/faces/card-lying.svg?layout=${layout}&version=${table.version}`}
                alt=""
                width={170}
                height={110}
                loading="lazy"
              />
            )}
            allowed={(layout) => !house || house.layouts.includes(layout) || own.overrides.includes('layout')}
            onLook={(next, part) => setLook(withPart(own, next, part))}
          />
          {house && <HouseShown house={house} look={own} onLook={setLook} />}
          <LineLooks lines={lines} look={own} worn={shown} onLook={setLook} />
          <KeptLooks
            first={kept}
            look={shown}
            onUse={(look) => setLook({ ...look, lines: own.lines, follows: [], overrides: own.overrides })}
          />
        </div>
        <div className="look-right">
          <div className="look-stuck">
            <Form.Select
              className="look-view"
              aria-label={LOOK.shownAs}
              value={view}
              onChange={({ target }) => setView(target.value as View)}
            >
              {VIEWS.map((each) => (
                <option key={each} value={each}>
                  {LOOK.views[each]}
                </option>
              ))}
            </Form.Select>
            {view === 'page' || view === 'broad' || view === 'night' ? (
              <div className={`look-page ${view}`}>
                <Specimen
                  channel="page"
                  composition={
                    composed.ok ? (view === 'night' ? byNight(composed.value, shown) : composed.value) : null
                  }
                  draft={draft}
                  record={record}
                  country={country}
                  card={card}
                  saved={table.version}
                  problem={composed.ok ? null : composed.problem}
                />
              </div>
            ) : (
              <FaceView card={card.id} name={view} version={table.version} />
            )}
          </div>
        </div>
      </div>
    </div>
  );
}
