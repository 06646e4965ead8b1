'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { NAME_LINE, privacyOf, type Audience } from '@/core/card';
import { wordingOf, type Problem } from '@/core/errors';
import { ownersRefuse, type Owned } from '@/core/house';
import type { LayoutName } from '@/core/look';
import { CARD, DELETION, EXPORT, FRAME, PRIVACY, RECORD } from '@/core/words';
import { cleanLine, keptInWords, readName, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { EditableCell } from '@/ui/card/ledger/editable-cell';
import { DeleteDialog } from '@/ui/deletion/delete-dialog';
import { ClosedCell, OwnedProvider } from '@/ui/studio/owned';
import { AddDetail } from './add-detail';
import { CardsOfRecord, type CardOfRecord } from './cards-of-record';
import { DetailRow } from './detail-row';
import { NameFields } from './name-fields';
import { OfficeOf, type OfficeChoice } from './office-of';
import { OutThereNote, useOutThere } from './out-there';
import { PublishBehind } from './publish-behind';
import { ShowAdded } from './show-added';
import { useRecordDraft } from './use-record-draft';

const NOTHING: Detail[] = [];

type Props = {
  opened: {
    id: string;
    version: number;
    body: PersonRecord;
    cards: CardOfRecord[];
    layouts: readonly LayoutName[];
    owned: Owned;
  };
  country: string;
  zone: string;
  audiences: Audience[];
  choice: OfficeChoice;
  mayDelete: boolean;
  seesPrivacy: boolean;
};

/** The record: every detail that is known, on which cards it goes out, and what came with a file and was not understood. */
export function RecordSheet({ opened, country, zone, audiences, choice, mayDelete, seesPrivacy }: Props) {
  const draft = useRecordDraft(opened);
  const { body } = draft;
  const [refused, setRefused] = useState<Problem | null>(null);
  const record = {
    ...draft,
    change(next: PersonRecord) {
      const problem = ownersRefuse({ record: body }, { record: next }, opened.owned, {});
      setRefused(problem);
      if (!problem) draft.change(next);
    },
  };
  const [open, setOpen] = useState<string | null>(null);
  const [of, setOf] = useState('');
  const put = (next: Detail) =>
    record.change({ ...body, details: body.details.map((detail) => (detail.id === next.id ? next : detail)) });
  const shownOn = (id: string) => opened.cards.filter((card) => card.shows.includes(id));
  const narrowed = opened.cards.find(({ id }) => id === of);
  const published = opened.cards.filter(({ state }) => state === 'published' || state === 'resting');
  const [settled, setSettled] = useState<ReadonlySet<string>>(() => new Set(opened.body.details.map(({ id }) => id)));
  const [shows, setShows] = useState(0);
  const [deleting, setDeleting] = useState(false);
  const out = useOutThere(opened.id);
  const [typedName, setTypedName] = useState<string | null>(null);
  const name = writtenName(typedName === null ? body.name : readName(typedName, body.name.kind));
  const typesName = name !== writtenName(body.name);
  const asked =
    record.state === 'saved'
      ? body.details.filter((detail) => !settled.has(detail.id) && privacyOf(detail, body) !== 'note')
      : NOTHING;

  return (
    <OwnedProvider value={opened.owned}>
      <header className="head">
        <div>
          <h1>{writtenName(body.name)}</h1>
          <div className="sub">
            <span>{RECORD.about}</span>
            <OfficeOf record={opened.id} choice={choice} />
            <span aria-live="polite">{record.state && FRAME[record.state]}</span>
            <span className="undo" hidden={!record.canUndo && !record.canRedo}>
              <button type="button" className="plain" disabled={!record.canUndo} onClick={record.undo}>
                {FRAME.undo}
              </button>
              <button type="button" className="plain" disabled={!record.canRedo} onClick={record.redo}>
                {FRAME.redo}
              </button>
            </span>
          </div>
        </div>
        <div className="acts">
          {seesPrivacy && (
            <Link className="btn btn-quiet" href={`/people/${opened.id}/public`}>
              {PRIVACY.aboutLink}
            </Link>
          )}
          <a className="btn btn-quiet" href={`/api/contacts?records=${opened.id}`} download title={EXPORT.recordNote}>
            {EXPORT.record}
          </a>
          {mayDelete && (
            <Button variant="quiet" onClick={() => setDeleting(true)}>
              {DELETION.person}
            </Button>
          )}
        </div>
      </header>
      {deleting && (
        <DeleteDialog what="person" id={opened.id} name={writtenName(body.name)} onClose={() => setDeleting(false)} />
      )}
      {refused && (
        <div className="banner" role="alert">
          <p>{wordingOf(refused)}</p>
          <Button variant="quiet" onClick={() => setRefused(null)}>
            {CARD.close}
          </Button>
        </div>
      )}
      {record.problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(record.problem)}</p>
          {record.problem.code === 'RECORD_CHANGED' ? (
            <>
              <Button variant="quiet" onClick={() => window.location.reload()}>
                {FRAME.showTheirs}
              </Button>
              <Button
                variant="quiet"
                onClick={() => record.problem?.code === 'RECORD_CHANGED' && record.putMineOver(record.problem.version)}
              >
                {FRAME.putMine}
              </Button>
            </>
          ) : (
            <Button variant="quiet" onClick={record.retry}>
              {FRAME.tryAgain}
            </Button>
          )}
        </div>
      )}
      {asked.length > 0 && published.length > 0 && (
        <ShowAdded
          recordId={opened.id}
          body={body}
          added={asked}
          cards={published}
          onDone={(cards) => {
            setSettled(new Set(body.details.map(({ id }) => id)));
            if (cards > 0) setShows(shows + 1);
          }}
        />
      )}
      <PublishBehind recordId={opened.id} at={`${record.version} ${shows}`} />
      <section className="record">
        <AddDetail
          country={country}
          zone={zone}
          name={writtenName(body.name)}
          known={body.details}
          onName={(typed) => record.change({ ...body, name: readName(typed, body.name.kind) })}
          onAdd={(details) => record.change({ ...body, details: [...body.details, ...details] })}
          onPicture={(detail) => {
            // Another picture in the place of the one before: what shows it goes on showing it.
            const before = body.details.find((other) => other.kind === detail.kind);
            const next = { ...detail, id: before?.id ?? detail.id };
            record.change({
              ...body,
              details: before
                ? body.details.flatMap((other) => (other === before ? next : other.kind === next.kind ? [] : other))
                : [...body.details, next],
            });
            if (next.kind === 'photo') setOpen(next.id);
          }}
        />
        <div className="wide">
          <table className="rows">
            <thead>
              <tr>
                <th className="label">{RECORD.column.detail}</th>
                <th>{RECORD.column.value}</th>
                <th>
                  {opened.cards.length > 1 ? (
                    <select
                      className="form-select form-select-sm"
                      aria-label={RECORD.column.goesOutOn}
                      value={of}
                      onChange={(event) => setOf(event.target.value)}
                    >
                      <option value="">{RECORD.column.goesOutOn}</option>
                      {opened.cards.map((card) => (
                        <option key={card.id} value={card.id}>
                          {RECORD.onCard(card.audience)}
                        </option>
                      ))}
                    </select>
                  ) : (
                    RECORD.column.goesOutOn
                  )}
                </th>
                <th>
                  <span className="visually-hidden">{FRAME.acts}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td className="label">{FRAME.name}</td>
                <td>
                  {opened.owned.name !== undefined ? (
                    <ClosedCell
                      row={0}
                      column={1}
                      value={writtenName(body.name)}
                      name={FRAME.name}
                      reason={opened.owned.name}
                    />
                  ) : (
                    <EditableCell
                      row={0}
                      column={1}
                      value={writtenName(body.name)}
                      name={FRAME.name}
                      onCommit={(typed) => {
                        const text = cleanLine(typed).text.slice(0, 200);
                        if (!text) return { code: 'NAME_MISSING' };
                        record.change({ ...body, name: readName(text, body.name.kind) });
                      }}
                      onTyping={setTypedName}
                    />
                  )}
                  <OutThereNote out={out} line={NAME_LINE} value={{ kind: 'name', text: name }} typing={typesName} />
                </td>
                <td>{RECORD.everyCard}</td>
                <td className="acts-cell">
                  <button
                    type="button"
                    className="plain"
                    aria-expanded={open === 'name'}
                    aria-label={RECORD.moreOf(FRAME.name)}
                    onClick={() => setOpen(open === 'name' ? null : 'name')}
                    hidden={opened.owned.name !== undefined}
                  >
                    {RECORD.more}
                  </button>
                </td>
              </tr>
              {open === 'name' && (
                <tr className="editor">
                  <td colSpan={4}>
                    <NameFields name={body.name} onChange={(name) => record.change({ ...body, name })} />
                  </td>
                </tr>
              )}
              {body.details.map((detail, at) => (
                <DetailRow
                  key={detail.id}
                  detail={detail}
                  row={at + 1}
                  person={writtenName(body.name)}
                  country={country}
                  on={shownOn(detail.id).map(({ audience }) => audience)}
                  of={opened.cards.length}
                  out={out}
                  dimmed={narrowed !== undefined && !narrowed.shows.includes(detail.id)}
                  open={open === detail.id}
                  onOpen={() => setOpen(open === detail.id ? null : detail.id)}
                  onChange={put}
                  onRemove={() =>
                    record.change({ ...body, details: body.details.filter(({ id }) => id !== detail.id) })
                  }
                />
              ))}
            </tbody>
          </table>
        </div>
        <CardsOfRecord recordId={opened.id} cards={opened.cards} audiences={audiences} layouts={opened.layouts} />
        {body.kept.length > 0 && (
          <div className="kept">
            <h2 className="caps">{RECORD.kept}</h2>
            <ul>
              {body.kept.map(({ property, why }, at) => {
                const { name, value } = keptInWords(property);
                return (
                  <li key={at} title={property.slice(0, 200)}>
                    {name}: <b>{value.slice(0, 120)}</b> <span className="also">{RECORD.keptWhy[why]}</span>
                  </li>
                );
              })}
            </ul>
          </div>
        )}
      </section>
    </OwnedProvider>
  );
}
